import { beatCount, isCompound, meterText, toNumber, type Meter } from '../../music/index.js';
import type { Score, ScoreMeasure } from '../../score/index.js';
import { beatOf } from '../line/pace.js';
import type { LineNote, SoloLine } from '../line/solo-line.js';

/** Measures that do not sound as their signature reads. Shape: printed numbers; texts such as "6/8" and "3/4". */
export interface MeterTrap {
  readonly measures: readonly string[];
  readonly reads: string;
  readonly sounds: string;
}

interface Trap {
  readonly index: number;
  readonly reads: string;
  readonly sounds: string;
}

const NEAR = 1e-6;

/**
 * Finds measures grouped against their signature: six in two read as three and back, three-beat measures that pair up,
 * groups of changing size, and odd meters divided in another way than the rest of the piece.
 * Shape:  neighbouring measures of one kind are one trap
 * Units:  printed measure numbers
 * Source: beams and onsets; hemiola as handbooks of notation describe it (common practice, no source)
 */
export function meterTraps(score: Score, line: SoloLine): MeterTrap[] {
  const usual = usualDivisions(score, line);
  const traps = score.measures.flatMap((measure, index) => {
    const notes = line.played[index] ?? [];
    if (notes.length === 0 || measure.implicit) return [];
    const trap =
      crossedHalves(measure, notes) ?? unequalGroups(measure, notes) ?? otherDivision(measure, notes, usual);
    return trap ? [{ index, ...trap }] : [];
  });
  const inPairs = hemiolas(score, line, new Set(traps.map(({ index }) => index)));
  return joinTraps([...traps, ...inPairs], score);
}

function joinTraps(traps: readonly Trap[], { measures }: Score): MeterTrap[] {
  const joined: { last: number; measures: string[]; reads: string; sounds: string }[] = [];
  for (const { index, reads, sounds } of [...traps].sort((a, b) => a.index - b.index)) {
    const last = joined.at(-1);
    const number = measures[index]?.number ?? '';
    if (last?.last === index - 1 && last.reads === reads && last.sounds === sounds) {
      last.measures.push(number);
      last.last = index;
    } else joined.push({ last: index, measures: [number], reads, sounds });
  }
  return joined.map(({ measures: numbers, reads, sounds }) => ({ measures: numbers, reads, sounds }));
}

/** Where groups begin: at the first note of every beam and at every unbeamed note. */
function groupStarts(notes: readonly LineNote[]): number[] {
  return notes
    .filter(({ signs }) => signs.beam === null || signs.beam === 'begin')
    .map(({ onset }) => toNumber(onset));
}

/** 6/8 heard as 3/4 and 3/4 heard as 6/8, told by the beams, or by a note that is held over the point of division. */
function crossedHalves(
  { meter, length }: ScoreMeasure,
  notes: readonly LineNote[],
): Omit<Trap, 'index'> | null {
  const beats = beatCount(meter);
  const isTwo = beats === 6 && meter.groups.length === 1 && meter.beatType >= 4;
  const isThree = beats === 3 && meter.groups.length === 1;
  if (!isTwo && !isThree) return null;
  const whole = toNumber(length);
  const half = whole / 2;
  const thirds = [whole / 3, (2 * whole) / 3];
  const starts = groupStarts(notes);
  const isAt = (place: number): boolean => starts.some((start) => Math.abs(start - place) < NEAR);
  const inner = starts.filter((start) => start > NEAR);
  if (inner.length === 0) return null;
  const on = (places: readonly number[]): boolean => places.every((place) => isAt(place));
  const isHeldOver = (place: number): boolean =>
    notes.some(({ onset, length: sounding, signs }) => {
      const start = toNumber(onset);
      const isLong = signs.beam === null && sounding > whole / 6 + NEAR;
      return isLong && start < place - NEAR && start + sounding > place + NEAR;
    });
  const crosses = (place: number): boolean => isHeldOver(place) || isBeamedOver(notes, place);
  const [first = 0, second = 0] = thirds;
  if (isTwo && on(thirds) && !isAt(half) && crosses(half))
    return { reads: meterText(meter), sounds: meterText({ groups: [3], beatType: meter.beatType / 2 }) };
  if (isThree && isAt(half) && !isAt(first) && !isAt(second) && crosses(first) && crosses(second))
    return { reads: meterText(meter), sounds: meterText({ groups: [6], beatType: meter.beatType * 2 }) };
  return null;
}

function isBeamedOver(notes: readonly LineNote[], place: number): boolean {
  return notes.some(
    ({ onset, signs }) =>
      Math.abs(toNumber(onset) - place) < NEAR && (signs.beam === 'continue' || signs.beam === 'end'),
  );
}

