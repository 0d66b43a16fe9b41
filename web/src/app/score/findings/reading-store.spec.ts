import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { of, Subject, type Observable } from 'rxjs';
import { readMusic, findingsOf, measureFacts, measurePrints, soloLine } from '@vivid-cue/core/reading';
import { readScore, digestScore } from '@vivid-cue/core/score';
import type { CueInput, CueView, FindingMarkView, ScoreRoomView } from '@vivid-cue/contract';
import { ScoreApi } from '../../data/score-api';
import {
  ScoreReaderClient,
  type ReaderNews,
  type ReadRequest,
  type ScoreReading,
} from '../../data/score-reader';
import { SessionStore } from '../../data/session-store';
import { RoomStore } from '../room/room-store';
import { RoomWords } from '../room/room-words';
import { ReadingStore, type ShownFinding } from './reading-store';

/** Four quarters a measure on C; measure 6 of 8 has a written-out accidental, so that there is something to find. */
const STUDY = `<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>Flute</part-name></score-part></part-list><part id="P1">${Array.from(
  { length: 8 },
  (_, n) =>
    `<measure number="${n + 1}">${n === 0 ? '<attributes><divisions>1</divisions><key><fifths>0</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time></attributes>' : ''}${[
      'C',
      'D',
      'E',
      'F',
    ]
      .map(
        (step, at) =>
          `<note><pitch><step>${step}</step>${n === 5 && at === 2 ? '<alter>-1</alter>' : ''}<octave>5</octave></pitch><duration>1</duration><type>quarter</type>${n === 5 && at === 2 ? '<accidental>flat</accidental>' : ''}</note>`,
      )
      .join('')}</measure>`,
).join('')}</part></score-partwise>`;

