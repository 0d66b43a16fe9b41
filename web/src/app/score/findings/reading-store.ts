import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { v7 as newId } from 'uuid';
import { from, of, Subject, switchMap, takeUntil } from 'rxjs';
import { cueOfFinding } from '@vivid-cue/core/cues';
import { measureSign, measuresText } from '@vivid-cue/core/music';
import { matchMarks, pinKey, withPin, type Finding } from '@vivid-cue/core/reading';
import { inRuns } from '@vivid-cue/core/score';
import { PLAIN_CUE, type CueView, type FindingMarkView } from '@vivid-cue/contract';
import { ScoreApi } from '../../data/score-api';
import {
  ScoreReaderClient,
  type ReaderNews,
  type ReadRequest,
  type ScoreReading,
} from '../../data/score-reader';
import { SessionStore } from '../../data/session-store';
import { nextFrame } from '../../ui/frames';
import { RoomStore } from '../room/room-store';
import { RoomWords } from '../room/room-words';

/** A finding with what the instructor decided about it. */
export interface ShownFinding extends Finding {
  readonly mark: FindingMarkView['mark'] | null;
  /** The key and number under which the decision is kept: those of the time it was made. */
  readonly kept: { readonly key: string; readonly measure: string };
  readonly hasCue: boolean;
  readonly where: string;
}

/** A decision about a finding; null takes it back. */
type Decision = Omit<FindingMarkView, 'mark'> & { readonly mark: FindingMarkView['mark'] | null };

/** Marks after one more decision. Shape: one mark for a finding at a measure, and one pin in a piece, as the server keeps them */
function withDecision(
  marks: readonly FindingMarkView[],
  { key, measure, mark }: Decision,
): readonly FindingMarkView[] {
  const others = marks.filter(
    (one) => !(one.key === key && one.measure === measure) && !(mark === 'pinned' && one.mark === 'pinned'),
  );
  return mark === null ? others : [...others, { key, measure, mark }];
}

/** Where the reading stands. */
export type ReadingStatus =
  | { readonly kind: 'waiting' | 'ready' | 'stopped' }
  | { readonly kind: 'busy'; readonly step: string }
  | { readonly kind: 'failed'; readonly message: string };

const STEP_TEXTS: Readonly<Record<string, string>> = {
  opening: 'opening the file',
  counting: 'counting signs and notes',
  demands: 'weighing what each measure asks',
  repeats: 'looking for music that comes back',
  traps: 'looking for traps',
  findings: 'writing down what was found',
};

async function placed(): Promise<void> {
  await nextFrame();
  await nextFrame();
}

/** What was read in the open score, what was decided about it, and which finding is looked at. */
@Injectable()
export class ReadingStore {
  private readonly reader = inject(ScoreReaderClient);
  private readonly api = inject(ScoreApi);
  private readonly room = inject(RoomStore);
  private readonly session = inject(SessionStore);
  private readonly words = inject(RoomWords);
  private readonly stop$ = new Subject<void>();

  readonly request = signal<ReadRequest | null>(null);
  readonly status = signal<ReadingStatus>({ kind: 'waiting' });
  readonly result = signal<ScoreReading | null>(null);
  readonly chosenId = signal<string | null>(null);

  /** The same object as long as file and numbering are the same, whatever else changes in the room. */
  private readonly digest = computed(() => this.room.room()?.score?.digest ?? null);
  private readonly numberOf = computed(() => {
    const measures = this.digest()?.measures ?? [];
    return (index: number): string => measures[index]?.number ?? '';
  });
  private readonly runs = computed(() => this.room.room()?.runs ?? []);
  /** What was decided and is not answered yet, in its order: it shows at once. */
  private readonly unanswered = signal<readonly Decision[]>([]);
  private readonly marks = computed(() =>
    this.unanswered().reduce(withDecision, this.room.room()?.findingMarks ?? []),
  );
  private readonly cues = computed(() => this.room.room()?.cues ?? []);
  private readonly pinned = computed(() => this.marks().find(({ mark }) => mark === 'pinned') ?? null);
  /** The findings of the asked measures in the room's words, the most important first. */
  private readonly worded = computed(() => {
    const result = this.result();
    if (!result) return [];
    const runs = this.runs();
    const { prints, facts } = result;
    const found = { pin: this.pinned(), prints, facts, numberOf: this.numberOf() };
    return withPin(result.findings, found)
      .filter(({ places }) => places.length === 0 || places.some((index) => inRuns(runs, index)))
      .map((finding) => ({
        ...finding,
        title: this.spoken(finding.title),
        sentence: this.spoken(finding.sentence),
        where: this.whereText(finding),
      }));
  });
  /** The same with what was decided about each. */
  private readonly all = computed((): readonly ShownFinding[] => {
    const numberOf = this.numberOf();
    const marks = matchMarks(this.worded(), this.marks(), numberOf);
    const cued = new Set(this.cues().map(({ findingKey }) => findingKey));
    return this.worded().map((finding) => {
      const mark = marks.get(finding.id);
      return {
        ...finding,
        mark: mark?.mark ?? null,
        kept: { key: finding.key, measure: mark?.measure ?? numberOf(finding.places[0] ?? 0) },
        hasCue: cued.has(finding.key),
      };
    });
  });
  readonly findings = computed(() => this.all().filter(({ mark }) => mark !== 'dismissed'));
  readonly setAside = computed(() => this.all().filter(({ mark }) => mark === 'dismissed'));
  readonly chosen = computed(() => this.all().find(({ id }) => id === this.chosenId()) ?? null);
  readonly deciding = computed(() => this.findings().find(({ kind }) => kind === 'deciding') ?? null);

