import { groupBy, upperMedian } from '../../base/index.js';
import type { AskedMusic } from '../follow/asked-notes.js';
import type { FollowedNote } from '../follow/follow.js';
import { isHeldUp, type Pause } from './pauses.js';
import { steadyLine, type LinePoint } from './steady-line.js';

/** How far from the pulse a note stands when it is played well; and how exactly it is heard, by how blurred its beginning is. Units: seconds */
const STRAYS = 0.01;
const HEARD = { exactly: 0.006, byBlur: 0.15, unclear: 0.06 };
/** A note that is hardly sure weighs at least so much. */
const LEAST = 0.05;
/** So far apart on the written clock are two runs for the pace, which goes on where the player jumps. Units: seconds */
const BETWEEN_RUNS = 1;

/** When a place of the written clock came in a run of a take. Units: seconds of the written clock in, of the take out */
export type Pulse = (run: number, clock: number) => number;

interface Place {
  readonly run: number;
  readonly clock: number;
  readonly note: FollowedNote | null;
  /** Whether time stood still, or jumped, before it. */
  readonly isBroken: boolean;
}

/**
 * The pulse of a take, by all notes together: one early note, or a beginning that is blurred, is not yet another tempo.
 * Units:  see Pulse
 */
export function pulseOf(music: AskedMusic, notes: readonly FollowedNote[], pauses: readonly Pause[]): Pulse {
  const runs = [...groupBy(notes, ({ run }) => run)];
  const places = runs.flatMap(([run, own]) => placesOf(music, { run, own, pauses }));
  const line = steadyLine(places.map(pointOf), upperMedian(notes.map(({ pace }) => pace)) ?? 1);
  const known = places.map(({ run, clock }, n) => {
    const { seconds = 0, pace = 1 } = line[n] ?? {};
    return { run, clock, seconds, pace };
  });
  const ofRun = groupBy(known, ({ run }) => run);
  return (run, clock) => {
    const own = ofRun.get(run) ?? [];
    const near = own.findLast((place) => place.clock <= clock + 1e-6) ?? own[0];
    return near ? near.seconds + (clock - near.clock) * near.pace : 0;
  };
}

interface RunWish {
  readonly run: number;
  readonly own: readonly FollowedNote[];
  readonly pauses: readonly Pause[];
}

/** The notes of a run, and the downbeats around them, along the written clock. */
function placesOf(music: AskedMusic, { run, own, pauses }: RunWish): Place[] {
  const asked = (note: FollowedNote | undefined): AskedMusic['notes'][number] | undefined =>
    music.notes[note?.asked ?? -1];
  const measures = music.measures.slice(asked(own[0])?.pass ?? 0, (asked(own.at(-1))?.pass ?? 0) + 1);
  const borders = [
    ...measures.map(({ clock }) => clock),
    ...measures.slice(-1).map(({ clock, lasts }) => clock + lasts),
  ];
  return [
    ...own.map((note, n): Place => {
      const before = own[n - 1];
      const isBroken = before !== undefined && isHeldUp(music, pauses, [before, note]);
      return { run, clock: asked(note)?.clock ?? 0, note, isBroken };
    }),
    ...borders.map((clock): Place => ({ run, clock, note: null, isBroken: false })),
  ].sort((a, b) => a.clock - b.clock || Number(a.note === null) - Number(b.note === null));
}

function pointOf({ run, clock, note, isBroken }: Place, n: number, places: readonly Place[]): LinePoint {
  const last = places[n - 1];
  const goesOn = last?.run === run;
  return {
    step: goesOn ? clock - last.clock : BETWEEN_RUNS,
    isBroken: isBroken || !goesOn,
    seen: note?.seconds ?? null,
    spread: note ? spreadOf(note) : STRAYS,
  };
}

function spreadOf({ blur, confidence }: FollowedNote): number {
  const heard = HEARD.exactly + HEARD.byBlur * (blur ?? HEARD.unclear);
  return Math.hypot(STRAYS, heard) / Math.sqrt(Math.max(LEAST, confidence));
}
