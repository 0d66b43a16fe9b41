import { midiOf, parsePitch, pitchName, toNumber } from '../music/index.js';
import type { DynamicMark, Score } from '../score/index.js';
import { articulationOf } from './inventory.js';
import { noteFrom, type LineNote, type SoloLine } from './solo-line.js';
import { valueName } from './value-names.js';

/** One difference between two measures that are alike. Shape: `note` counts from 1; texts as musicians say them. */
export interface NoteDifference {
  readonly note: number;
  readonly what: 'pitch' | 'rhythm' | 'articulation' | 'dynamic' | 'added' | 'missing';
  readonly a: string;
  readonly b: string;
}

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

/** A note as repeats see it. */
interface Token {
  readonly pitch: string;
  readonly rhythm: string;
  readonly articulation: string;
  readonly ordinal: number;
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
 * Errors: none
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

/** A measure as repeats see it. Shape: `key` is equal for equal notes and equal signs after the first note. */
export interface Bar {
  readonly tokens: readonly Token[];
  readonly key: string;
  /** The dynamic printed at its beginning, and the one that holds there. */
  readonly printed: string | null;
  readonly level: string | null;
  readonly inside: string;
}

/** Every measure as repeats see it. */
export function barsOf({ measures, marks }: Score, line: SoloLine): Bar[] {
  const dynamics = measures.map((): DynamicMark[] => []);
  for (const mark of marks.dynamics) dynamics[mark.measureIndex]?.push(mark);
  const hairpins = measures.map((): string[] => []);
  for (const { measureIndex, onset, type } of marks.hairpins)
    if (type !== 'stop')
      hairpins[measureIndex]?.push(`${type} from note ${noteFrom(line, measureIndex, onset)}`);
  let level: string | null = null;
  return measures.map((_, index) => {
    const tokens = (line.played[index] ?? []).map(tokenOf);
    const own = dynamics[index] ?? [];
    const printed = own.find(({ onset }) => onset.num === 0)?.mark ?? null;
    const later = own.filter(({ onset }) => onset.num !== 0).map(({ mark }) => mark);
    const inside = [...later, ...(hairpins[index] ?? [])].join(', ');
    level = printed ?? level;
    const bar = { tokens, printed, level, inside };
    level = later.at(-1) ?? level;
    const key = JSON.stringify([
      tokens.map(({ pitch, rhythm, articulation }) => [pitch, rhythm, articulation]),
      inside,
    ]);
    return { ...bar, key };
  });
}

/** A mark that only one of two measures prints makes no difference where the same level holds in the other. */
function isSameLevel(a: Bar, b: Bar): boolean {
  return (a.printed === null && b.printed === null) || a.level === b.level;
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
    return one !== undefined && two !== undefined && a < b && one.key === two.key && isSameLevel(one, two);
  }
}

function tokenOf(note: LineNote): Token {
  return {
    pitch: note.written ? pitchName(note.written) : 'x',
    rhythm: `${toNumber(note.onset).toFixed(4)}:${note.length.toFixed(4)}`,
    articulation: articulationOf(note) + (note.endsSlur ? '.' : ''),
    ordinal: note.ordinal,
  };
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
      differences.length > 0 && edits <= MOST_DIFFERENCES && isSmallShare(differences, edits, own);
    if (isNear && (!best || edits < best.edits)) best = { a: place, b: at, differences, edits };
  }
  return best && { a: best.a, b: best.b, differences: best.differences };
}

/** Everything in which two measures differ, note by note, their dynamics last. */
export function barDifferences(a: Bar, b: Bar): NoteDifference[] {
  const dynamic = dynamicDifference(a, b);
  return [...compareMeasures(a.tokens, b.tokens), ...(dynamic ? [dynamic] : [])];
}

function dynamicDifference(a: Bar, b: Bar): NoteDifference | null {
  if (isSameLevel(a, b) && a.inside === b.inside) return null;
  const isPrinted = a.printed !== null || b.printed !== null;
  const text = ({ printed, level, inside }: Bar): string =>
    [isPrinted ? (printed ?? (level === null ? '' : `still ${level}`)) : '', inside]
      .filter((one) => one !== '')
      .join(', ') || 'none';
  return { note: 0, what: 'dynamic', a: text(a), b: text(b) };
}

