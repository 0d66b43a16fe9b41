import { beatCount, isCompound, toNumber } from '../../music/index.js';
import type { ScoreMeasure } from '../../score/index.js';
import type { LineNote } from './solo-line.js';

/** Places this close are one. Units: quarters. */
export const NEAR = 1e-6;

/** Where groups of notes begin in a measure, and what tells it. Units: quarters from the bar line. */
export interface Grouping {
  readonly by: 'accents' | 'slurs' | 'beams';
  readonly starts: readonly number[];
}

const ACCENTS: ReadonlySet<string> = new Set(['accent', 'strong accent']);

/**
 * The groups of a measure as accents, slurs and beams show them, the strongest first.
 * Shape:  accents from two on, slurs where every note lies in one, beams always
 * Units:  see Grouping
 * Source: common practice, no source
 */
export function groupings(notes: readonly LineNote[]): Grouping[] {
  const placesOf = (own: readonly LineNote[]): number[] => own.map(({ onset }) => toNumber(onset));
  const accented = notes.filter(({ signs }) => signs.articulations.some((sign) => ACCENTS.has(sign)));
  const slurs = notes.filter(({ isSlurredInto }) => !isSlurredInto);
  const isSlurred = slurs.length > 1 && slurs.every(({ signs }) => signs.slurStarts > 0);
  const isAccented = accented.length > 1 && accented.length < notes.length;
  return [
    ...(isAccented ? [{ by: 'accents' as const, starts: placesOf(accented) }] : []),
    ...(isSlurred ? [{ by: 'slurs' as const, starts: placesOf(slurs) }] : []),
    {
      by: 'beams',
      starts: placesOf(notes.filter(({ signs }) => signs.beam === null || signs.beam === 'begin')),
    },
  ];
}

/**
 * How 5, 7, 8, 10, 11 eighths are divided, such as 2+2+3.
 * Shape:  null in other meters, and where no grouping gives twos and threes
 * Source: common practice, no source
 */
export function divisionOf({ meter, length }: ScoreMeasure, notes: readonly LineNote[]): string | null {
  if (meter.beatType < 8 || beatCount(meter) < 5 || isCompound(meter)) return null;
  const unit = 4 / meter.beatType;
  for (const { starts } of groupings(notes)) {
    const places = [...starts, toNumber(length)].map((start) => start / unit);
    const sizes = places.slice(1).map((place, n) => place - (places[n] ?? 0));
    const isPlain = sizes.every((size) => Math.abs(size - 2) < NEAR || Math.abs(size - 3) < NEAR);
    if (isPlain && Math.abs(places[0] ?? 1) < NEAR) return sizes.map((size) => Math.round(size)).join('+');
  }
  return null;
}
