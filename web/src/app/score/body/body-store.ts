import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { v7 as newId } from 'uuid';
import type { AirPin, BoxMark } from '@vivid-cue/core/air';
import { lookOf } from '@vivid-cue/core/cue-kinds';
import {
  cueKindOf,
  isSignOf,
  type HandChoice,
  type HandPath,
  type HandPin,
  type HandSolver,
  type RuleAdvice,
} from '@vivid-cue/core/hands';
import { asQuarterBpm } from '@vivid-cue/core/music';
import { hasKnownNotes, measureIndexes, type Span } from '@vivid-cue/core/score';
import { breathCues, handCues, type SettledCue } from '@vivid-cue/core/settle';
import {
  PLAIN_BOOK,
  type CueChange,
  type CueInput,
  type CueView,
  type StudentAir,
} from '@vivid-cue/contract';
import { BodyReader, type BodyResult } from '../../data/body-reader';
import { troubleOf } from '../../data/problem';
import { ScoreApi } from '../../data/score-api';
import { readStored } from '../../data/stored-json';
import type { ScoreSign } from '../engraving/score-marks';
import { LayerStore } from '../findings/layers';
import { cueAsWritten } from '../room/cue-as-written';
import { RoomStore } from '../room/room-store';
import { signPlace } from '../engraving/sign-place';
import { ScoreFile } from '../score-file';

/** Air and hands of the open score: what is asked, what comes of it, and what is written in. */
@Injectable()
export class BodyStore {
  private readonly reader = inject(BodyReader);
  private readonly api = inject(ScoreApi);
  private readonly room = inject(RoomStore);
  private readonly file = inject(ScoreFile);
  private readonly layers = inject(LayerStore);

  /** Whether air and hands are looked at: only then anything is worked out and offered. */
  readonly isOpen = signal(false);
  /** What is looked at; null for all that is asked. */
  readonly wished = signal<Span | null>(null);
  /** The tempo beside the target. Units: percent */
  readonly percent = signal(100);
  readonly hasValve = signal(false);
  readonly leads = signal<'R' | 'L'>('R');
  readonly school = signal<'doubles' | 'alternate'>('doubles');
  readonly result = signal<BodyResult | null>(null);
  readonly failure = signal<string | null>(null);
  private readonly tried = signal<readonly HandPin[]>([]);
  private readonly never = signal<readonly number[]>([]);
  private readonly must = signal<readonly number[]>([]);
  private asked = 0;

  private readonly key = computed(() => `vivid-cue-never:${this.room.room()?.programPartId ?? ''}`);
  readonly air = computed(() => this.room.room()?.air ?? { soft: null, loud: null, on: null });
  readonly span = computed((): Span | null => {
    const wished = this.wished();
    if (wished) return wished;
    const room = this.room.room();
    const count = room?.score?.digest.measures.length ?? 0;
    return room?.runs[0] ?? (count > 0 ? { fromIndex: 0, endIndex: count } : null);
  });
  /** Whether there are measures to work with. */
  readonly isPossible = computed(() => (this.room.room()?.score?.digest.measures.length ?? 0) > 0);
  /** Measures of the stretch whose notes are not known: breaths are marked on their boxes. */
  readonly boxes = computed(() => {
    const [span, measures] = [this.span(), this.room.room()?.score?.digest.measures ?? []];
    const own = span ? measures.slice(span.fromIndex, span.endIndex) : [];
    return own.every(hasKnownNotes) ? [] : own;
  });
  /** What was marked on boxes. */
  readonly marks = computed((): readonly BoxMark[] =>
    (this.room.room()?.cues ?? []).flatMap(({ kind, note, sign, endIndex, status }) => {
      const beats = kind === 'breath' && note === null ? beatsOfSign(sign) : null;
      return beats === null
        ? []
        : [{ index: endIndex - 1, beats, isMust: beats === 0 && status === 'settled' }];
    }),
  );
  private readonly settled = computed(() =>
    (this.room.room()?.cues ?? []).filter(({ note, status }) => note !== null && status === 'settled'),
  );
  private readonly breathPins = computed((): readonly AirPin[] => [
    ...this.must().map((at) => ({ at, kind: 'must' as const })),
    ...this.never().map((at) => ({ at, kind: 'never' as const })),
  ]);
  readonly pinnedNotes = computed(() => this.tried());

