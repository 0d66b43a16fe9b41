import { midiOf, quarters, scaleQuarters, toNumber, type Meter, type Quarters } from '../music/index.js';
import type { DrillMeasure, DrillNote } from './drill.js';
import { beatQuarters, groupsOf, startOf } from './groups.js';
import { exact, lengthOf, meterOf, restOf } from './passage-music.js';

/** A note with its place in the passage. Units: quarters from the passage's beginning. */
interface PlacedNote {
  readonly note: DrillNote;
  readonly start: number;
  readonly measure: number;
  readonly isGrouped: boolean;
}

/** Places this close are one. Units: quarters. */
const SAME = 1e-6;
/** A run that is added to note by note has at most so many notes: more are not kept in one breath of attention (our own). */
const LONGEST_RUN = 8;
/** A fragment more often than this in one drill is work for two days (our own). */
const MOST_FRAGMENTS = 16;

function placed(measures: readonly DrillMeasure[]): PlacedNote[] {
  let start = 0;
  return measures.flatMap((measure, index) => {
    const grouped = new Set(
      groupsOf(measure).flatMap(({ from, count }) => Array.from({ length: count }, (_, n) => from + n)),
    );
    return measure.notes.map((note, n) => {
      const one = { note, start, measure: index, isGrouped: grouped.has(n) };
      start += toNumber(note.length);
      return one;
    });
  });
}

/** The beats of a passage in which groups of fast notes stand. Units: quarters from the passage's beginning. */
function fastBeats(
  measures: readonly DrillMeasure[],
): { readonly start: number; readonly beat: number; readonly measure: number }[] {
  let at = 0;
  return measures.flatMap((measure, index) => {
    const beat = beatQuarters(measure.meter);
    const starts = new Set<number>();
    for (const { from } of groupsOf(measure)) {
      const start = startOf(measure.notes, from);
      starts.add(Math.floor(start / beat + SAME) * beat);
    }
    const found = [...starts]
      .sort((a, b) => a - b)
      .map((start) => ({ start: at + start, beat, measure: index }));
    at += toNumber(lengthOf(measure.notes));
    return found;
  });
}

/**
 * Each fast beat, or some of them in a row, with the note it lands on, then a rest to be ready again.
 * Shape:  one fragment a measure; the landing note lasts a beat; nothing where the music ends before it lands
 * Units:  `beats` in a fragment
 * Source: common practice, no source
 */
export function landings(measures: readonly DrillMeasure[], beats: number): DrillMeasure[] {
  const notes = placed(measures);
  const fragments: DrillMeasure[] = [];
  for (const { start, beat, measure } of fastBeats(measures)) {
    const end = start + beats * beat;
    const inside = notes.filter((one) => one.start > start - SAME && one.start < end - SAME);
    const landing = notes.find((one) => Math.abs(one.start - end) < SAME);
    const filled = inside.reduce((sum, { note }) => sum + toNumber(note.length), 0);
    const isWhole =
      Math.abs(filled - beats * beat) < SAME && Math.abs((inside[0]?.start ?? 0) - start) < SAME;
    if (!landing || landing.note.isRest || !isWhole || inside.every(({ note }) => note.isRest)) continue;
    const source = measures[measure];
    if (source)
      fragments.push(
        fragment(source, [
          ...inside.map(({ note }) => note),
          { ...landing.note, length: exact(beat), isTied: false },
          restOf(exact(beat), ''),
        ]),
      );
  }
  return fragments.slice(0, MOST_FRAGMENTS);
}

/** A measure of its own length, in the beats of where it comes from. */
function fragment(source: DrillMeasure, notes: readonly DrillNote[]): DrillMeasure {
  return { ...source, meter: fragmentMeter(source.meter, lengthOf(notes)), words: null, notes };
}

function fragmentMeter({ beatType }: Meter, length: Quarters): Meter {
  const beats = (toNumber(length) * beatType) / 4;
  const isWhole = Math.abs(beats - Math.round(beats)) < SAME && beats >= 1;
  return isWhole
    ? { groups: [Math.round(beats)], beatType }
    : (meterOf(length) ?? { groups: [Math.max(1, Math.ceil(beats))], beatType });
}

/**
 * The longest run of fast notes with the note it lands on.
 * Shape:  at most LONGEST_RUN notes and the landing, the last of a longer run; empty under four notes
 */
