import type { FindingKind } from './finding.js';

/**
 * How much each kind matters when the pencil is in hand, and why: what costs an audition first, what helps to learn
 * later, facts last. Our own order, common practice, no source; single findings of a kind may move a little.
 */
const TABLE: readonly (readonly [kind: FindingKind, importance: number, why: string])[] = [
  ['deciding', 1, 'a tempo that the hardest measure cannot hold is lost from the first note'],
  ['return', 0.82, 'the hands play the first version again: the error that juries hear most'],
  ['change', 0.8, 'a missed key, meter or beat spoils every measure after it'],
  ['meter', 0.78, 'a group felt against its beat moves the pulse'],
  ['off-key', 0.74, 'a passage in another key is full of wrong notes until its key is named'],
  ['rare-note', 0.7, 'an alteration that stands once is played as the key has it'],
  ['surprise', 0.68, 'a sign far back, or none where one is expected, is read over'],
  ['fast-run', 0.66, 'an irregular group is rounded to the usual number'],
  ['odd-one-out', 0.64, 'the one that lacks the mark gets it by habit'],
  ['tie', 0.62, 'a held note is cut short, or the beat is struck again'],
  ['ornament', 0.6, 'the neighbour is settled once, before the finger has'],
  ['technique', 0.58, 'another way of playing needs time before it and after it'],
  ['awkward', 0.56, 'a pair that the instrument makes hard fails at speed, not before'],
  ['double-dot', 0.54, 'a short note behind it comes too early'],
  ['rest', 0.54, 'a long rest is counted in the head, in front of a jury'],
  ['tempo', 0.52, 'a tempo that was left comes back another one'],
  ['feel', 0.5, 'the beat that is counted decides how small values feel'],
  ['leap', 0.48, 'a wide leap fails when it is not heard before'],
  ['breath', 0.46, 'a breath that is not settled is taken in the wrong place'],
  ['dynamics', 0.44, 'levels that are not settled come out alike'],
  ['lead', 0.42, 'a separate note behind a slur is clipped or stressed instead of led on'],
  ['held', 0.4, 'a long note dies when it is only waited out'],
  ['shows', 0.38, 'it says what the jury listens for'],
  ['rhythm', 0.34, 'a rhythm learned once serves many measures'],
  ['repeat', 0.3, 'what comes back exactly is practised once'],
  ['range', 0.3, 'the ends of the compass need care, most do not'],
  ['run', 0.28, 'a run is a scale that the warm-up has'],
];

/** Importance by kind, from 0 to 1. */
export const IMPORTANCE = Object.fromEntries(
  TABLE.map(([kind, importance]) => [kind, importance]),
) as Readonly<Record<FindingKind, number>>;