/** Notes that were changed, added or left out; a longer note and the shorter one after it are one change. */
function editCount(differences: readonly NoteDifference[]): number {
  const isGap = (what: string): boolean => what === 'added' || what === 'missing';
  const edits = new Set(differences.map(({ note, what }) => `${isGap(what) ? what : 'changed'} ${note}`));
  const rhythms = new Set(differences.filter(({ what }) => what === 'rhythm').map(({ note }) => note));
  const others = new Set(
    differences.filter(({ what }) => what !== 'rhythm' && !isGap(what)).map(({ note }) => note),
  );
  const followers = [...rhythms].filter((note) => rhythms.has(note - 1) && !others.has(note));
  return edits.size - followers.length;
}

/** Three notes are alike by chance: there only one sign or one pitch may differ, by at most a third. */
function isSmallShare(differences: readonly NoteDifference[], edits: number, { tokens }: Bar): boolean {
  if (tokens.length > FEWEST_NOTES) return edits <= Math.max(1, tokens.length * LARGEST_SHARE);
  return (
    edits <= 1 &&
    differences.every(
      ({ what, a, b }) =>
        what === 'articulation' || what === 'dynamic' || (what === 'pitch' && isThird(a, b)),
    )
  );
}

function isThird(a: string, b: string): boolean {
  const [one, two] = [parsePitch(a), parsePitch(b)];
  return one !== null && two !== null && Math.abs(midiOf(one) - midiOf(two)) <= 4;
}

/** Note by note what differs between two measures, aligned by least edits. */
function compareMeasures(a: readonly Token[], b: readonly Token[]): NoteDifference[] {
  const cost = editCosts(a, b);
  const found: NoteDifference[] = [];
  let [i, j] = [a.length, b.length];
  const at = (x: number, y: number): number => cost[x]?.[y] ?? Infinity;
  while (i > 0 || j > 0) {
    const [x, y] = [a[i - 1], b[j - 1]];
    if (x && y && at(i, j) === at(i - 1, j - 1) + changeCost(x, y)) {
      found.unshift(...differencesOf(x, y));
      i -= 1;
      j -= 1;
    } else if (x && at(i, j) === at(i - 1, j) + GAP) {
      found.unshift({ note: x.ordinal, what: 'missing', a: x.pitch, b: 'nothing' });
      i -= 1;
    } else if (y) {
      found.unshift({ note: y.ordinal, what: 'added', a: 'nothing', b: y.pitch });
      j -= 1;
    } else break;
  }
  return found;
}

const GAP = 3;

function changeCost(a: Token, b: Token): number {
  return (
    (a.pitch === b.pitch ? 0 : 2) +
    (a.rhythm === b.rhythm ? 0 : 2) +
    (a.articulation === b.articulation ? 0 : 1)
  );
}

function editCosts(a: readonly Token[], b: readonly Token[]): number[][] {
  const cost = Array.from({ length: a.length + 1 }, (_, i) =>
    Array.from({ length: b.length + 1 }, (__, j) => (i === 0 ? j * GAP : j === 0 ? i * GAP : 0)),
  );
  a.forEach((x, i) => {
    b.forEach((y, j) => {
      const row = cost[i + 1];
      if (row)
        row[j + 1] = Math.min(
          (cost[i]?.[j] ?? 0) + changeCost(x, y),
          (cost[i]?.[j + 1] ?? 0) + GAP,
          (row[j] ?? 0) + GAP,
        );
    });
  });
  return cost;
}

function differencesOf(a: Token, b: Token): NoteDifference[] {
  const length = (token: Token): string => valueName(Number(token.rhythm.split(':')[1]));
  return [
    ...(a.pitch === b.pitch ? [] : [{ note: b.ordinal, what: 'pitch' as const, a: a.pitch, b: b.pitch }]),
    ...(a.rhythm === b.rhythm
      ? []
      : [{ note: b.ordinal, what: 'rhythm' as const, a: length(a), b: length(b) }]),
    ...(a.articulation === b.articulation
      ? []
      : [
          {
            note: b.ordinal,
            what: 'articulation' as const,
            a: spoken(a.articulation),
            b: spoken(b.articulation),
          },
        ]),
  ];
}

/** "slurred." is the end of a slur. */
function spoken(articulation: string): string {
  return articulation.endsWith('.') ? `${articulation.slice(0, -1)}, slur ends` : articulation;
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
