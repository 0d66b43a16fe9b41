import { midiOf, parsePitch } from '../../music/index.js';
import type { Score } from '../../score/index.js';
import { barDifferences, editCount, type NoteDifference } from './bar-differences.js';
import { barsOf, isSameBowing, isSameLevel, type Bar, type Token } from '../line/bars.js';
import type { SoloLine } from '../line/solo-line.js';

/** Two places that are alike but for a little. Shape: printed numbers; "9" or "9-12". */
export interface NearRepeat {
  readonly a: string;
  readonly b: string;
  readonly differences: readonly NoteDifference[];
}

/** Repeats of a score. */
export interface Repeats {
  readonly nearRepeats: readonly NearRepeat[];
  readonly exactRepeats: readonly { readonly a: string; readonly b: string }[];
}

/** At most so many notes, and so large a share of them, may differ in a near-repeat (our own knees). */
const MOST_DIFFERENCES = 3;
const LARGEST_SHARE = 0.34;
/** Measures with fewer notes say too little to be compared (our own knee). */
const FEWEST_NOTES = 3;
/** A measure is compared with at most so many that share a feature with it, the nearest first (our own limit). */
const MOST_CANDIDATES = 12;

/**
 * Finds measures that come again, exactly or but for a little.
 * Shape:  each measure is paired with the nearest earlier one that it is most like; runs of exact repeats are joined
 * Units:  printed measure numbers
 * Source: edit distance (Levenshtein 1966) over notes; measures are indexed by pitches and rhythm first, so that the
 *         number of comparisons grows with the number of measures
 */
export function findRepeats(score: Score, line: SoloLine): Repeats {
  const bars = barsOf(score, line);
  const twins = new TwinFinder(bars);
  const index = new FeatureIndex();
  const near = new Map<number, Near>();
  bars.forEach((bar, at) => {
    if (twins.take(at)) return;
    const isLong = bar.tokens.length >= FEWEST_NOTES;
    const before = twins.found.get(at - 1) ?? near.get(at - 1)?.a;
    const best = (isLong ? nearest(bars, at, index) : null) ?? continued(bars, at, before);
    if (best) near.set(at, best);
    if (isLong) index.add(bar.tokens, at);
  });
  const name = (n: number): string => score.measures[n]?.number ?? '';
  const span = (n: number, length: number): string =>
    length === 1 ? name(n) : `${name(n)}-${name(n + length - 1)}`;
  return {
    nearRepeats: [...near.values()].map(({ a, b, differences }) => ({ a: name(a), b: name(b), differences })),
    exactRepeats: joinRuns(twins.found)
      .filter(({ b, length }) => noteCount(bars, b, length) >= FEWEST_NOTES)
      .map(({ a, b, length }) => ({ a: span(a, length), b: span(b, length) })),
  };
}

function noteCount(bars: readonly Bar[], from: number, length: number): number {
  return bars.slice(from, from + length).reduce((sum, { tokens }) => sum + tokens.length, 0);
}

/** Pairs each measure with an equal earlier one: the next of the running pair, else one whose next is equal too. */
class TwinFinder {
  readonly found = new Map<number, number>();
  private readonly places = new Map<string, number[]>();
  private runStart = 0;

  constructor(private readonly bars: readonly Bar[]) {}

  /** Whether the measure has an equal earlier one. */
  take(at: number): boolean {
    const bar = this.bars[at];
    if (!bar) return false;
    const earlier = this.places.get(bar.key) ?? [];
    const running = (this.found.get(at - 1) ?? Infinity) + 1;
    const isRunning = running < this.runStart && this.isEqual(running, at);
    const equal = earlier.filter((place) => this.isEqual(place, at));
    const twin = isRunning ? running : (equal.find((place) => this.isEqual(place + 1, at + 1)) ?? equal[0]);
    if (earlier.length < MOST_CANDIDATES) this.places.set(bar.key, [...earlier, at]);
    if (twin === undefined) return false;
    if (!isRunning) this.runStart = at;
    this.found.set(at, twin);
    return true;
  }

  private isEqual(a: number, b: number): boolean {
    const [one, two] = [this.bars[a], this.bars[b]];
    if (one === undefined || two === undefined || a >= b || one.key !== two.key) return false;
    return isSameLevel(one, two) && isSameBowing(one, two);
  }
}

/** Earlier measures by what they share: their rhythm, their row of pitches with one left out, their opening. */
class FeatureIndex {
  private readonly places = new Map<string, number[]>();

  add(tokens: readonly Token[], at: number): void {
    for (const feature of featuresOf(tokens))
      this.places.set(feature, [...(this.places.get(feature) ?? []).slice(1 - MOST_CANDIDATES), at]);
  }

