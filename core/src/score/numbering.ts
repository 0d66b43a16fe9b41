import type { ScoreWarning } from './issues.js';
import type { ScoreMeasure } from './model.js';

/**
 * What is odd about the printed numbers: repeated or missing ones are neither trusted nor hidden.
 * Shape:  implicit measures (pickups, split measures) are passed over
 * Units:  printed numbers
 * Source: MusicXML 4.0, attributes number and implicit of element measure
 */
export function numberingWarnings(
  measures: readonly Pick<ScoreMeasure, 'number' | 'implicit'>[],
): ScoreWarning[] {
  const warnings: ScoreWarning[] = [];
  const seen = new Set<string>();
  let last: number | null = null;
  for (const { number, implicit } of measures) {
    if (implicit) continue;
    const where = `measure ${number}`;
    if (seen.has(number)) {
      warnings.push({
        code: 'number-repeated',
        where,
        message: `The number ${number} is printed on more than one measure; a span that names it means the first.`,
      });
    }
    seen.add(number);
    const value = /^\d+$/u.test(number) ? Number(number) : null;
    if (value !== null && last !== null && value > last + 1) {
      const missing =
        value === last + 2 ? `number ${last + 1} is` : `numbers ${last + 1} to ${value - 1} are`;
      warnings.push({
        code: 'number-missing',
        where,
        message: `The ${missing} missing before measure ${number}.`,
      });
    }
    last = value ?? last;
  }
  return warnings;
}
