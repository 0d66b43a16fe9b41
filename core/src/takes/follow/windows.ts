import { upperMedian } from '../../base/index.js';
import type { Reached, Way } from './gross.js';
import type { Ground } from './ground.js';
import { localPace } from './local-pace.js';

/** A note is looked for around the places of so many notes on each side, and at most so far. Units: notes, seconds */
const AROUND = { notes: 3, seconds: 3, least: 0.15, beyond: 2.5 };

/** A stretch in which a note may begin. Units: frames; seconds a second of the written clock */
export interface Window {
  readonly note: number;
  readonly from: number;
  readonly to: number;
  readonly pace: number;
}

/** Where each note may begin, by where it and its neighbours were found. Shape: without overlap, in the order of notes */
export function windowsOf({ notes, heard }: Ground, { reached }: Way): Window[] {
  const runs: Reached[][] = [];
  for (const one of reached) {
    if (one.isJump || runs.length === 0) runs.push([one]);
    else runs.at(-1)?.push(one);
  }
  const found = runs.flatMap((run) => {
    const clocks = run.map(({ note }) => notes[note]?.clock ?? 0);
    const times = run.map(({ frame }) => frame * heard.hop);
    const paces = localPace(clocks, times);
    const [first, last] = [run[0]?.note ?? 0, run.at(-1)?.note ?? 0];
    const timeOf = (note: number): number => placeOf(notes[note]?.clock ?? 0, { clocks, times, paces });
    const windows: Window[] = [];
    const from = beyond(notes, first, -1);
    const to = beyond(notes, last, 1);
    for (let note = from; note <= to; note += 1) {
      const here = timeOf(note);
      const early = Math.max(here - AROUND.seconds, timeOf(Math.max(0, note - AROUND.notes)) - AROUND.least);
      const late = Math.min(
        here + AROUND.seconds,
        timeOf(Math.min(notes.length - 1, note + AROUND.notes)) + AROUND.least,
      );
      const begin = Math.max(0, Math.round(early / heard.hop));
      const end = Math.min(heard.frames - 1, Math.round(late / heard.hop));
      if (end >= begin) windows.push({ note, from: begin, to: end, pace: paceAt(note, run, paces) });
    }
    return windows;
  });
  return merged(steadied(found));
}

/** No player's pace is twice another place's: where it seems so, the way was wrong. Shape: shares of the middle pace */
const PACES = { least: 0.7, most: 1.45 };

function steadied(windows: readonly Window[]): Window[] {
  const middle = upperMedian(windows.map(({ pace }) => pace)) ?? 1;
  return windows.map((window) => ({
    ...window,
    pace: Math.max(PACES.least * middle, Math.min(PACES.most * middle, window.pace)),
  }));
}

/** A way is lost where so many of so many intervals in a row are far from the tempo. Units: notes; logarithms of factors */
const LOST = { among: 6, strays: 4, far: Math.log(1.5) };
/** What is opened around it. Units: seconds */
const MARGIN = 1;
/** Around a jump so much is opened, for notes so near to where it leaves and lands. Units: seconds of the take; of the written clock */
const AROUND_JUMP = { seconds: 5, clock: 10 };
/** A step that costs more than a jump and some notes do: the player may have been elsewhere. Units: log chance */
const DEAR = -15;
/** So many places are opened at most (our own, for time and memory). */
const MOST = 1_000_000;

/** A way, and what it is worth up to each of its notes. Units: log chance */
export interface WeighedWay extends Way {
  readonly worth: readonly number[];
}

/** Where a way is looked for anew. Units: frames; notes, both ends within */
interface Opened {
  readonly from: number;
  readonly to: number;
  readonly first: number;
  readonly last: number;
}

/**
 * Windows for every note where a way strays from the tempo note after note, since the player may be anywhere there; and
 * around each of its jumps, which may lie some measures beside, and each step so dear that one may be missing.
 * Shape:  none where the way keeps to its tempo; the largest are left out where there is no room for all
 */
export function openedWindows({ notes, heard }: Ground, { reached, end, worth }: WeighedWay): Window[] {
  const paces = reached.map(({ note, frame }, n) => {
    const next = reached[n + 1];
    const written = (notes[next?.note ?? -1]?.clock ?? 0) - (notes[note]?.clock ?? 0);
    return next && !next.isJump && written > 0 ? ((next.frame - frame) * heard.hop) / written : null;
  });
  const middle = upperMedian(paces.filter((pace) => pace !== null)) ?? 1;
  const strays = paces.map((pace) => pace !== null && Math.abs(Math.log(pace / middle)) > LOST.far);
  const margin = MARGIN / heard.hop;
  const lost = strays.flatMap((_, n): Opened[] => {
    if (strays.slice(n, n + LOST.among).filter(Boolean).length < LOST.strays) return [];
    const [from, to] = [reached[n]?.frame ?? 0, reached[n + LOST.among]?.frame ?? end];
    return [{ from: from - margin, to: to + margin, first: 0, last: notes.length - 1 }];
  });
  const each = [...lost, ...aroundJumps({ notes, heard }, { reached, worth })].map(
    ({ from, to, ...among }) => ({
      ...{ from: Math.max(0, Math.round(from)), to: Math.min(heard.frames - 1, Math.round(to)) },
      ...among,
    }),
  );
  const together = joined(each);
  const open = affordable(together.reduce((sum, one) => sum + placesIn(one), 0) > MOST ? each : together);
  return open.flatMap(({ from, to, first, last }) =>
    Array.from({ length: last - first + 1 }, (_, n): Window => ({ note: first + n, from, to, pace: middle })),
  );
}

