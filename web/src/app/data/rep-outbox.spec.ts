import { HttpErrorResponse } from '@angular/common/http';
import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import Dexie from 'dexie';
import type { Observable } from 'rxjs';
import { concat, last, of, Subject, take, throwError } from 'rxjs';
import type { PassageView, RepInput } from '@vivid-cue/contract';
import { RepOutbox } from './rep-outbox';
import { ScoreApi } from './score-api';
import { SessionStore } from './session-store';

const rep = (id: string): RepInput => ({
  id,
  at: '2027-03-10T12:00:00.000Z',
  bpm: 58,
  beatUnit: 'quarter',
  context: 'alone',
  isClean: true,
});
const offline = (): Observable<never> => throwError(() => new HttpErrorResponse({ status: 0 }));
const refused = (status: number): Observable<never> =>
  throwError(
    () =>
      new HttpErrorResponse({ status, error: { code: 'not-found', detail: 'This passage is not here.' } }),
  );

/** Waits for what is to become true, however long the machine takes. */
async function until(isSo: () => boolean): Promise<void> {
  while (!isSo()) await new Promise((done) => setTimeout(done, 5));
}

describe('RepOutbox', () => {
  let sent: string[];
  let answer: (id: string) => Observable<PassageView>;

  function open(studioId: string): RepOutbox {
    const instructor = signal({ studioId });
    TestBed.resetTestingModule();
    const logRep = (_passageId: string, { id }: RepInput): Observable<PassageView> => {
      sent.push(id);
      return answer(id);
    };
    // All of them or none: the first that is refused refuses all.
    const logReps = (_passageId: string, reps: readonly RepInput[]): Observable<PassageView> => {
      sent.push(reps.map(({ id }) => id).join('+'));
      return concat(...reps.map(({ id }) => answer(id))).pipe(last());
    };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        { provide: ScoreApi, useValue: { logRep, logReps } },
        { provide: SessionStore, useValue: { instructor } },
      ],
    });
    return TestBed.inject(RepOutbox);
  }

  beforeEach(async () => {
    TestBed.resetTestingModule();
    await Dexie.delete('vivid-cue-outbox');
    sent = [];
    answer = () => of({} as PassageView);
  });

  const inOrder = (): string[] => sent.flatMap((ids) => ids.split('+'));

  it('sends reps in the order they were played, those of a passage that wait in one request', async () => {
    const outbox = open('a');
    await Promise.all(['1', '2', '3'].map((id) => outbox.add('p', rep(id))));
    await outbox.flush();
    expect(inOrder()).toEqual(['1', '2', '3']);
    expect(outbox.waiting()).toEqual([]);
    answer = offline;
    for (const [passage, id] of [
      ['p', '4'],
      ['q', '5'],
      ['p', '6'],
    ] as const)
      await outbox.add(passage, rep(id));
    await outbox.flush();
    answer = () => of({} as PassageView);
    sent = [];
    await outbox.flush();
    expect(sent).toEqual(['4+6', '5']);
  });

  it('keeps them without a connection, says so, and sends them after a restart', async () => {
    answer = offline;
    const outbox = open('a');
    await outbox.add('p', rep('1'));
    await outbox.flush();
    expect(outbox.waiting().map((waiting) => waiting.rep.id)).toEqual(['1']);
    expect(outbox.trouble()).toContain('No connection');
    answer = () => of({} as PassageView);
    sent = [];
    const later = open('a');
    TestBed.tick();
    await until(() => sent.length === 1);
    await later.flush();
    expect(sent).toEqual(['1']);
    expect([later.waiting(), later.trouble()]).toEqual([[], null]);
  });

  for (const status of [400, 404, 409, 422])
    it(`keeps a rep refused with ${status} apart with its reason, and goes on with the next`, async () => {
      answer = (id) => (id === '1' ? refused(status) : of({} as PassageView));
      const outbox = open('a');
      await outbox.add('p', rep('1'));
      await outbox.add('p', rep('2'));
      await outbox.flush();
      // Of several that go together it is not known which one is refused: each goes by itself.
      expect(sent.slice(-2)).toEqual(['1', '2']);
      expect(outbox.waiting()).toEqual([]);
      expect(outbox.refused().map(({ rep: one, refusal }) => [one.id, refusal])).toEqual([
        ['1', 'This passage is not here.'],
      ]);
    });

  for (const status of [400, 404])
    it(`keeps for later what a ${status} answers that is not the server’s own, such as a proxy’s page`, async () => {
      answer = () => throwError(() => new HttpErrorResponse({ status, error: '<html>Not found</html>' }));
      const outbox = open('a');
      await outbox.add('p', rep('1'));
      await outbox.flush();
      expect(outbox.waiting().map((waiting) => waiting.rep.id)).toEqual(['1']);
      expect(outbox.refused()).toEqual([]);
    });

  it('sends a refused rep again under a new identifier, or lets it go', async () => {
    answer = (id) => (id === '1' || id === '2' ? refused(409) : of({} as PassageView));
    const outbox = open('a');
    await outbox.add('p', rep('1'));
    await outbox.add('p', rep('2'));
    await outbox.flush();
    await outbox.mend('1', 60);
    await outbox.flush();
    expect(sent.filter((ids) => !/^[12+]+$/u.test(ids)).length).toBe(1);
    expect(await outbox.withdraw('2')).toBeTrue();
    expect([outbox.waiting(), outbox.refused()]).toEqual([[], []]);
  });

  it('shows one list in two tabs: what one sends leaves the other with the passage it made', async () => {
    const answers = new Subject<PassageView>();
    answer = () => answers.pipe(take(1));
    const first = open('a');
    const other = TestBed.runInInjectionContext(() => new RepOutbox());
    const seen: string[] = [];
    other.answered$.subscribe(({ id }) => seen.push(id));
    TestBed.tick();
    await first.add('p', rep('1'));
    await until(() => other.waiting().length === 1);
    // The other tab wants to send as well, and must not.
    void other.flush();
    await until(() => sent.length === 1);
    answers.next({ id: 'p' } as PassageView);
    await until(() => other.waiting().length === 0);
    await other.flush();
    expect(seen).toEqual(['p']);
    expect(sent).toEqual(['1']);
    expect(first.waiting()).toEqual([]);
  });

  it('keeps a rep while the instructor is signed out', async () => {
    answer = () => refused(401);
    const outbox = open('a');
    await outbox.add('p', rep('1'));
    await outbox.flush();
    expect(outbox.waiting().length).toBe(1);
  });

  it('withdraws a rep that was not sent, and only such a one', async () => {
    answer = offline;
    const outbox = open('a');
    await outbox.add('p', rep('1'));
    await outbox.flush();
    expect(await outbox.withdraw('1')).toBeTrue();
    expect(await outbox.withdraw('1')).toBeFalse();
    expect(outbox.waiting()).toEqual([]);
  });

  it('withdraws a rep in the moment it is put in, whether or not the sender was quicker', async () => {
    const outbox = open('a');
    const added = outbox.add('p', rep('1'));
    const isWithdrawn = await outbox.withdraw('1');
    await added;
    await outbox.flush();
    expect(sent).toEqual(isWithdrawn ? [] : ['1']);
    expect(outbox.waiting()).toEqual([]);
  });

  it('never sends one studio’s reps as another', async () => {
    answer = offline;
    const first = open('a');
    await first.add('p', rep('1'));
    await first.flush();
    answer = () => of({} as PassageView);
    sent = [];
    const second = open('b');
    await second.flush();
    expect(sent).toEqual([]);
    await open('a').flush();
    expect(sent).toEqual(['1']);
  });
});
