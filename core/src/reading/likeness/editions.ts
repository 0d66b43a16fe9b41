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
 * Follows the music of one file into a corrected one.
 * Shape:  where a span of `from` stands in `to`, as wide as its music is there; null where less than half of its measures
 *         come back
 * Units:  measure indexes
 * Source: the pairing of compareEditions
 */
export function followMusic(from: Score, to: Score): (span: Span) => Span | null {
  const [a, b] = [barsOf(from, soloLine(from)), barsOf(to, soloLine(to))];
  const difference = distances(a, b);
  const partners = new Map<number, number>();
  const same = new Set<number>();
  for (const [i, j] of align(a, b)) {
    if (i === null || j === null) continue;
    partners.set(i, j);
    if (difference(i, j) <= SAME_MUSIC) same.add(i);
  }
  return (span) => {
    const own = indexesOf([span]);
    const places = own.flatMap((index) => partners.get(index) ?? []);
    const [first, last] = [places[0], places.at(-1)];
    const isBack = own.filter((index) => same.has(index)).length * 2 >= own.length;
    return isBack && first !== undefined && last !== undefined
      ? { fromIndex: first, endIndex: last + 1 }
      : null;
  };
}

type Pairing = readonly [a: number | null, b: number | null];

/** The pairing of measures with the least difference, looked for near the diagonal. */
function align(a: readonly Bar[], b: readonly Bar[]): Pairing[] {
  const width = Math.abs(a.length - b.length) + WIDEST_SHIFT;
  const cost = Array.from({ length: a.length + 1 }, () => new Map<number, number>());
  const at = (i: number, j: number): number => cost[i]?.get(j) ?? Infinity;
  const difference = distances(a, b);
  for (let i = 0; i <= a.length; i += 1)
    for (let j = Math.max(0, i - width); j <= Math.min(b.length, i + width); j += 1) {
      if (i === 0 && j === 0) cost[0]?.set(0, 0);
      else
        cost[i]?.set(
          j,
          Math.min(
            i > 0 && j > 0 ? at(i - 1, j - 1) + difference(i - 1, j - 1) : Infinity,
            i > 0 ? at(i - 1, j) + GAP_COST : Infinity,
            j > 0 ? at(i, j - 1) + GAP_COST : Infinity,
          ),
        );
    }
  const pairs: Pairing[] = [];
  let [i, j] = [a.length, b.length];
  while (i > 0 || j > 0) {
    const here = at(i, j);
    if (i > 0 && j > 0 && here === at(i - 1, j - 1) + difference(i - 1, j - 1))
      pairs.push([(i -= 1), (j -= 1)]);
    else if (i > 0 && here === at(i - 1, j) + GAP_COST) pairs.push([(i -= 1), null]);
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
