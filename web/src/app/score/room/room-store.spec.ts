import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Subject, take, type Observable } from 'rxjs';
import type {
  FindingMarkView,
  PassagePageView,
  PassageView,
  RepView,
  ScoreRoomView,
} from '@vivid-cue/contract';
import { RepOutbox, type WaitingRep } from '../../data/rep-outbox';
import { ScoreApi } from '../../data/score-api';
import { SessionStore } from '../../data/session-store';
import { RoomStore } from './room-store';

const passage = (change: Partial<PassageView>): PassageView =>
  ({ id: 'a', version: 1, writes: 1, fromIndex: 0, endIndex: 4, name: 'first', ...change }) as PassageView;
const room = (passages: readonly PassageView[], marks: readonly FindingMarkView[] = []): ScoreRoomView =>
  ({ programPartId: 'p', passages, findingMarks: marks, cues: [], runs: [] }) as unknown as ScoreRoomView;
const mark = (key: string): FindingMarkView => ({ key, measure: '9', mark: 'confirmed' });

/** A server whose answers a spec gives when and in the order it likes. */
class SlowServer {
  private readonly answers = new Map<string, Subject<unknown>>();

  call<T>(name: string): Observable<T> {
    const answers = new Subject<unknown>();
    this.answers.set(name, answers);
    return (answers as Subject<T>).pipe(take(1));
  }

  answer(name: string, value: unknown): void {
    this.answers.get(name)?.next(value);
  }
}

describe('RoomStore', () => {
  let store: RoomStore;
  let server: SlowServer;
  let acknowledged: Subject<PassageView>;

  /** Lets everything run that has its answer. */
  const settle = (): Promise<void> => new Promise((done) => setTimeout(done));

  beforeEach(() => {
    server = new SlowServer();
    acknowledged = new Subject();
    const outbox = {
      waiting: signal<readonly WaitingRep[]>([]),
      refused: signal<readonly WaitingRep[]>([]),
      trouble: signal(null),
      answered$: acknowledged,
    };
    const api = {
      room: () => server.call('room'),
      passage: () => server.call('passage'),
    };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        RoomStore,
        { provide: RepOutbox, useValue: outbox },
        { provide: ScoreApi, useValue: api },
        { provide: SessionStore, useValue: { zone: signal('UTC') } },
      ],
    });
    store = TestBed.inject(RoomStore);
  });

  it('takes whole lists in the order in which they were wished, however late an answer is', async () => {
    store.show(room([]));
    store.run(server.call<readonly FindingMarkView[]>('one'), (marks) => store.setMarks(marks));
    store.run(server.call<readonly FindingMarkView[]>('two'), (marks) => store.setMarks(marks));
    await settle();
    // The second is not sent before the first is answered, so its answer cannot be the older one.
    server.answer('two', [mark('x'), mark('y')]);
    await settle();
    expect(store.room()?.findingMarks).toEqual([]);
    server.answer('one', [mark('x')]);
    await settle();
    server.answer('two', [mark('x'), mark('y')]);
    await settle();
    expect(store.room()?.findingMarks.map(({ key }) => key)).toEqual(['x', 'y']);
  });

  it('goes on with the next request when one fails', async () => {
    store.show(room([]));
    const broken = new Subject<readonly FindingMarkView[]>();
    store.run(broken, (marks) => store.setMarks(marks));
    store.run(server.call<readonly FindingMarkView[]>('next'), (marks) => store.setMarks(marks));
    broken.error(new Error('gone'));
    await settle();
    server.answer('next', [mark('x')]);
    await settle();
    expect(store.room()?.findingMarks.length).toBe(1);
  });

  it('never puts an older passage over a newer one: by version, then by how often its record was written', () => {
    store.show(room([passage({ writes: 4 })]));
    store.replace(passage({ writes: 3, name: 'late' }));
    expect(store.room()?.passages[0]?.name).toBe('first');
    store.replace(passage({ version: 2, writes: 1, name: 'changed' }));
    store.replace(passage({ version: 1, writes: 9, name: 'late' }));
    expect(store.room()?.passages[0]?.name).toBe('changed');
  });

  it('keeps a rep that was acknowledged while the room was on its way', async () => {
    store.show(room([passage({ writes: 1 })]));
    store.load('p');
    await settle();
    acknowledged.next(passage({ writes: 2, name: 'with the rep' }));
    server.answer('room', room([passage({ writes: 1 }), passage({ id: 'b', fromIndex: 4, endIndex: 8 })]));
    await settle();
    expect(store.room()?.passages.map(({ id, writes }) => [id, writes])).toEqual([
      ['a', 2],
      ['b', 1],
    ]);
  });

  it('keeps reps logged while the list of reps was on its way', async () => {
    store.show(room([passage({})]));
    store.openPassage('a');
    await settle();
    const logged = { id: 'new', bpm: 60, isClean: true } as RepView;
    (store as unknown as { storedReps: ReturnType<typeof signal<readonly RepView[]>> }).storedReps.set([
      logged,
    ]);
    server.answer('passage', {
      passage: passage({}),
      reps: [{ id: 'old', bpm: 58, isClean: true } as RepView],
    } satisfies PassagePageView);
    await settle();
    expect(store.reps().map(({ id }) => id)).toEqual(['new', 'old']);
  });
});
