import { capital } from '../../base/index.js';
import type { Score, Span } from '../../score/index.js';
import { raw, WIDEST_PAIR, type Finder } from '../findings/finding-parts.js';
import type { FindingPair, RawFinding } from '../findings/finding.js';
import { IMPORTANCE } from '../findings/importance.data.js';
import { differenceTexts, differingNotes } from '../findings/return-texts.js';
import { editCount, type NoteDifference } from '../likeness/bar-differences.js';
import { phraseReturns, type PhraseReturn } from '../likeness/phrases.js';
import { isBowed } from '../findings/family-words.js';
import { numberAt, spanText } from './places.js';

/** A measure with more that is other is no return any more: it leaves. */
const MOST_TOLD = 4;
/** A single measure that comes again exactly is a fact, no finding. */
const FEWEST_EXACT = 2;

/**
 * Music that comes back: where it leaves its model, and what is easy to play as before; what comes back exactly is told
 * once for a phrase.
 * Shape:  one finding a phrase
 * Source: common practice, no source
 */
export const returns: Finder = ({ score, line, nearRepeats, exactRepeats, profile }) => {
  const all = phraseReturns(score, line, { nearRepeats, exactRepeats });
  const left = new Set(all.map(({ leavesAt }) => leavesAt));
  // Where one return goes elsewhere, a measure that is somewhat like a third is no news.
  const isElsewhere = ({ b, length, differing }: PhraseReturn): boolean =>
    left.has(b) && length === 1 && editCount(differing.flatMap(({ differences }) => differences)) > 1;
  return all.flatMap((one): RawFinding[] => {
    if (isElsewhere(one)) return [];
    if (
      isOrdinary(
        one,
        line.notes.some(({ midi }) => midi !== null),
      )
    )
      return [];
    if (one.differing.length > 0 || one.leavesAt !== null) return [returnOf(score, one)];
    return one.length >= FEWEST_EXACT ? [repeatOf(score, one, isBowed(profile))] : [];
  });
};

/** A measure that goes on as the one before, and a level alone where the same strokes go on, are no returns. */
function isOrdinary({ a, b, length, differing }: PhraseReturn, hasPitch: boolean): boolean {
  if (differing.length === 0) return false;
  const differences = differing.flatMap((each) => each.differences);
  const isLevel = differences.every((one) => one.what === 'dynamic' && !isHairpinMoved(one));
  if (isLevel) return b - a <= 2 || !hasPitch;
  return b - a === 1 && (length > 1 || editCount(differences) > 1);
}

function repeatOf(score: Score, { a, b, length }: PhraseReturn, hasBow: boolean): RawFinding {
  const size = Math.min(length, WIDEST_PAIR);
  const [from, at] = [span(a, size), span(b, size)];
  return raw('repeat', {
    importance: IMPORTANCE.repeat + Math.min(0.06, length / 100),
    title: `${spanText(score, b, b + length - 1)} is ${spanText(score, a, a + length - 1)} again.`,
    sentence: `Note for note: practise it once, count it twice, and keep ${hasBow ? 'bowings' : 'breaths'} and fingerings the same.`,
    places: Array.from({ length }, (_, n) => b + n),
    pair: { a: from, b: at, aNotes: [], bNotes: [] },
    detail: 'exact',
  });
}

function span(from: number, length: number): Span {
  return { fromIndex: from, endIndex: from + length };
}

