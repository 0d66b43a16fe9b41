import { groupBy } from '../../base/index.js';
import type { AskedMeasure, AskedMusic } from '../follow/asked-notes.js';
import type { FollowedNote, FollowedTake } from '../follow/follow.js';
import { isHeldUp, type Pause } from './pauses.js';
import { pulseOf, type Pulse } from './pulse.js';

/**
 * A measure as it was played.
 * Shape:  `pass` its place in the order of playing; null tempo where the alignment is not sure
 * Units:  seconds from the beginning of the take; quarter notes a minute
 */
export interface TakeMeasure {
  readonly pass: number;
  readonly run: number;
  readonly number: string;
  readonly measureIndex: number;
  readonly start: number;
  readonly end: number;
  readonly quarterBpm: number | null;
  readonly confidence: number;
}

/**
 * The measures of a take with their tempo, in the order they were played.
 * Shape:  a measure that was played twice stands twice; one of which nothing was heard is left out
 * Units:  see TakeMeasure
 * Source: the design: quarters × 60 / seconds between aligned starts; pauses are no tempo
 */
export function takeMeasures(
  music: AskedMusic,
  { notes }: Pick<FollowedTake, 'notes'>,
  pauses: readonly Pause[],
): TakeMeasure[] {
  const pulse = pulseOf(music, notes, pauses);
  const end = notes.at(-1);
  return [...groupBy(notes, ({ run }) => run)].flatMap(([run, own]) =>
    measuresOf(music, { run, own, pauses, pulse, isLast: run === end?.run }),
  );
}

interface RunNotes {
  readonly run: number;
  readonly own: readonly FollowedNote[];
  readonly pauses: readonly Pause[];
  readonly pulse: Pulse;
  /** Whether the take ends with it. */
  readonly isLast: boolean;
}

function measuresOf(music: AskedMusic, { run, own, pauses, pulse, isLast }: RunNotes): TakeMeasure[] {
  const [first, last] = [own[0], own.at(-1)];
  if (!first || !last) return [];
  const passOf = ({ asked }: FollowedNote): number => music.notes[asked]?.pass ?? 0;
  const timeOf = (clock: number): number => pulse(run, clock);
  const passes = music.measures.slice(passOf(first), (isLast ? endPass(music, last) : passOf(last)) + 1);
  return passes.map((measure, n): TakeMeasure => {
    const start = timeOf(measure.clock);
    const end = timeOf(measure.clock + measure.lasts);
    const heard = heardStretch(music, { own, pauses }, measure);
    const confidence = sureness(music, own, measure);
    return {
      ...{
        pass: passOf(first) + n,
        run,
        number: measure.number,
        measureIndex: measure.measureIndex,
        start,
        end,
      },
      quarterBpm:
        heard && confidence >= LEAST
          ? (measure.quarters * 60 * (heard[1] - heard[0])) /
            (measure.lasts * Math.max(0.05, timeOf(heard[1]) - timeOf(heard[0])))
          : null,
      confidence,
    };
  });
}

/** The measure in which a note ends as it is written: it may be tied on from the one in which it begins. */
function endPass({ notes, measures }: AskedMusic, { asked }: FollowedNote): number {
  const note = notes[asked];
  const end = (note?.at ?? 0) + (note?.length ?? 0) - 1e-6;
  return Math.max(
    note?.pass ?? 0,
    measures.findLastIndex(({ at }) => at <= end),
  );
}

/** Below this a measure has no tempo. */
const LEAST = 0.2;
/** Where the end of a measure is not heard, so much of it tells its tempo, at least. Shape: share */
const TELLS = 0.45;

/**
 * The longest stretch of a measure of which the tempo can be heard, without a stop: to its end where the next note of the
 * run comes, else to its last note; how long a last note is held says nothing of the tempo.
 * Shape:  null where too little is heard
 * Units:  seconds of the written clock
 */
function heardStretch(
  music: AskedMusic,
  { own, pauses }: Pick<RunNotes, 'own' | 'pauses'>,
  { clock, lasts }: AskedMeasure,
): readonly [from: number, to: number] | null {
  const end = clock + lasts;
  let best: readonly [from: number, to: number] = [0, 0];
  let from = clock;
  for (const [n, note] of own.entries()) {
    const at = music.notes[note.asked]?.clock ?? 0;
    const next = own[n + 1];
    const isStop = !next || isHeldUp(music, pauses, [note, next]);
    const to = Math.min(end, at);
    if (to - from > best[1] - best[0]) best = [from, to];
    if (isStop) from = Math.max(clock, next ? (music.notes[next.asked]?.clock ?? 0) : end);
  }
  return best[1] - best[0] >= TELLS * lasts ? best : null;
}

/** How sure the two ends of a measure are: by the notes at them, or beside them. */
function sureness(
  { notes }: AskedMusic,
  own: readonly FollowedNote[],
  { clock, lasts }: AskedMeasure,
): number {
  const near = (at: number): number => {
    let [best, found] = [Infinity, 0];
    for (const { asked, confidence } of own) {
      const far = Math.abs((notes[asked]?.clock ?? 0) - at);
      if (far < best) [best, found] = [far, confidence];
    }
    // A place without a note of its own is less sure the farther its neighbours are.
    return found * (best < 1e-6 ? 1 : 1 / (1 + best / 2));
  };
  return Math.min(near(clock), near(clock + lasts));
}
