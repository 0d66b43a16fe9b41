import type { Seconds } from '../music/index.js';
import type { HandNote } from './hand-notes.js';

/** A way to divide a roll. Shape: strokes a quarter, named as players name them */
export interface RollDivision {
  readonly name: string;
  readonly perQuarter: number;
}

const DIVISIONS: readonly RollDivision[] = [
  { name: 'sixteenths', perQuarter: 4 },
  { name: 'quintuplets', perQuarter: 5 },
  { name: 'triplet sixteenths', perQuarter: 6 },
  { name: 'septuplets', perQuarter: 7 },
  { name: 'thirty-seconds', perQuarter: 8 },
  { name: 'triplet thirty-seconds', perQuarter: 12 },
];

/**
 * Strokes of the hands that sound as a roll: of a snare, whose sticks bounce, and of mallets, which strike each once.
 * Units:  strokes a second
 * Source: common practice, no source; the bounds are our own
 */
export const ROLL_SPEEDS = { snare: { low: 7.5, high: 11 }, mallets: { low: 9.5, high: 14 } } as const;

/**
 * A roll with its division at the tempo.
 * Shape:  `tooSlow` the divisions that would be heard as single strokes; `ends` "tie" into the next note, or "lift" before it
 * Units:  strokes a second; strokes in all
 */
export interface RollAdvice {
  readonly measure: string;
  readonly measureIndex: number;
  readonly ordinal: number;
  readonly division: RollDivision;
  readonly strokesPerSecond: number;
  readonly strokes: number;
  readonly tooSlow: readonly string[];
  readonly ends: 'tie' | 'lift';
  readonly text: string;
}

/**
 * The division of each roll: the simplest whose strokes are quick enough, not too quick.
 * Shape:  a note with three strokes through its stem, or a trill on a drum, is a roll
 * Units:  seconds of a quarter
 * Source: docs/computation.md §6
 */
export function rollAdvice(
  notes: readonly HandNote[],
  {
    instrument,
    quarter,
  }: { readonly instrument: keyof typeof ROLL_SPEEDS; readonly quarter: (note: HandNote) => Seconds },
): RollAdvice[] {
  return notes.flatMap((note, n) => {
    if (!isRoll(note)) return [];
    const seconds = quarter(note);
    const { division, tooSlow } = rollDivision(seconds, instrument);
    const strokesPerSecond = division.perQuarter / seconds;
    const ends = isTied(note, notes[n + 1]) ? 'tie' : 'lift';
    const slow =
      tooSlow.length === 0 ? '' : `${listed(tooSlow)} ${tooSlow.length === 1 ? 'is' : 'are'} too slow here; `;
    return [
      {
        measure: note.measure,
        measureIndex: note.measureIndex,
        ordinal: note.ordinal,
        division,
        strokesPerSecond,
        strokes: Math.round((note.seconds / seconds) * division.perQuarter),
        tooSlow,
        ends,
        text: `${slow}${division.name}, ${strokesPerSecond.toFixed(1)} strokes a second; ${
          ends === 'tie' ? 'tied into the next note' : 'lifted before the next note'
        }.`.replace(/^\w/u, (first) => first.toUpperCase()),
      },
    ];
  });
}

/** The plainest division that is quick enough. Units: seconds of a quarter */
export function rollDivision(
  quarter: Seconds,
  instrument: keyof typeof ROLL_SPEEDS,
): { readonly division: RollDivision; readonly tooSlow: readonly string[] } {
  const { low, high } = ROLL_SPEEDS[instrument];
  const speed = ({ perQuarter }: RollDivision): number => perQuarter / quarter;
  const usual = DIVISIONS.filter(({ name }) => name !== 'quintuplets' && name !== 'septuplets');
  const fitting = (list: readonly RollDivision[]): RollDivision | undefined =>
    list.find((one) => speed(one) >= low && speed(one) <= high);
  const middle = (low + high) / 2;
  const [nearest = DIVISIONS[0]] = DIVISIONS.toSorted(
    (a, b) => Math.abs(speed(a) - middle) - Math.abs(speed(b) - middle),
  );
  const division = fitting(usual) ?? fitting(DIVISIONS) ?? nearest ?? { name: 'sixteenths', perQuarter: 4 };
  return {
    division,
    tooSlow: usual
      .filter((one) => one.perQuarter < division.perQuarter && speed(one) < low)
      .slice(-1)
      .map(({ name }) => name),
  };
}

function isRoll({ line: { signs } }: HandNote): boolean {
  return signs.tremolo >= 3;
}

/** A roll that goes on into the next note without a stop: slurred or tied to it. */
function isTied(note: HandNote, next: HandNote | undefined): boolean {
  return next?.isJoined === true && (next.isSlurred || (note.line.printed.length > 1 && note.seconds > 0));
}

function listed(names: readonly string[]): string {
  return names.join(' and ');
}
