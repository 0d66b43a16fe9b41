import { meterText, signatureWords, toNumber } from '../../music/index.js';
import { indexesOf, type Score, type Span } from '../../score/index.js';
import { barDifferences, type NoteDifference } from './bar-differences.js';
import { barsOf, type Bar } from '../line/bars.js';
import { soloLine } from '../line/solo-line.js';

/**
 * One measure in which two editions differ.
 * Shape:  printed numbers, null where an edition lacks the measure; `differences` says what b has that a has not
 */
export interface EditionDifference {
  readonly a: string | null;
  readonly b: string | null;
  readonly aIndex: number | null;
  readonly bIndex: number | null;
  readonly differences: readonly (NoteDifference | SetDifference)[];
}

/** A key or meter that differs. */
export interface SetDifference {
  readonly note: 0;
  readonly what: 'key' | 'meter';
  readonly a: string;
  readonly b: string;
}

/** Measures are looked for at most so far from where they should stand (our own limit). */
const WIDEST_SHIFT = 64;
/** What a measure without partner costs, in shares of a measure that is wholly different. */
const GAP_COST = 0.7;
/** Two measures that differ by more are not the same music (our own limit). */
const SAME_MUSIC = 0.5;

/**
 * Compares two editions of one piece measure by measure.
 * Shape:  measures that differ, in the order of the music; empty when the editions agree. Measures are paired so that as
 *         few notes as possible differ; one that an edition adds or lacks shifts the rest, not their comparison.
 * Source: sequence alignment (Needleman and Wunsch 1970) over measures, within a band
 */
export function compareEditions(a: Score, b: Score): EditionDifference[] {
  const [aBars, bBars] = [barsOf(a, soloLine(a)), barsOf(b, soloLine(b))];
  return align(aBars, bBars).flatMap(([aIndex, bIndex]): EditionDifference[] => {
    const numbers = {
      a: aIndex === null ? null : (a.measures[aIndex]?.number ?? null),
      b: bIndex === null ? null : (b.measures[bIndex]?.number ?? null),
      aIndex,
      bIndex,
    };
    if (aIndex === null || bIndex === null) return [{ ...numbers, differences: [] }];
    const [x, y] = [aBars[aIndex], bBars[bIndex]];
    const differences = [
      ...setDifferences(a, b, { aIndex, bIndex }),
      ...(x && y ? barDifferences(x, y) : []),
    ];
    return differences.length > 0 ? [{ ...numbers, differences }] : [];
  });
}

function setDifferences(
  a: Score,
  b: Score,
  { aIndex, bIndex }: { readonly aIndex: number; readonly bIndex: number },
): SetDifference[] {
  const [x, y] = [a.measures[aIndex], b.measures[bIndex]];
  if (!x || !y) return [];
  const isFirst = aIndex === 0 || bIndex === 0;
  const [px, py] = [a.measures[aIndex - 1], b.measures[bIndex - 1]];
  const found: SetDifference[] = [];
  const changes = (one: string, two: string, before: readonly (string | undefined)[]): boolean =>
    one !== two && (isFirst || before[0] !== one || before[1] !== two);
  const [mx, my] = [meterText(x.meter), meterText(y.meter)];
  if (changes(mx, my, [px && meterText(px.meter), py && meterText(py.meter)]))
    found.push({ note: 0, what: 'meter', a: mx, b: my });
  const [kx, ky] = [signatureWords(x.fifths), signatureWords(y.fifths)];
  if (changes(kx, ky, [px && signatureWords(px.fifths), py && signatureWords(py.fifths)]))
    found.push({ note: 0, what: 'key', a: kx, b: ky });
  if (toNumber(x.length) !== toNumber(y.length) && mx === my)
    found.push({
      note: 0,
      what: 'meter',
      a: `${toNumber(x.length)} quarters`,
      b: `${toNumber(y.length)} quarters`,
    });
  return found;
}

/**
 * Where each measure of one file stands in another.
 * Shape:  one entry a measure: `partners` its partner's index or -1, `same` whether the two are the same music
 */
export interface FollowedMusic {
  readonly partners: readonly number[];
  readonly same: readonly boolean[];
}

/**
 * Follows the music of one file into a corrected one.
 * Units:  measure indexes
 * Source: the pairing of compareEditions
 */
