import { HttpErrorResponse } from '@angular/common/http';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import fc from 'fast-check';
import { defer, of, throwError, type Observable } from 'rxjs';
import type { PassageView, RepInput } from '@vivid-cue/contract';
import { DeskApi } from './desk-api';
import { DeskOutbox, type DeskDeed } from './desk-outbox';

/** What becomes of a request: it is answered, never arrives, or is done while its answer is lost. */
type Fate = 'answered' | 'lost' | 'answer-lost';

const rep = (id: string, passageId = 'p'): DeskDeed => ({
  kind: 'rep',
  id,
  passageId,
  rep: {
    id,
    at: '2027-03-10T12:00:00.000Z',
    bpm: 58,
    beatUnit: 'quarter',
    context: 'alone',
    isClean: true,
  },
});

describe('DeskOutbox', () => {
  /** What the server keeps: every identifier once, as its unique keys see to it, in the order in which they came. */
  let kept: string[];
  let fates: Fate[];
  let arrivals: number;

  const request = (ids: readonly string[]): Observable<PassageView> =>
    defer(() => {
      const fate = fates.shift() ?? 'answered';
      if (fate === 'lost') return throwError(() => new HttpErrorResponse({ status: 0 }));
      arrivals += 1;
      for (const id of ids) if (!kept.includes(id)) kept.push(id);
      return fate === 'answered'
        ? of({} as PassageView)
        : throwError(() => new HttpErrorResponse({ status: 504 }));
    });

  /** Students are somebody else in every run, so that nothing of another is on the device. */
  let runs = 0;

  function tab(name = 'ilse'): DeskOutbox {
    const outbox = TestBed.runInInjectionContext(() => new DeskOutbox());
    outbox.open(`${name} ${runs}`);
    return outbox;
  }
  const waitingOf = (outbox: DeskOutbox, name = 'ilse'): Promise<number> =>
    outbox.database.deeds.where('studentId').equals(`${name} ${runs}`).count();

  beforeEach(() => {
    TestBed.resetTestingModule();
    runs += 1;
    [kept, fates, arrivals] = [[], [], 0];
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        {
          provide: DeskApi,
          useValue: {
            logReps: (_passage: string, reps: readonly RepInput[]) => request(reps.map(({ id }) => id)),
            takeBack: (repId: string) => request([`${repId} back`]),
            note: ({ id }: { readonly id: string }) => request([id]),
          },
        },
      ],
    });
  });

  it('keeps each deed exactly once and in its order, whatever requests and answers are lost, over two tabs', async () => {
    const plays = fc.asyncProperty(
      fc.array(fc.constantFrom<Fate>('answered', 'lost', 'answer-lost'), { maxLength: 12 }),
      fc.array(fc.boolean(), { minLength: 1, maxLength: 8 }),
      async (drawn, tabs) => {
        runs += 1;
        [kept, fates, arrivals] = [[], [...drawn], 0];
        const [left, right] = [tab(), tab()];
        for (const [n, isLeft] of tabs.entries()) await (isLeft ? left : right).add(rep(String(n)));
        for (let tries = 0; tries < 30 && (await waitingOf(left)) > 0; tries += 1)
          await Promise.all([left.flush(), right.flush()]);
        const wanted = tabs.map((_, n) => String(n));
        return kept.join() === wanted.join() && (await waitingOf(left)) === 0;
      },
    );
    await expectAsync(fc.assert(plays, { numRuns: 25 })).toBeResolved();
  });

  it('sends what follows each other together, and what takes back after what it takes back', async () => {
    fates = ['lost'];
    const outbox = tab();
    await outbox.add(rep('1'));
    await outbox.flush();
    await outbox.add(rep('2'));
    await outbox.add({ kind: 'taken-back', id: 'x', repId: '1', passageId: 'p' });
    await outbox.add(rep('3'));
    await outbox.add(rep('4', 'q'));
    await outbox.add({ kind: 'note', id: 'n', note: { id: 'n', passageId: null, text: 'hi', at: '' } });
    await outbox.flush();
    expect(kept).toEqual(['1', '2', '1 back', '3', '4', 'n']);
  });

  it('counts each rep once at every moment: what the server has is not waiting, and what is waiting it does not have', async () => {
    fates = Array.from({ length: 20 }, () => 'lost');
    const outbox = tab();
    for (const id of ['1', '2', '3']) await outbox.add(rep(id));
    await outbox.flush();
    fates = [];
    const moments: (readonly string[])[] = [];
    let answered = false;
    outbox.answered$.subscribe(() => (answered = true));
    const ids = (): readonly string[] => outbox.waiting().map(({ deed }) => deed.id);
    outbox.answered$.subscribe(() => moments.push(ids()));
    const watch = outbox.database.deeds.hook('deleting');
    watch.subscribe(() => moments.push(answered ? ids() : ['gone before it was counted']));
    await outbox.flush();
    expect(moments.length).toBeGreaterThan(3);
    expect(moments.every((waiting) => waiting.length === 0)).toBeTrue();
  });

  it('keeps another student’s deeds on the same device apart', async () => {
    fates = Array.from({ length: 20 }, () => 'lost');
    const ilse = tab('ilse');
    await ilse.add(rep('1'));
    await ilse.flush();
    fates = [];
    const piet = tab('piet');
    await piet.flush();
    expect([kept, await waitingOf(piet), await waitingOf(piet, 'piet')]).toEqual([[], 1, 0]);
  });

  it('takes a rep out that did not leave yet', async () => {
    fates = ['lost', 'lost', 'lost'];
    const outbox = tab();
    await outbox.add(rep('1'));
    await outbox.flush();
    expect(await outbox.withdraw('1')).toBeTrue();
    fates = [];
    await outbox.flush();
    expect([kept, arrivals]).toEqual([[], 0]);
  });
});
