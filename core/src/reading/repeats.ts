import { pitchName, toNumber } from '../music/index.js';
import type { Score } from '../score/index.js';
import { articulationOf } from './inventory.js';
import type { LineNote, SoloLine } from './solo-line.js';

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
  const tokens = line.byMeasure.map((notes) => notes.filter(({ isGrace }) => !isGrace).map(tokenOf));
  const dynamics = score.measures.map((_, index) => dynamicsIn(score, index));
  const exactOf = new Map<number, number>();
  const near: { a: number; b: number; differences: NoteDifference[] }[] = [];
  const full = new Map<string, number>();
  const index = new FeatureIndex();
  tokens.forEach((own, at) => {
    if (own.length >= 1) {
      const key = JSON.stringify([
        own.map(({ pitch, rhythm, articulation }) => [pitch, rhythm, articulation]),
        dynamics[at],
      ]);
      const twin = full.get(key);
      if (twin !== undefined && own.length >= FEWEST_NOTES) exactOf.set(at, twin);
      else full.set(key, at);
      if (twin === undefined && own.length >= FEWEST_NOTES) {
        const best = nearest(own, at, { tokens, dynamics, index });
        if (best) near.push(best);
        index.add(own, at);
      }
    }
  });
  const name = (n: number): string => score.measures[n]?.number ?? '';
  return {
    nearRepeats: near.map(({ a, b, differences }) => ({ a: name(a), b: name(b), differences })),
    exactRepeats: joinRuns(exactOf).map(({ a, b, length }) => ({
      a: length === 1 ? name(a) : `${name(a)}-${name(a + length - 1)}`,
      b: length === 1 ? name(b) : `${name(b)}-${name(b + length - 1)}`,
    })),
  };
}

function tokenOf(note: LineNote): Token {
  return {
    pitch: note.written ? pitchName(note.written) : 'x',
    rhythm: `${toNumber(note.onset).toFixed(4)}:${note.length.toFixed(4)}`,
    articulation: articulationOf(note) + (note.endsSlur ? '.' : ''),
    ordinal: note.ordinal,
  };
}

function dynamicsIn({ marks }: Score, index: number): string {
  return [
    ...marks.dynamics.filter(({ measureIndex }) => measureIndex === index).map(({ mark }) => mark),
    ...marks.hairpins
      .filter(({ measureIndex, type }) => measureIndex === index && type !== 'stop')
      .map(({ type }) => (type === 'crescendo' ? '<' : '>')),
  ].join(' ');
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

function nearest(
  own: readonly Token[],
  at: number,
  {
    tokens,
    dynamics,
    index,
  }: {
    readonly tokens: readonly (readonly Token[])[];
    readonly dynamics: readonly string[];
    readonly index: FeatureIndex;
  },
): { a: number; b: number; differences: NoteDifference[] } | null {
  let best: { a: number; b: number; differences: NoteDifference[] } | null = null;
  for (const place of index.candidates(own)) {
    const differences = compareMeasures(tokens[place] ?? [], own);
    if (dynamics[place] !== dynamics[at])
      differences.push({ note: 0, what: 'dynamic', a: dynamics[place] || 'none', b: dynamics[at] || 'none' });
    const notes = new Set(differences.filter(({ what }) => what !== 'dynamic').map(({ note }) => note)).size;
    const isNear =
      differences.length > 0 && notes <= MOST_DIFFERENCES && notes <= Math.max(1, own.length * LARGEST_SHARE);
    if (isNear && (!best || notes < new Set(best.differences.map(({ note }) => note)).size))
      best = { a: place, b: at, differences };
  }
  return best;
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
  const length = (token: Token): string => `${Number(token.rhythm.split(':')[1])} quarters`;
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
