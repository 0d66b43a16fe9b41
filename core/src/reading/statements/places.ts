import { toNumber } from '../../music/index.js';
import { runsOf, type Score, type ScoreMeasure } from '../../score/index.js';
import { beatOf } from '../line/pace.js';

/** The printed number of a measure. */
export function numberAt({ measures }: Pick<Score, 'measures'>, index: number): string {
  return measures[index]?.number ?? '';
}

/**
 * Measures in words: "measure 9", "measures 9–11 and 14", "13 measures" where there are many apart.
 * Shape:  indexes, rising
 */
export function measuresText(score: Pick<Score, 'measures'>, places: readonly number[]): string {
  const runs = runsIn(places);
  const names = runs.map(([from, to]) => spanText(score, from, to));
  if (places.length === 1) return `measure ${names[0] ?? ''}`;
  if (names.length > 6) return `${places.length} measures`;
  return `measures ${listed(names)}`;
}

/** "9–11", or "9" for one measure. */
export function spanText(score: Pick<Score, 'measures'>, from: number, to: number): string {
  return from === to ? numberAt(score, from) : `${numberAt(score, from)}–${numberAt(score, to)}`;
}

/** Neighbouring indexes as runs of first and last. */
export function runsIn(places: readonly number[]): (readonly [from: number, to: number])[] {
  const rising = [...new Set(places)].sort((a, b) => a - b);
  return runsOf(rising).map(({ fromIndex, endIndex }) => [fromIndex, endIndex - 1]);
}

/** "a", "a and b", "a, b and c". */
export function listed(texts: readonly (string | number)[]): string {
  const last = texts.at(-1) ?? '';
  return texts.length < 2 ? String(last) : `${texts.slice(0, -1).join(', ')} and ${last}`;
}

/** At most so many texts, and that there are more. */
export function firstOf(texts: readonly string[], most = 4): string {
  return `${texts.slice(0, most).join(', ')}${texts.length > most ? ' …' : ''}`;
}

/** Where in its measure a place lies, as it is counted: "beat 2", "the and of 2". Units: quarters from the beginning. */
export function beatText({ meter, start }: ScoreMeasure, at: number): string {
  const beat = beatOf(meter);
  const place = (at - toNumber(start)) / beat;
  const whole = Math.floor(place + 1e-6);
  const part = place - whole;
  if (part < 1e-6) return `beat ${whole + 1}`;
  return Math.abs(part - 0.5) < 1e-6 ? `the and of ${whole + 1}` : `${whole + 1}, behind the beat`;
}

/** Seconds as a player counts them: whole ones. */
export function secondsText(seconds: number): string {
  return `${Math.round(seconds)} s`;
}
