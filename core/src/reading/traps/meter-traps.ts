import { beatCount, meterText, toNumber, type Meter } from '../../music/index.js';
import type { Score, ScoreMeasure } from '../../score/index.js';
import { divisionOf, groupings, NEAR } from '../line/grouping.js';
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

/**
 * 6/8 heard as 3/4 and 3/4 heard as 6/8, told by accents, slurs or beams, by a note that is held over the point of division,
 * or by notes on nothing but the other beats.
 */
function crossedHalves(measure: ScoreMeasure, notes: readonly LineNote[]): Omit<Trap, 'index'> | null {
  const { meter, length } = measure;
  const beats = beatCount(meter);
  const isTwo = beats === 6 && meter.groups.length === 1 && meter.beatType >= 4;
  const isThree = beats === 3 && meter.groups.length === 1;
  if (!isTwo && !isThree) return null;
  const whole = toNumber(length);
  const crosses = (place: number): boolean => isHeldOver(notes, place, whole) || isBeamedOver(notes, place);
  const asThree = {
    reads: meterText(meter),
    sounds: meterText({ groups: [3], beatType: meter.beatType / 2 }),
  };
  if (isTwo && isOnlyAt(notes, [0, whole / 3, (2 * whole) / 3])) return asThree;
  for (const { starts, by } of groupings(notes)) {
    const isAt = (place: number): boolean => starts.some((start) => Math.abs(start - place) < NEAR);
    const isTold = (place: number): boolean => by !== 'beams' || crosses(place);
    const [half, first, second] = [whole / 2, whole / 3, (2 * whole) / 3];
    if (isTwo && isAt(first) && isAt(second) && !isAt(half) && isTold(half)) return asThree;
    if (isThree && isAt(half) && !isAt(first) && !isAt(second) && isTold(first) && isTold(second))
      return { reads: meterText(meter), sounds: meterText({ groups: [6], beatType: meter.beatType * 2 }) };
  }
  return null;
}

function isOnlyAt(notes: readonly LineNote[], places: readonly number[]): boolean {
  return (
    notes.length === places.length &&
    notes.every(({ onset }, n) => Math.abs(toNumber(onset) - (places[n] ?? -1)) < NEAR)
  );
}

function isHeldOver(notes: readonly LineNote[], place: number, whole: number): boolean {
  return notes.some(({ onset, length: sounding, signs }) => {
    const start = toNumber(onset);
    const isLong = signs.beam === null && sounding > whole / 6 + NEAR;
    return isLong && start < place - NEAR && start + sounding > place + NEAR;
  });
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
  // Three and six, four and eight divide alike.
  const isUnlike = counts.some((a) => counts.some((b) => a > b && a % b !== 0));
  if (!isUnlike) return null;
  return { reads: meterText(meter), sounds: `groups of ${counts.join(', ')}` };
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
    // Of equals the first: what comes later is the other one.
    const [first] = [...own].sort((a, b) => b[1] - a[1]);
    if (first) usual.set(meter, first[0]);
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
