import { markPhrase, type BeatUnit, type TempoMark } from '../music/index.js';

/** Note values that are typed as one sign. */
const SIGNS: Readonly<Partial<Record<BeatUnit, string>>> = {
  quarter: '♩',
  'dotted-quarter': '♩.',
  eighth: '♪',
  'dotted-eighth': '♪.',
};

/** A tempo as it is told: "♩=116" where the note has a sign and one number is meant. */
export function tempoPhrase(mark: TempoMark): string {
  const sign = mark.beatUnit === null ? undefined : SIGNS[mark.beatUnit];
  const { bpmMin, bpmMax, bound, words } = mark;
  const isPlain = bound === 'exact' && bpmMin !== null && bpmMin === bpmMax && words === null;
  return isPlain && sign !== undefined ? `${sign}=${bpmMin}` : markPhrase(mark);
}
