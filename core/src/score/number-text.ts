import { quarters, type Quarters } from '../music/index.js';
import { ScoreStop } from './issues.js';

/**
 * A decimal number as an exact fraction, for durations that exporters write as 0.5.
 * Shape:  null when the text is no plain decimal of up to 9 + 6 digits
 * Units:  those of the text
 * Source: MusicXML 4.0, type divisions
 */
export function exactDecimal(text: string | null): Quarters | null {
  const match = /^([+-]?)(\d{1,9})(?:\.(\d{1,6}))?$/u.exec(text?.trim() ?? '');
  if (!match) return null;
  const [, sign = '', whole = '', decimals = ''] = match;
  const value = quarters(Number(whole + decimals), 10 ** decimals.length);
  return sign === '-' ? quarters(-value.num, value.den) : value;
}

/**
 * A whole number within bounds.
 * Shape:  null when the text is none or lies outside
 * Units:  those of the text
 */
export function wholeNumber(text: string | null | undefined, min: number, max: number): number | null {
  const value = Number(text?.trim() === '' ? Number.NaN : (text ?? Number.NaN));
  return Number.isInteger(value) && value >= min && value <= max ? value : null;
}

/**
 * Stops the reading at a timing that cannot be true.
 * Errors: always throws ScoreStop with score-timing
 */
export function badTiming(measureNumber: string, what: string): never {
  throw new ScoreStop(
    'score-timing',
    `measure ${measureNumber}`,
    `In measure ${measureNumber} ${what}; export the score again.`,
  );
}
