import { earTest, MAJOR, type EarKind, type EarTest } from './ear.js';

/** What the ear test of a day holds, in its order, and what each is scored as (common practice, no source). */
const ASKED: readonly (readonly [kind: EarKind, name: string])[] = [
  ['clap', 'Rhythm tapped back'],
  ['interval', 'Interval'],
  ['echo', 'Sung back'],
  ['cadence', 'Cadence'],
  ['meter', 'Meter'],
];
/** What listeners score of an ear test: its questions. Shape: shares add up to 1 */
export const AURAL_CRITERIA: readonly { readonly name: string; readonly share: number }[] = Object.freeze(
  ASKED.map(([, name]) => ({ name, share: 1 / ASKED.length })),
);
const SEED_STEP = 7919;
/** Tonics that a melody may have, from C on. */
const TONICS = ['C', 'D♭', 'D', 'E♭', 'E'];
const FRACTIONS: ReadonlyMap<number, string> = new Map([
  [0, ''],
  [0.25, '¼'],
  [0.5, '½'],
  [0.75, '¾'],
]);
/** A rhythm to tap back is told in measures of four. */
const BEATS = 4;

/** A question of a day's ear test, and what is right, as a listener reads it. */
export interface AuralQuestion {
  readonly test: EarTest;
  readonly right: string;
}

/**
 * The questions of a day's ear test: the same seed asks the same.
 * Shape:  five, one of each kind that can be asked in a room; none for a level outside 1 to 8
 */
export function auralQuestions({
  level,
  seed,
}: {
  readonly level: number;
  readonly seed: number;
}): AuralQuestion[] {
  return ASKED.flatMap(([kind], n) => {
    const made = earTest(kind, { level, seed: seed + n * SEED_STEP });
    return made.ok ? [{ test: made.value, right: rightText(made.value) }] : [];
  });
}

function rightText({ answer, melody, onsets }: EarTest): string {
  if (answer !== null) return answer;
  if (melody) return degreesText(melody.map(({ midi }) => midi));
  return beatsText(onsets ?? []);
}

/** Degrees of the scale that a melody begins on: "1 2 3 2 1 in D major", "low" before what lies below its tonic. */
function degreesText(midis: readonly number[]): string {
  const tonic = midis[0] ?? 0;
  const degrees = midis.map((midi) => {
    const above = (((midi - tonic) % 12) + 12) % 12;
    return `${midi < tonic ? 'low ' : ''}${MAJOR.indexOf(above) + 1}`;
  });
  return `${degrees.join(' ')} in ${TONICS[tonic % 12] ?? ''} major`;
}

/** Beats on which something sounds, a line between measures: "1 2½ 3 | 1 3". */
function beatsText(onsets: readonly number[]): string {
  const measures: string[][] = [];
  for (const onset of onsets) {
    const [measure, beat] = [Math.floor(onset / BEATS), onset % BEATS];
    const whole = Math.floor(beat);
    (measures[measure] ??= []).push(`${whole + 1}${FRACTIONS.get(beat - whole) ?? ''}`);
  }
  return `beats ${measures.map((beats) => beats.join(' ')).join(' | ')}`;
}