describe('ReadingStore', () => {
  let store: ReadingStore;
  let news: Subject<ReaderNews<ScoreReading>>;
  let asked: ReadRequest[];
  let marked: unknown[];
  let cued: CueInput[];
  let room: ReturnType<typeof signal<ScoreRoomView>>;
  let result: ScoreReading;
  const vocabulary = signal<'us' | 'uk'>('us');

  const settle = async (): Promise<void> => {
    for (let n = 0; n < 5; n += 1) {
      TestBed.tick();
      await new Promise((done) => setTimeout(done, 30));
    }
  };

  beforeEach(async () => {
    [news, asked, marked, cued] = [new Subject(), [], [], []];
    vocabulary.set('us');
    const read = readScore(new TextEncoder().encode(STUDY), { partId: null, instrument: null });
    if (!read.ok) throw new Error(read.issues[0]?.message);
    const score = read.value;
    const line = soloLine(score);
    const reading = readMusic(score, { instrument: 'flute', bpm: 96 }, () => undefined);
    result = {
      reading,
      findings: findingsOf(score, line, { reading, ornamentRules: [] }),
      prints: measurePrints(score, line),
      facts: measureFacts(score, line, { reading, bpm: 96 }),
      engraved: [],
      suggestions: [],
      figures: [],
    };
    room = signal({
      programPartId: 'p',
      student: { instrument: 'flute' },
      score: { id: 's', fileName: 'study.musicxml', digest: digestScore(score) },
      runs: [],
      cues: [],
      findingMarks: [],
      numbering: [],
    } as unknown as ScoreRoomView);
    const roomStore = {
      room,
      run: <T>(call: Observable<T>, done: (value: T) => void, takeBack: () => void) =>
        call.subscribe({ next: done, error: takeBack }),
      setMarks: (findingMarks: FindingMarkView[]) => room.update((now) => ({ ...now, findingMarks })),
      replaceCue: (cue: CueView) =>
        room.update((now) => ({ ...now, cues: [...now.cues.filter(({ id }) => id !== cue.id), cue] })),
      dropCue: (cueId: string) =>
        room.update((now) => ({ ...now, cues: now.cues.filter(({ id }) => id !== cueId) })),
    };
    const api = {
      markFinding: (_part: string, wish: FindingMarkView & { id: string }) => {
        marked.push([wish.key, wish.measure, wish.mark]);
        const others = room().findingMarks.filter(({ key }) => key !== wish.key);
        return of(wish.mark === null ? others : [...others, wish]);
      },
      addCue: (_part: string, input: CueInput) => {
        cued.push(input);
        return of({ ...input, version: 1 });
      },
    };
    const reader = {
      read: (request: ReadRequest) => {
        asked.push(request);
        return news;
      },
    };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        ReadingStore,
        RoomWords,
        { provide: RoomStore, useValue: roomStore },
        { provide: ScoreApi, useValue: api },
        { provide: ScoreReaderClient, useValue: reader },
        { provide: SessionStore, useValue: { vocabulary, zone: signal('UTC') } },
      ],
    });
    store = TestBed.inject(ReadingStore);
    store.request.set({ kind: 'read' } as unknown as ReadRequest);
    await settle();
  });

  const heard = async (): Promise<void> => {
    news.next({ result });
    await settle();
  };
  const surprise = (): ShownFinding => {
    const found = store.findings().find(({ places }) => places.includes(5));
    if (!found) throw new Error('Nothing was found in measure 6.');
    return found;
  };

  it('tells where the reading stands, and keeps the room usable where it fails', async () => {
    expect(store.status().kind).toBe('busy');
    news.next({ step: 'traps' });
    expect(store.status()).toEqual({ kind: 'busy', step: 'looking for traps' });
    news.next({ failure: 'This file cannot be read.' });
    await settle();
    expect(store.status()).toEqual({ kind: 'failed', message: 'This file cannot be read.' });
    expect(store.findings()).toEqual([]);
    store.again();
    await settle();
    expect(asked.length).toBe(2);
  });

  it('stops when asked, and hears nothing of it any more', async () => {
    store.stop();
    expect(store.status().kind).toBe('stopped');
    await heard();
    expect(store.result()).toBeNull();
  });

  it('says what was found in the words of the studio, with its place', async () => {
    await heard();
    expect(surprise().where).toMatch(/^m\. 6$/u);
    vocabulary.set('uk');
    expect(surprise().where).toBe('bar 6');
    const all = store
      .findings()
      .map(({ sentence, title }) => `${title} ${sentence}`)
      .join(' ');
    expect(all).not.toMatch(/\bmeasures?\b|\bquarter notes?\b/iu);
  });

  it('leaves out what the sheet does not ask for', async () => {
    await heard();
    expect(store.findings().some(({ places }) => places.includes(5))).toBeTrue();
    room.update((now) => ({ ...now, runs: [{ fromIndex: 0, endIndex: 4 }] }));
    expect(
      store.findings().every(({ places }) => places.length === 0 || places.some((n) => n < 4)),
    ).toBeTrue();
    expect(store.findings().some(({ places }) => places.length === 1 && places[0] === 5)).toBeFalse();
  });

  it('keeps and sets aside under the number of the measure, and takes that back', async () => {
    await heard();
    const found = surprise();
    store.chosenId.set(found.id);
    store.decide(found, 'dismissed');
    await settle();
    expect(marked).toEqual([[found.key, '6', 'dismissed']]);
    expect(store.findings().some(({ id }) => id === found.id)).toBeFalse();
    expect(store.setAside().map(({ id }) => id)).toEqual([found.id]);
    const aside = store.setAside()[0];
    if (aside) store.decide(aside, null);
    expect(surprise().mark).toBeNull();
    expect(store.setAside()).toEqual([]);
  });

  it('makes a cue at the place of a finding, which counts as kept then', async () => {
    await heard();
    const found = surprise();
    const made: CueView[] = [];
    store.makeCue(found, (cue) => made.push(cue));
    await settle();
    expect(cued.map(({ from, to, findingKey }) => [from, to, findingKey])).toEqual([['6', '6', found.key]]);
    expect(made.length).toBe(1);
    expect([surprise().hasCue, surprise().mark]).toEqual([true, 'confirmed']);
  });

  it('shows at once what is decided, keeps what came later when an answer is late, and takes back what was refused', async () => {
    await heard();
    const cueAnswer = new Subject<CueView>();
    const answers: Subject<FindingMarkView[]>[] = [];
    spyOn(TestBed.inject(ScoreApi), 'addCue').and.returnValue(cueAnswer);
    spyOn(TestBed.inject(ScoreApi), 'markFinding').and.callFake(() => {
      const late = new Subject<FindingMarkView[]>();
      answers.push(late);
      return late;
    });
    const found = surprise();
    store.chosenId.set(found.id);
    store.makeCue(found, () => undefined);
    expect([surprise().hasCue, surprise().mark]).toEqual([true, 'confirmed']);
    store.decide(found, 'dismissed');
    expect(store.setAside().map(({ id }) => id)).toEqual([found.id]);
    // The answer to the first decision knows nothing of the second.
    answers[0]?.next([{ ...found.kept, mark: 'confirmed' }]);
    expect(store.setAside().map(({ id }) => id)).toEqual([found.id]);
    // The cue is refused: it goes, the later decision stays.
    cueAnswer.error(new Error('refused'));
    expect(store.setAside().map(({ hasCue }) => hasCue)).toEqual([false]);
    answers[1]?.error(new Error('refused'));
    expect([surprise().hasCue, surprise().mark]).toEqual([false, 'confirmed']);
  });

  it('has the measure that decides where the instructor pinned one, by its music', async () => {
    await heard();
    store.pin(2);
    await settle();
    expect(store.deciding()?.places).toEqual([2]);
    expect(store.deciding()?.mark).toBe('pinned');
    store.pin(null);
    await settle();
    expect(store.deciding()?.mark ?? null).toBeNull();
    expect(marked.length).toBe(2);
  });
});