  constructor() {
    toObservable(this.request)
      .pipe(
        switchMap((request) => {
          if (!request) return of(null);
          this.status.set({ kind: 'busy', step: STEP_TEXTS['opening'] ?? '' });
          // The music that is looked at asks for its turn once the page has laid it a place: it goes first.
          return from(placed()).pipe(
            switchMap(() => this.reader.read(request)),
            takeUntil(this.stop$),
          );
        }),
        takeUntilDestroyed(),
      )
      .subscribe((news) => this.hear(news));
    // A finding that is gone is not looked at any more.
    effect(() => {
      const chosen = this.chosen();
      if (!chosen && this.result()) untracked(() => this.chosenId.set(null));
    });
  }

  /** Stops the reading; the score stays usable without it. */
  stop(): void {
    this.stop$.next();
    this.status.set({ kind: 'stopped' });
  }

  /** Reads once more. */
  again(): void {
    this.request.update((request) => request && { ...request });
  }

  /** Keeps a finding, sets it aside, or takes that back. */
  decide({ kept }: Pick<ShownFinding, 'kept'>, mark: 'confirmed' | 'dismissed' | null): void {
    this.send({ ...kept, mark });
  }

  /** Pins a measure as the one that decides; null takes the pin back. */
  pin(index: number | null): void {
    const pinned = this.pinned();
    if (index === null) {
      if (pinned) this.send({ key: pinned.key, measure: pinned.measure, mark: null });
      return;
    }
    const print = this.result()?.prints[index];
    if (print !== undefined)
      this.send({ key: pinKey(print), measure: this.numberOf()(index), mark: 'pinned' });
  }

  /** Turns a finding into a cue, which shows at once; the finding counts as kept then. */
  makeCue(finding: ShownFinding, done: (cue: CueView) => void): void {
    const partId = this.room.room()?.programPartId;
    const measures = this.room.room()?.score?.digest.measures ?? [];
    if (partId === undefined) return;
    const first = finding.places[0] ?? this.runs()[0]?.fromIndex ?? 0;
    const isRun = finding.places.every((index, n) => index === first + n);
    const last = isRun ? (finding.places.at(-1) ?? first) : first;
    const { kind, text } = cueOfFinding(finding);
    const input = {
      id: newId(),
      kind,
      text,
      from: measures[first]?.number ?? '',
      to: measures[last]?.number ?? '',
      findingKey: finding.key,
    };
    this.room.replaceCue({
      ...PLAIN_CUE,
      author: 'reading',
      ...input,
      fromIndex: first,
      endIndex: last + 1,
      version: 0,
    });
    const isKept = finding.mark === null;
    this.room.run(
      this.api.addCue(partId, input),
      (cue) => {
        this.room.replaceCue(cue);
        done(cue);
      },
      () => {
        this.room.dropCue(input.id);
        // What was decided since then stays.
        const now = this.all().find(({ id }) => id === finding.id);
        if (isKept && now?.mark === 'confirmed') this.decide(now, null);
      },
    );
    if (isKept) this.decide(finding, 'confirmed');
  }

  private send(decision: Decision): void {
    const partId = this.room.room()?.programPartId;
    if (partId === undefined) return;
    this.unanswered.update((all) => [...all, decision]);
    const isAnswered = (): void => this.unanswered.update((all) => all.filter((one) => one !== decision));
    this.room.run(
      this.api.markFinding(partId, { id: newId(), ...decision }),
      (marks) => {
        this.room.setMarks(marks);
        isAnswered();
      },
      isAnswered,
    );
  }

  private hear(news: ReaderNews<ScoreReading> | null): void {
    if (news === null) {
      this.result.set(null);
      this.status.set({ kind: 'waiting' });
    } else if ('step' in news) {
      this.status.set({ kind: 'busy', step: STEP_TEXTS[news.step] ?? '' });
    } else if ('failure' in news) {
      this.result.set(null);
      this.status.set({ kind: 'failed', message: news.failure });
    } else {
      this.result.set(news.result);
      this.status.set({ kind: 'ready' });
    }
  }

  private spoken(text: string): string {
    return this.words.say(text);
  }

  private whereText({ places, pair }: Finding): string {
    const numberOf = this.numberOf();
    const vocabulary = this.session.vocabulary();
    const [first, last] = [places[0], places.at(-1)];
    if (first === undefined || last === undefined) return 'the whole';
    if (pair && places.length === 1) {
      const model = pair.a.fromIndex + first - pair.b.fromIndex;
      return `${measuresText(numberOf(model), numberOf(model), vocabulary)} ~ ${numberOf(first)}`;
    }
    if (last - first + 1 === places.length) return measuresText(numberOf(first), numberOf(last), vocabulary);
    const shown = places.slice(0, 4).map((index) => numberOf(index));
    return `${measureSign(places.length, vocabulary)} ${shown.join(' ')}${places.length > 4 ? ' …' : ''}`;
  }
}