export function followMusic(from: Score, to: Score): FollowedMusic {
  const [a, b] = [barsOf(from, soloLine(from)), barsOf(to, soloLine(to))];
  const difference = distances(a, b);
  const partners = a.map(() => -1);
  const same = a.map(() => false);
  for (const [i, j] of align(a, b)) {
    if (i === null || j === null) continue;
    partners[i] = j;
    same[i] = difference(i, j) <= SAME_MUSIC;
  }
  return { partners, same };
}

/**
 * Where a span of the music stands that was followed.
 * Shape:  as wide as its music is there; null where less than half of its measures come back
 * Units:  measure indexes
 */
export function followedSpan({ partners, same }: FollowedMusic, span: Span): Span | null {
  const own = indexesOf([span]);
  const places = own.map((index) => partners[index] ?? -1).filter((place) => place >= 0);
  const [first, last] = [places[0], places.at(-1)];
  const isBack = own.filter((index) => same[index]).length * 2 >= own.length;
  return isBack && first !== undefined && last !== undefined
    ? { fromIndex: first, endIndex: last + 1 }
    : null;
}

type Pairing = readonly [a: number | null, b: number | null];

/** So many pairs of measures are looked at, whatever the files are; in two of 10,000 measures the band is 75 wide then. */
const MOST_PAIRS = 1_500_000;

/** Part of a row of the band: the costs from column `from` on. */
interface BandRow {
  readonly from: number;
  readonly costs: Float64Array;
}

/** The band around the diagonal; around the line from corner to corner where the lengths differ too much for that. */
function bandOf(rows: number, columns: number): (row: number) => readonly [from: number, to: number] {
  const straight = Math.abs(rows - columns) + WIDEST_SHIFT;
  const most = Math.max(WIDEST_SHIFT, Math.floor(MOST_PAIRS / (rows + 1) / 2));
  const slope = straight <= most ? 1 : columns / Math.max(1, rows);
  const width = Math.max(Math.min(straight, most), Math.ceil(slope));
  return (row) => [
    Math.max(0, Math.floor(row * slope) - width),
    Math.min(columns, Math.ceil(row * slope) + width),
  ];
}

/** The pairing of measures with the least difference, looked for near the diagonal. */
function align(a: readonly Bar[], b: readonly Bar[]): Pairing[] {
  const band = bandOf(a.length, b.length);
  const difference = distances(a, b);
  const rows: BandRow[] = [];
  const at = (i: number, j: number): number => {
    const row = rows[i];
    return row?.costs[j - row.from] ?? Infinity;
  };
  for (let i = 0; i <= a.length; i += 1) {
    const [from, to] = band(i);
    rows.push({ from, costs: new Float64Array(Math.max(0, to - from + 1)).fill(Infinity) });
    for (let j = from; j <= to; j += 1) {
      const best =
        i === 0 && j === 0
          ? 0
          : Math.min(
              i > 0 && j > 0 ? at(i - 1, j - 1) + difference(i - 1, j - 1) : Infinity,
              i > 0 ? at(i - 1, j) + GAP_COST : Infinity,
              j > 0 ? at(i, j - 1) + GAP_COST : Infinity,
            );
      const row = rows[i];
      if (row) row.costs[j - from] = best;
    }
  }
  const pairs: Pairing[] = [];
  let [i, j] = [a.length, b.length];
  while (i > 0 || j > 0) {
    const here = at(i, j);
    if (i > 0 && j > 0 && here === at(i - 1, j - 1) + difference(i - 1, j - 1))
      pairs.push([(i -= 1), (j -= 1)]);
    else if (i > 0 && (j === 0 || here === at(i - 1, j) + GAP_COST)) pairs.push([(i -= 1), null]);
    else pairs.push([null, (j -= 1)]);
  }
  return pairs.reverse();
}

/** How different two measures are, 0 to 1; told by equal notes at equal places, which is quick. */
function distances(a: readonly Bar[], b: readonly Bar[]): (i: number, j: number) => number {
  const sets = (bars: readonly Bar[]): ReadonlySet<string>[] =>
    bars.map(({ tokens }) => new Set(tokens.map(({ pitch, rhythm }) => `${pitch} ${rhythm}`)));
  const [aSets, bSets] = [sets(a), sets(b)];
  return (i, j) => {
    if (a[i]?.key === b[j]?.key) return 0;
    const [x, y] = [aSets[i], bSets[j]];
    if (!x || !y) return 1;
    let shared = 0;
    for (const one of x) if (y.has(one)) shared += 1;
    const all = x.size + y.size - shared;
    return all === 0 ? 0.1 : 0.1 + 0.9 * (1 - shared / all);
  };
}