  constructor() {
    effect(() => {
      const key = this.key();
      untracked(() => this.never.set(readStored<number[]>(key) ?? []));
    });
    effect(() => {
      const [music, span] = [this.file.music(), this.span()];
      if (!music || !span || !this.isPossible() || !this.isOpen()) return;
      const target = this.file.targetQuarterBpm();
      const wish = {
        span,
        quarterBpm: target === null ? null : asQuarterBpm((target * this.percent()) / 100),
        air: this.air(),
        breathPins: this.breathPins(),
        boxes: this.marks(),
        handPins: this.tried(),
        hasValve: this.hasValve(),
        leads: this.leads(),
        school: this.school(),
        book: this.room.room()?.book ?? PLAIN_BOOK,
      };
      this.asked += 1;
      const turn = this.asked;
      void this.reader.read(music, wish).then(
        (result) => {
          if (turn !== this.asked) return;
          this.result.set(result);
          this.failure.set(null);
        },
        (error: unknown) => turn === this.asked && this.failure.set(troubleOf(error).message),
      );
    });
    effect(() => {
      const signs = this.offered();
      untracked(() => this.layers.offered.set(signs));
    });
    this.pinFromCues();
  }

  /** Where a breath must be taken, must not, or may: each press goes on to the next. */
  turnBreath(at: number, kind: AirPin['kind']): void {
    const list = kind === 'must' ? this.must : this.never;
    const other = kind === 'must' ? this.never : this.must;
    list.update((all) => (all.includes(at) ? all.filter((one) => one !== at) : [...all, at]));
    other.update((all) => all.filter((one) => one !== at));
    localStorage.setItem(this.key(), JSON.stringify(this.never()));
  }

  /** Every place may be breathed at again. */
  allowAll(): void {
    this.never.set([]);
    localStorage.removeItem(this.key());
  }

  isPinnedBreath(at: number): boolean {
    return this.must().includes(at);
  }

  /** Places that were ruled out. Units: quarters from the beginning */
  readonly ruledOut = computed(() => this.never());

  /** The next of a note's choices, which then holds. */
  nextChoice({ measureIndex, ordinal, choice, alternatives }: HandChoice): void {
    const [next] = alternatives;
    if (next === undefined) return;
    const order = [choice, ...alternatives].sort();
    // A bow and a string are settled at one note.
    const others = this.tried().filter(
      (pin) => pin.measureIndex !== measureIndex || pin.ordinal !== ordinal || !order.includes(pin.choice),
    );
    const after = order[(order.indexOf(choice) + 1) % order.length] ?? next;
    this.tried.set([...others, { measureIndex, ordinal, choice: after }]);
  }

  forget(): void {
    this.tried.set([]);
    this.pinFromCues();
  }

  keepAir(air: StudentAir): void {
    const room = this.room.room();
    if (!room) return;
    this.room.run(this.api.keepAir(room.student.id, air), () => {
      const now = this.room.room();
      // The student's row moved on with it.
      if (now)
        this.room.room.set({ ...now, air, student: { ...now.student, version: now.student.version + 1 } });
    });
  }

  /** Goes on to the next of what may be marked at the end of a box: a breath that is possible, one that is taken, none. */
  turnBox(index: number): void {
    const cue = this.boxCue(index);
    if (!cue) this.mark(index, { sign: BREATH, text: 'A breath is possible', status: 'proposed' });
    else if (cue.sign === BREATH && cue.status !== 'settled')
      this.remark(cue, { text: 'Breathe here', status: 'settled' });
    else this.unmark(cue);
  }

  /** One more beat of rest at the end of a box, up to the whole of it, and then none. */
  turnRest(index: number, most: number): void {
    const cue = this.boxCue(index);
    const beats = cue ? (beatsOfSign(cue.sign) ?? 0) + 1 : 1;
    if (cue && beats > most) this.unmark(cue);
    else {
      const told = {
        sign: `rest ${beats}`,
        text: `Rest of ${beats} ${beats === 1 ? 'beat' : 'beats'} at the end`,
        status: 'settled' as const,
      };
      if (cue) this.remark(cue, told);
      else this.mark(index, told);
    }
  }

  /** Places on boxes that the plan chose and that are not settled yet. */
  readonly toSettle = computed(() => {
    const chosen = new Set(
      (this.result()?.breaths?.plan.breaths ?? []).map(({ place }) => place.measureIndex),
    );
    return this.boxes().length === 0
      ? []
      : (this.room.room()?.cues ?? []).filter(
          ({ kind, note, sign, status, endIndex }) =>
            kind === 'breath' &&
            note === null &&
            sign === BREATH &&
            status === 'proposed' &&
            chosen.has(endIndex - 1),
        );
  });

  settleBoxes(): void {
    for (const cue of this.toSettle()) this.remark(cue, { text: 'Breathe here', status: 'settled' });
  }

  private boxCue(index: number): CueView | undefined {
    return (this.room.room()?.cues ?? []).find(
      ({ kind, note, sign, endIndex }) =>
        kind === 'breath' && note === null && endIndex - 1 === index && beatsOfSign(sign) !== null,
    );
  }