function returnOf(score: Score, one: PhraseReturn): RawFinding {
  const { a, b, length, differing, leavesAt } = one;
  const differences = differing.flatMap((each) => each.differences);
  const isHeard = differences.some(({ what }) => HEARD.has(what));
  const first = differing[0]?.b ?? leavesAt ?? b;
  const names = [spanText(score, b, b + length - 1), spanText(score, a, a + length - 1)];
  const intro =
    length === 1
      ? `Measure ${names[0] ?? ''} comes back to ${names[1] ?? ''}.`
      : `Measures ${names[0] ?? ''} come back to ${names[1] ?? ''}${leaves(score, one, first)}.`;
  return raw('return', {
    // The less differs, the easier it is to miss.
    importance:
      IMPORTANCE.return -
      (isHeard || leavesAt !== null ? 0 : 0.12) -
      0.01 * Math.min(8, Math.max(0, differences.length - 1)),
    title: returnTitle(differences),
    sentence: [intro, ...textsOf(score, one)].join(' '),
    places:
      leavesAt === null ? differing.map((each) => each.b) : [...differing.map((each) => each.b), leavesAt],
    notes: differing.flatMap((each) =>
      each.differences.filter(({ note }) => note > 0).map(({ note }) => ({ index: each.b, note })),
    ),
    pair: pairOf(one, first),
    detail: JSON.stringify(differences),
  });
}

const HEARD: ReadonlySet<NoteDifference['what']> = new Set([
  'pitch',
  'rhythm',
  'added',
  'missing',
  'ornament',
  'hold',
]);

function leaves(score: Score, { leavesAt, differing, b }: PhraseReturn, first: number): string {
  if (leavesAt !== null) return ` and leave them at ${numberAt(score, leavesAt)}`;
  const isPitch = differing.some(({ differences }) => differences.some(({ what }) => HEARD.has(what)));
  return isPitch && first > b ? ` and leave them at ${numberAt(score, first)}` : '';
}

/** What is other, measure by measure: where too much is, only that it is. */
function textsOf(score: Score, { differing, length }: PhraseReturn): string[] {
  return differing.map(({ a, b, differences }, n) => {
    const heard = differences.filter(({ what }) => what !== 'dynamic');
    if (heard.length > MOST_TOLD && n > 0)
      return `${numberAt(score, b)} goes another way than ${numberAt(score, a)}.`;
    const text = differenceTexts(differences)
      .slice(0, MOST_TOLD + 1)
      .join('; ');
    return length === 1
      ? `${capital(text)}.`
      : `In ${numberAt(score, b)}, not as in ${numberAt(score, a)}: ${text}.`;
  });
}

/** So many measures of both places as can be seen side by side, from the first that is other. */
function pairOf({ a, b, length, differing }: PhraseReturn, first: number): FindingPair {
  const from = length <= WIDEST_PAIR ? 0 : Math.max(0, Math.min(first - b, length - 1));
  const size = Math.min(WIDEST_PAIR, length - from);
  const seen = differing.filter((each) => each.b >= b + from && each.b < b + from + size);
  return {
    a: span(a + from, size),
    b: span(b + from, size),
    aNotes: seen.flatMap((each) =>
      differingNotes(each.differences).a.map((note) => ({ index: each.a, note })),
    ),
    bNotes: seen.flatMap((each) =>
      differingNotes(each.differences).b.map((note) => ({ index: each.b, note })),
    ),
  };
}

function isHairpinMoved({ a, b }: NoteDifference): boolean {
  return /from note/u.test(a) && /from note/u.test(b);
}

const ONE_KIND: Readonly<Partial<Record<NoteDifference['what'], string>>> = {
  articulation: 'The same notes, articulated otherwise.',
  bowing: 'The same notes, bowed the other way.',
  grouping: 'The same notes, grouped otherwise.',
  rhythm: 'The same notes in another rhythm.',
  ornament: 'The same notes, ornamented otherwise.',
  hold: 'The same notes, held or breathed otherwise.',
};

function returnTitle(differences: readonly NoteDifference[]): string {
  const kinds = [...new Set(differences.map(({ what }) => what))];
  const [kind] = kinds;
  if (kind === undefined) return 'It comes back, and goes elsewhere.';
  if (kinds.length > 1) return 'The return is not the same.';
  if (kind === 'dynamic')
    return differences.every(isHairpinMoved)
      ? 'The same notes, the hairpin elsewhere.'
      : 'The same notes, at another level.';
  return ONE_KIND[kind] ?? 'The return is not the same.';
}