function longestRun(measures: readonly DrillMeasure[]): PlacedNote[] {
  const notes = placed(measures);
  let best: readonly [from: number, end: number] = [0, 0];
  let from = 0;
  notes.forEach((one, n) => {
    const before = notes[n - 1];
    const goesOn =
      one.isGrouped &&
      before?.isGrouped === true &&
      Math.abs(toNumber(before.note.length) - toNumber(one.note.length)) < SAME;
    if (!goesOn) from = n;
    if (one.isGrouped && n + 1 - from > best[1] - best[0]) best = [from, n + 1];
  });
  const [start, end] = best;
  if (end - start < 4) return [];
  const landing = notes[end];
  const run = notes.slice(Math.max(start, end - LONGEST_RUN), end);
  return landing && !landing.note.isRest && !landing.note.isTied ? [...run, landing] : run;
}

/**
 * The longest run, a note more each time, from its end or from its start.
 * Shape:  one step a measure; what is not played yet is a rest, so that every note stays on its beat
 * Source: common practice, no source
 */
export function addedNotes(measures: readonly DrillMeasure[], from: 'start' | 'end'): DrillMeasure[] {
  const run = longestRun(measures);
  const source = measures[run[0]?.measure ?? 0];
  const first = run[0];
  if (!source || !first) return [];
  const beat = beatQuarters(source.meter);
  const notes = run.map(({ note }) => ({ ...note, isTied: false }));
  const lead = offsetIn(measures, first, beat);
  const whole = lead + notes.reduce((sum, { length }) => sum + toNumber(length), 0);
  const filler = Math.ceil(whole / beat - SAME) * beat - whole;
  return Array.from({ length: notes.length - 1 }, (_, n) => n + 2).map((count) => {
    const played = from === 'start' ? notes.slice(0, count) : notes.slice(-count);
    const silent = from === 'start' ? notes.slice(count) : notes.slice(0, -count);
    const rest = silent.reduce((sum, { length }) => sum + toNumber(length), 0);
    const gap = (length: number): DrillNote[] => (length > SAME ? [restOf(exact(length), '')] : []);
    return fragment(source, [
      ...gap(lead + (from === 'end' ? rest : 0)),
      ...played,
      ...gap(filler + (from === 'start' ? rest : 0)),
    ]);
  });
}

function offsetIn(measures: readonly DrillMeasure[], { start, measure }: PlacedNote, beat: number): number {
  const before = toNumber(lengthOf(measures.slice(0, measure).flatMap(({ notes }) => notes)));
  const within = start - before;
  return within - Math.floor(within / beat + SAME) * beat;
}

/** Two neighbouring notes of a passage, with where they stand. */
export interface NotePair {
  readonly measure: DrillMeasure;
  readonly first: DrillNote;
  readonly second: DrillNote;
}

/**
 * The pair of neighbours that lies farthest apart among the fast notes.
 * Shape:  null where none is a fourth or more apart
 * Source: our own knee
 */
export function widestPair(measures: readonly DrillMeasure[]): NotePair | null {
  const notes = placed(measures);
  let best: { readonly pair: NotePair; readonly size: number } | null = null;
  notes.forEach(({ note, measure, isGrouped }, n) => {
    const next = notes[n + 1];
    const source = measures[measure];
    const [a, b] = [note.pitches.at(-1), next?.note.pitches.at(-1)];
    if (!source || !next || !a || !b || note.isTied || !(isGrouped || next.isGrouped)) return;
    const size = Math.abs(midiOf(a) - midiOf(b));
    if (size >= 5 && (best === null || size > best.size))
      best = { size, pair: { measure: source, first: note, second: next.note } };
  });
  return (best as { readonly pair: NotePair } | null)?.pair ?? null;
}

/**
 * A pair of notes to and fro: slowly, twice as fast, and as sixteenths.
 * Shape:  three measures of common time, the last one landing on the first note
 * Source: common practice, no source
 */
export function pairRepeated({ measure, first, second }: NotePair): DrillMeasure[] {
  const isSlurred = first.slurStarts > 0 || (first.slurStops === 0 && second.slurStops > 0);
  const note = (n: number, count: number, length: Quarters): DrillNote => ({
    ...(n % 2 === 0 ? first : second),
    length,
    isTied: false,
    slurStarts: isSlurred && n === 0 ? 1 : 0,
    slurStops: isSlurred && n === count - 1 ? 1 : 0,
  });
  const row = (count: number, length: Quarters): DrillNote[] =>
    Array.from({ length: count }, (_, n) => note(n, count, length));
  const common = { ...measure, meter: { groups: [4], beatType: 4 }, words: null };
  const half = scaleQuarters(quarters(1), 2);
  return [
    { ...common, notes: row(4, quarters(1)) },
    { ...common, notes: row(8, quarters(1, 2)) },
    { ...common, notes: [...row(8, quarters(1, 4)), { ...note(0, 1, half), slurStarts: 0, slurStops: 0 }] },
  ];
}