/** Beats that hold 4, 6, 4, 6 notes: the beat stays, the subdivision changes. */
function unequalGroups(
  { meter, length }: ScoreMeasure,
  notes: readonly LineNote[],
): Omit<Trap, 'index'> | null {
  const beat = beatOf(meter);
  const beats = Math.round(toNumber(length) / beat);
  const counts: number[] = [];
  for (let n = 0; n < beats; n += 1) {
    const inside = notes.filter(({ onset }) => {
      const start = toNumber(onset);
      return start >= n * beat - NEAR && start < (n + 1) * beat - NEAR;
    });
    const isEven = inside.every(({ length: own }) => Math.abs(own - beat / inside.length) < NEAR);
    if (isEven && inside.length >= 3) counts.push(inside.length);
  }
  const kinds = new Set(counts);
  if (kinds.size < 2 || counts.length < 2) return null;
  return { reads: meterText(meter), sounds: `groups of ${counts.join(', ')}` };
}

/** 5, 7, 8, 10, 11 eighths: the division that the beams show, such as 2+2+3. */
function divisionOf({ meter, length }: ScoreMeasure, notes: readonly LineNote[]): string | null {
  const beats = beatCount(meter);
  if (meter.beatType < 8 || beats < 5 || isCompound(meter)) return null;
  const unit = 4 / meter.beatType;
  const places = [...groupStarts(notes), toNumber(length)].map((start) => start / unit);
  const sizes = places.slice(1).map((place, n) => place - (places[n] ?? 0));
  const isPlain = sizes.every((size) => Math.abs(size - 2) < NEAR || Math.abs(size - 3) < NEAR);
  return isPlain && Math.abs((places[0] ?? 1) - 0) < NEAR
    ? sizes.map((size) => Math.round(size)).join('+')
    : null;
}

function usualDivisions({ measures }: Score, line: SoloLine): Map<string, string> {
  const counts = new Map<string, Map<string, number>>();
  measures.forEach((measure, index) => {
    const division = divisionOf(measure, line.played[index] ?? []);
    if (division === null) return;
    const own = counts.get(meterText(measure.meter)) ?? new Map<string, number>();
    counts.set(meterText(measure.meter), own.set(division, (own.get(division) ?? 0) + 1));
  });
  const usual = new Map<string, string>();
  for (const [meter, own] of counts) {
    const [first, second] = [...own].sort((a, b) => b[1] - a[1]);
    if (first && first[1] > (second?.[1] ?? 0)) usual.set(meter, first[0]);
  }
  return usual;
}

function otherDivision(
  measure: ScoreMeasure,
  notes: readonly LineNote[],
  usual: ReadonlyMap<string, string>,
): Omit<Trap, 'index'> | null {
  const own = divisionOf(measure, notes);
  const common = usual.get(meterText(measure.meter));
  return own !== null && common !== undefined && own !== common
    ? { reads: `${meterText(measure.meter)} as ${common}`, sounds: own }
    : null;
}

/** Two measures of three that sound as three of two: notes at beats 1 and 3, then 2, held over the bar line. */
function hemiolas({ measures }: Score, { byMeasure, notes }: SoloLine, taken: ReadonlySet<number>): Trap[] {
  const found: Trap[] = [];
  for (let index = 0; index + 1 < measures.length; index += 1) {
    const [first, second] = [measures[index], measures[index + 1]];
    if (!first || !second || taken.has(index) || taken.has(index + 1)) continue;
    if (!isThreeBeats(first.meter) || meterText(first.meter) !== meterText(second.meter)) continue;
    const beat = toNumber(first.length) / 3;
    const start = toNumber(first.start);
    const own = [...(byMeasure[index] ?? []), ...(byMeasure[index + 1] ?? [])].filter(
      ({ isGrace }) => !isGrace,
    );
    const isAt = (place: number): boolean =>
      own.some((note) => Math.abs(note.start - start - place * beat) < NEAR);
    const held = notes.some(
      (note) => note.measureIndex === index && note.start + note.length > start + 3 * beat + NEAR,
    );
    if (held && isAt(0) && isAt(2) && isAt(4) && !isAt(3) && !isAt(1) && !isAt(5)) {
      const reads = meterText(first.meter);
      const sounds = meterText({ groups: [3], beatType: first.meter.beatType / 2 });
      found.push({ index, reads, sounds }, { index: index + 1, reads, sounds });
      index += 1;
    }
  }
  return found;
}

function isThreeBeats(meter: Meter): boolean {
  return beatCount(meter) === 3 && meter.beatType >= 2;
}