  private mark(index: number, told: Pick<CueInput, 'sign' | 'text' | 'status'>): void {
    const number = this.room.room()?.score?.digest.measures[index]?.number;
    if (number === undefined) return;
    const place = { from: number, to: number, note: null };
    this.room.addCues([{ id: newId(), kind: 'breath', ...place, ...told, findingKey: null }]);
  }

  private remark(cue: CueView, told: Partial<CueChange>): void {
    this.room.run(this.api.changeCue(cue, { ...cueAsWritten(cue), ...told }), (changed) =>
      this.room.replaceCue(changed),
    );
  }

  private unmark(cue: CueView): void {
    this.room.run(this.api.removeCue(cue.id), () => this.room.dropCue(cue.id));
  }

  /** How many cues would be written. */
  readonly toWrite = computed(() => [...this.breathCues(), ...this.handCues()]);

  /** The ways of the hands that there are: for strings the bow, and the left hand. */
  readonly ways = computed(() => {
    const result = this.result();
    return result ? [result.hands, result.strings].flatMap((way) => way ?? []) : [];
  });

  readonly breathCues = computed((): readonly CueInput[] => {
    const breaths = this.boxes().length === 0 ? this.result()?.breaths : null;
    return breaths ? breathCues(breaths.plan).flatMap((cue) => this.cueAt(cue)) : [];
  });
  readonly handCues = computed((): readonly CueInput[] => {
    return this.ways().flatMap((way) => this.cuesOfWay(way));
  });

  /** The cues that a way of the hands becomes: none where one of their kind stands already. */
  cuesOfWay({ solver, path }: { readonly solver: HandSolver; readonly path: HandPath }): CueInput[] {
    return handCues(solver, path).flatMap((cue) => this.cueAt(cue));
  }

  /** The cues that a piece of advice becomes: one at each place. */
  adviceCues({ rule, places }: RuleAdvice): readonly CueInput[] {
    return places.flatMap(({ measureIndex, ordinal }) =>
      this.cueAt({
        ...{ kind: rule.kind, measureIndex, note: ordinal },
        ...{ sign: '', text: rule.advice.slice(0, 160), reason: '' },
      }),
    );
  }

  /** Nothing where a cue of its kind stands at the note already. */
  private cueAt({ measureIndex, ...cue }: SettledCue): CueInput[] {
    const number = this.room.room()?.score?.digest.measures[measureIndex]?.number;
    const isThere = (this.room.room()?.cues ?? []).some(
      (one) => one.kind === cue.kind && one.fromIndex === measureIndex && one.note === cue.note,
    );
    if (number === undefined || isThere) return [];
    const span = { from: number, to: number };
    return [{ id: newId(), ...cue, ...span, status: 'settled', findingKey: null, author: 'solver' }];
  }

  /** What is drawn while the panel is open. */
  private readonly offered = computed((): ReadonlyMap<number, readonly ScoreSign[]> => {
    const signs = new Map<number, ScoreSign[]>();
    if (!this.isOpen()) return signs;
    const indexes = measureIndexes(this.room.room()?.score?.digest.measures ?? []);
    for (const { from, note = null, sign = '', kind } of this.toWrite()) {
      const index = indexes.get(from);
      if (index === undefined || sign === '') continue;
      const own = signs.get(index) ?? [];
      const look = lookOf(kind, this.room.room()?.book.looks ?? []);
      signs.set(index, [...own, { note, text: sign, place: signPlace(kind), look, isOffered: true }]);
    }
    return signs;
  });

  /** Cues that are settled hold: what was written in is what the hands do. */
  private pinFromCues(): void {
    const pins = untracked(this.ways).flatMap(({ solver, path }) =>
      path.notes.flatMap(({ measureIndex, ordinal, choice, alternatives }) => {
        const kind = cueKindOf(solver);
        const cue = this.settled().find(
          (one) => one.kind === kind && one.fromIndex === measureIndex && one.note === ordinal,
        );
        const own = cue && [choice, ...alternatives].find((one) => isSignOf(solver, one, cue.sign));
        return own === undefined ? [] : [{ measureIndex, ordinal, choice: own }];
      }),
    );
    if (untracked(this.result)) this.tried.set(pins);
  }
}

/** A breath, as it stands at a box. */
const BREATH = '’';

/** What a sign at a box means: 0 for a breath, else beats of rest; null for another sign. */
function beatsOfSign(sign: string): number | null {
  if (sign === BREATH) return 0;
  const rest = /^rest (\d{1,2})$/u.exec(sign);
  return rest ? Number(rest[1]) : null;
}