function placesIn({ from, to, first, last }: Opened): number {
  return (to - from) * (last - first + 1);
}

/** As many stretches as there is room for, those that need least first. */
function affordable(stretches: readonly Opened[]): Opened[] {
  let room = MOST;
  return [...stretches]
    .sort((a, b) => placesIn(a) - placesIn(b))
    .filter((one) => (room -= placesIn(one)) >= 0);
}

/** Around the jumps of a way, and around what is worth so little that one may be missing. */
function aroundJumps(
  { notes, heard }: Pick<Ground, 'notes' | 'heard'>,
  { reached, worth }: Pick<WeighedWay, 'reached' | 'worth'>,
): Opened[] {
  const clockOf = (note: number): number => notes[note]?.clock ?? 0;
  const wide = AROUND_JUMP.seconds / heard.hop;
  return reached.flatMap((landed, n): Opened[] => {
    const left = reached[n - 1];
    if (!left || !(landed.isJump || (worth[n] ?? 0) - (worth[n - 1] ?? 0) < DEAR)) return [];
    const low = Math.min(clockOf(left.note), clockOf(landed.note)) - AROUND_JUMP.clock;
    const high = Math.max(clockOf(left.note), clockOf(landed.note)) + AROUND_JUMP.clock;
    return [
      {
        ...{ from: left.frame - wide, to: landed.frame + wide },
        // The note that is left or landed at is among them.
        first: notes.findIndex(({ clock }) => clock >= low),
        last: notes.findLastIndex(({ clock }) => clock <= high),
      },
    ];
  });
}

/** Stretches that meet become one, for the notes of both. */
function joined(stretches: readonly Opened[]): Opened[] {
  const out: Opened[] = [];
  for (const one of [...stretches].sort((a, b) => a.from - b.from)) {
    const last = out.at(-1);
    if (!last || one.from > last.to) out.push(one);
    else
      out[out.length - 1] = {
        ...{ from: last.from, to: Math.max(last.to, one.to) },
        ...{ first: Math.min(last.first, one.first), last: Math.max(last.last, one.last) },
      };
  }
  return out;
}

/** How far beyond the end of a run its notes are looked for: the jump may have come later, or from farther back. */
function beyond(notes: Ground['notes'], end: number, step: -1 | 1): number {
  const clock = notes[end]?.clock ?? 0;
  let at = end;
  while (notes[at + step]) {
    const far = Math.abs((notes[at + step]?.clock ?? 0) - clock);
    if (Math.abs(at + step - end) > AROUND.notes && far > AROUND.beyond) break;
    at += step;
  }
  return at;
}

interface Known {
  readonly clocks: readonly number[];
  readonly times: readonly number[];
  readonly paces: readonly number[];
}

/** When a place of the written clock comes in a run, within it or beyond. Units: seconds */
function placeOf(clock: number, { clocks, times, paces }: Known): number {
  const after = clocks.findIndex((one) => one >= clock);
  const [a, b] = after < 0 ? [clocks.length - 1, clocks.length - 1] : [Math.max(0, after - 1), after];
  const [from, to] = [clocks[a] ?? 0, clocks[b] ?? 0];
  if (after <= 0 || to === from) return (times[b] ?? 0) + (clock - to) * (paces[b] ?? 1);
  return (times[a] ?? 0) + ((clock - from) / (to - from)) * ((times[b] ?? 0) - (times[a] ?? 0));
}

function paceAt(note: number, run: readonly Reached[], paces: readonly number[]): number {
  let [best, far] = [0, Infinity];
  run.forEach((one, n) => {
    if (Math.abs(one.note - note) < far) [best, far] = [n, Math.abs(one.note - note)];
  });
  return paces[best] ?? 1;
}

/** Windows of a note that meet become one. Shape: in the order of notes */
export function merged(windows: readonly Window[]): Window[] {
  const sorted = [...windows].sort((a, b) => a.note - b.note || a.from - b.from);
  const out: Window[] = [];
  for (const window of sorted) {
    const last = out.at(-1);
    if (last?.note !== window.note || window.from > last.to + 1) out.push(window);
    else if (window.to > last.to) out[out.length - 1] = { ...last, to: window.to };
  }
  return out;
}
