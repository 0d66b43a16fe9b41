import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { Observable } from 'rxjs';
import { type Subscription } from 'rxjs';
import { Engraver, type EngraveAnswer, type EngraveRequest, type EngravedSheetNews } from './engraver';
import { WorkerTurns, type TurnRank } from './worker-turns';

/** A worker of which the spec says what it answers. */
class SpokenWorker extends EventTarget {
  readonly asked: unknown[] = [];

  postMessage(message: unknown): void {
    this.asked.push(message);
  }

  say(data: EngraveAnswer): void {
    this.dispatchEvent(new MessageEvent('message', { data }));
  }
}

describe('Engraver', () => {
  const part = { musicXml: '<score-partwise/>', partId: 'P1', numbers: null };
  let worker: SpokenWorker;
  let ranks: TurnRank[];
  let engraver: Engraver;

  beforeEach(() => {
    worker = new SpokenWorker();
    ranks = [];
    // A class as `new` wants one, which gives the worker in hand.
    spyOn(globalThis, 'Worker').and.callFake(function givesOurs() {
      return worker as unknown as Worker;
    } as unknown as (...given: unknown[]) => Worker);
    const run = <T>(work: () => Observable<T>, rank: TurnRank = 'read'): Observable<T> => {
      ranks.push(rank);
      return work();
    };
    TestBed.configureTestingModule({
      providers: [provideZonelessChangeDetection(), { provide: WorkerTurns, useValue: { run } }],
    });
    engraver = TestBed.inject(Engraver);
  });

  const requests = (): EngraveRequest[] =>
    worker.asked.filter(
      (one): one is EngraveRequest => typeof one === 'object' && one !== null && 'id' in one,
    );
  const untilAsked = async (count: number): Promise<void> => {
    for (let tries = 0; requests().length < count && tries < 200; tries += 1)
      await new Promise((done) => setTimeout(done, 10));
    expect(requests().length).toBe(count);
  };
  const line = (
    id: number,
    measureCount: number,
    ends: { readonly isFirst?: boolean; readonly isLast?: boolean; readonly isWhole?: boolean },
  ): EngraveAnswer => ({
    id,
    sheet: { svg: '<svg/>', measureCount, width: 800, height: 120 },
    glyphs: '',
    isFirst: false,
    isLast: false,
    isWhole: true,
    ...ends,
  });
  const engrave = (heard: EngravedSheetNews[]): { own: Subscription; ends: string[] } => {
    const ends: string[] = [];
    const own = engraver.engrave(part, 800).subscribe({
      next: (news) => heard.push(news),
      error: (error: Error) => ends.push(error.message),
      complete: () => ends.push('done'),
    });
    return { own, ends };
  };

  it('shows the first lines of a long piece before its score is read, and asks for the others after', async () => {
    const heard: EngravedSheetNews[] = [];
    const { ends } = engrave(heard);
    await untilAsked(1);
    const id = requests()[0]?.id ?? 0;
    expect(requests()[0]?.shown).toBeNull();
    worker.say(line(id, 4, { isFirst: true, isWhole: false }));
    worker.say(line(id, 5, { isLast: true, isWhole: false }));
    await untilAsked(2);
    expect(ranks).toEqual(['seen', 'read']);
    expect(requests()[1]?.shown).toEqual([4, 5]);
    expect(ends).toEqual([]);
    worker.say(line(requests()[1]?.id ?? 0, 6, { isLast: true }));
    expect(heard.map(({ sheet }) => sheet.measureCount)).toEqual([4, 5, 6]);
    expect(ends).toEqual(['done']);
  });

  it('is done with a short piece at once', async () => {
    const { ends } = engrave([]);
    await untilAsked(1);
    worker.say(line(requests()[0]?.id ?? 0, 8, { isFirst: true, isLast: true }));
    expect(ends).toEqual(['done']);
    expect(requests().length).toBe(1);
  });

  it('stops what nobody waits for, and takes no answer of it for another’s', async () => {
    const [left, heard]: EngravedSheetNews[][] = [[], []];
    const first = engrave(left ?? []);
    await untilAsked(1);
    first.own.unsubscribe();
    const id = requests()[0]?.id ?? 0;
    expect(worker.asked).toContain({ stop: id });
    engrave(heard ?? []);
    await untilAsked(2);
    worker.say(line(id, 3, { isFirst: true, isLast: true }));
    expect([left?.length, heard?.length]).toEqual([0, 0]);
  });

  it('says why there is no picture, and that the engine is gone to all who wait', async () => {
    const refused = engrave([]);
    await untilAsked(1);
    worker.say({ id: requests()[0]?.id ?? 0, failure: 'This score cannot be engraved.' });
    expect(refused.ends).toEqual(['This score cannot be engraved.']);
    const lost = engrave([]);
    await untilAsked(2);
    worker.dispatchEvent(new Event('error'));
    expect(lost.ends).toEqual(['The engraving engine could not be loaded; reload the page.']);
  });
});
