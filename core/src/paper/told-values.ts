import type { ToldValue } from './told.js';

/** How many notes of a value a quarter has. */
const NOTES_A_QUARTER: Readonly<Record<ToldValue, number>> = {
  quarter: 1,
  eighth: 2,
  triplet: 3,
  sixteenth: 4,
  'thirty-second': 8,
};

/** Notes of a value in words. */
const WORDS: Readonly<Record<ToldValue, string>> = {
  quarter: 'quarters',
  eighth: 'eighths',
  triplet: 'triplets',
  sixteenth: 'sixteenths',
  'thirty-second': 'thirty-seconds',
};

/** How many notes of a value a quarter has. */
export function notesAQuarter(value: ToldValue): number {
  return NOTES_A_QUARTER[value];
}

/** Notes of a value in words: "sixteenths". */
export function valueWords(value: ToldValue): string {
  return WORDS[value];
}

/** The value of which a quarter has so many notes, in words. Shape: null where none was told */
export function toldValueWords(toldNotes: number | null): string | null {
  const value = (Object.keys(WORDS) as ToldValue[]).find((one) => NOTES_A_QUARTER[one] === toldNotes);
  return value === undefined ? null : WORDS[value];
}