  candidates(tokens: readonly Token[]): number[] {
    const votes = new Map<number, number>();
    for (const feature of featuresOf(tokens))
      for (const place of this.places.get(feature) ?? []) votes.set(place, (votes.get(place) ?? 0) + 1);
    return [...votes]
      .sort((a, b) => b[1] - a[1] || b[0] - a[0])
      .slice(0, MOST_CANDIDATES)
      .map(([place]) => place);
  }
}

function featuresOf(tokens: readonly Token[]): Set<string> {
  const features = new Set<string>();
  for (let n = 0; n + 2 < tokens.length + 1 && n < tokens.length; n += 1) {
    const pair = tokens.slice(n, n + 2);
    if (pair.length === 2) features.add(`${n}${pair.map(({ pitch, rhythm }) => pitch + rhythm).join('|')}`);
    features.add(`p${n}${tokens[n]?.pitch}${tokens[n]?.rhythm}`);
  }
  return features;
}

interface Near {
  readonly a: number;
  readonly b: number;
  readonly differences: readonly NoteDifference[];
}

/**
 * The measure that goes on where the one before has its like: within a phrase that comes again a cadence of one or two
 * notes says enough, and of more notes half may differ.
 */
function continued(bars: readonly Bar[], at: number, before: number | undefined): Near | null {
  const [own, other, previous] = [bars[at], bars[(before ?? at) + 1], bars[at - 1]];
  if (before === undefined || before + 1 >= at || !own || !other || !previous) return null;
  if (own.tokens.length === 0 || previous.tokens.length < FEWEST_NOTES) return null;
  const differences = barDifferences(other, own);
  const heard = differences.filter(({ what }) => what !== 'dynamic');
  const isNear =
    own.tokens.length < FEWEST_NOTES
      ? heard.length <= 1
      : editCount(heard) <= Math.min(MOST_DIFFERENCES, own.tokens.length / 2);
  return differences.length > 0 && isNear ? { a: before + 1, b: at, differences } : null;
}

function nearest(bars: readonly Bar[], at: number, index: FeatureIndex): Near | null {
  const own = bars[at];
  if (!own) return null;
  let best: { a: number; b: number; differences: NoteDifference[]; edits: number } | null = null;
  for (const place of index.candidates(own.tokens)) {
    const other = bars[place];
    if (!other) continue;
    const differences = barDifferences(other, own);
    const edits = editCount(differences.filter(({ what }) => what !== 'dynamic'));
    const isNear =
      differences.length > 0 &&
      isOneRhythm(differences, own) &&
      (isSameTune(differences, own) || (edits <= MOST_DIFFERENCES && isSmallShare(differences, edits, own)));
    if (isNear && (!best || edits < best.edits)) best = { a: place, b: at, differences, edits };
  }
  return best && { a: best.a, b: best.b, differences: best.differences };
}

/** Differences that leave pitch and rhythm as they are. */
const SIGNS: ReadonlySet<NoteDifference['what']> = new Set([
  'articulation',
  'ornament',
  'hold',
  'bowing',
  'grouping',
  'dynamic',
]);

/** The same tune in the same rhythm is one music, however many of its signs differ; strokes on one pitch are no tune. */
function isSameTune(differences: readonly NoteDifference[], { tokens }: Bar): boolean {
  return (
    differences.every(({ what }) => SIGNS.has(what)) && tokens.some(({ pitch }) => pitch !== tokens[0]?.pitch)
  );
}

/** Strokes on one pitch are nothing but their rhythm: only two of them may be other. */
function isOneRhythm(differences: readonly NoteDifference[], { tokens }: Bar): boolean {
  if (tokens.some(({ pitch }) => pitch !== tokens[0]?.pitch)) return true;
  const heard = differences.filter(({ what }) => !SIGNS.has(what));
  return heard.length <= 2;
}

/** Three notes are alike by chance: there only one sign or one pitch may differ, by at most a third. */
function isSmallShare(differences: readonly NoteDifference[], edits: number, { tokens }: Bar): boolean {
  if (tokens.length > FEWEST_NOTES) return edits <= Math.max(1, tokens.length * LARGEST_SHARE);
  return (
    edits <= 1 &&
    differences.every(({ what, a, b }) => SIGNS.has(what) || (what === 'pitch' && isThird(a, b)))
  );
}

function isThird(a: string, b: string): boolean {
  const [one, two] = [parsePitch(a), parsePitch(b)];
  return one !== null && two !== null && Math.abs(midiOf(one) - midiOf(two)) <= 4;
}

/** Exact repeats that follow each other are one longer repeat. */
function joinRuns(exactOf: ReadonlyMap<number, number>): { a: number; b: number; length: number }[] {
  const runs: { a: number; b: number; length: number }[] = [];
  for (const [b, a] of [...exactOf].sort((x, y) => x[0] - y[0])) {
    const last = runs.at(-1);
    if (last && last.b + last.length === b && last.a + last.length === a) last.length += 1;
    else runs.push({ a, b, length: 1 });
  }
  return runs;
}
