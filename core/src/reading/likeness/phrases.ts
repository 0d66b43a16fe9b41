import type { Score } from '../../score/index.js';
import { barsOf, type Bar } from '../line/bars.js';
import type { SoloLine } from '../line/solo-line.js';
import { barDifferences, type NoteDifference } from './bar-differences.js';
import { measureIndexes } from '../../score/index.js';
import type { Repeats } from './repeats.js';

/** A measure of a return that is not the same. Shape: measure indexes. */
export interface PhraseDifference {
  readonly a: number;
  readonly b: number;
  readonly differences: readonly NoteDifference[];
}

/**
 * Music that comes back, as a phrase: exact, nearly, or until it goes another way.
 * Shape:  half-open in both places; `leavesAt` is the first measure that goes elsewhere altogether, where the model would go
 *         on, null where the phrase ends or comes back whole
 * Units:  measure indexes
 */
export interface PhraseReturn {
  readonly a: number;
  readonly b: number;
  readonly length: number;
  readonly differing: readonly PhraseDifference[];
  readonly leavesAt: number | null;
}

/** A return goes on through so many measures of the same rhythm after what is alike. */
const MOST_LEFT = 2;
/** Measures of so few notes come again by chance, two together that have so many do not. */
const MOST_SHORT = 2;
const FEWEST_TOGETHER = 4;
/** A single measure of so many notes is a model that the next may leave. */
const RICH = 6;

/**
 * Joins measures that come again, exactly or nearly, into phrases, and follows each to where it leaves its model.
 * Shape:  in the order of the music; a measure belongs to one return
 * Source: common practice, no source
 */
export function phraseReturns(score: Score, line: SoloLine, repeats: Repeats): PhraseReturn[] {
  const bars = barsOf(score, line);
  const sources = withShortMeasures(bars, sourcesOf(score, repeats));
  const isSource = (at: number, lag: number): boolean => sources.get(at) === at - lag;
  const found: PhraseReturn[] = [];
  let next = 0;
  for (const first of [...sources.keys()].sort((a, b) => a - b)) {
    const source = sources.get(first);
    if (first < next || source === undefined) continue;
    const lag = first - source;
    let end = first + 1;
    const isEqualNext = (place: number): boolean => place - lag < first && isEqual(bars, place, lag);
    let at = first;
    // What is too short to come again by itself may have begun it.
    while (at - 1 >= next && isEqual(bars, at - 1, lag)) at -= 1;
    // One measure between may go its own way.
    while (
      isSource(end, lag) ||
      isEqualNext(end) ||
      (isSource(end + 1, lag) && isPlayed(bars, end, lag) && end + 1 - lag < at)
    )
      end += 1;
    const alike = end - at;
    const isRich = (bars[at]?.tokens.length ?? 0) >= RICH && goesOn(bars, source, first);
    for (
      let n = 0;
      (alike > 1 || isRich) &&
      n < MOST_LEFT &&
      isSameRhythm(bars, end, lag) &&
      end - lag < at &&
      !sources.has(end);
      n += 1
    )
      end += 1;
    const differing = differingIn(bars, { from: at, end, lag });
    const isLeft = alike > 1 && differing.length === 0 && isOpen(bars, end, lag);
    found.push({ a: at - lag, b: at, length: end - at, differing, leavesAt: isLeft ? end : null });
    next = end;
  }
  return found;
}

/** The earlier measure that each measure repeats, exactly or nearly. Shape: by measure index. */
export function sourcesOf(
  { measures }: Pick<Score, 'measures'>,
  { nearRepeats, exactRepeats }: Repeats,
): ReadonlyMap<number, number> {
  const indexOf = measureIndexes(measures);
  const sources = new Map<number, number>();
  for (const { a, b } of [...nearRepeats, ...exactRepeats]) {
    const [from = [], at = []] = [a, b].map((text) =>
      text.split('-').map((number) => indexOf.get(number) ?? 0),
    );
    const [start = 0, end = start] = at;
    for (let n = 0; n <= end - start; n += 1) sources.set(start + n, (from[0] ?? 0) + n);
  }
  return sources;
}

/** Measures of few notes that come again in pairs: the first is equal, the second equal or of the same rhythm. */
function withShortMeasures(
  bars: readonly Bar[],
  known: ReadonlyMap<number, number>,
): ReadonlyMap<number, number> {
  const sources = new Map(known);
  const places = new Map<string, number[]>();
  bars.forEach((bar, at) => {
    const size = bar.tokens.length;
    if (size > 0 && size <= MOST_SHORT && !sources.has(at)) {
      const model = places.get(bar.key)?.find((place) => place + 1 < at && goesOn(bars, place, at));
      if (model !== undefined) {
        sources.set(at, model);
        if (!sources.has(at + 1)) sources.set(at + 1, model + 1);
      }
    }
    if (size > 0 && size <= MOST_SHORT) places.set(bar.key, [...(places.get(bar.key) ?? []), at]);
  });
  return sources;
}

function goesOn(bars: readonly Bar[], model: number, at: number): boolean {
  const [own, other] = [bars[at + 1], bars[model + 1]];
  if (!own || !other || own.tokens.length === 0) return false;
  const size = own.tokens.length + (bars[at]?.tokens.length ?? 0);
  const isAlike = own.key === other.key || isSameRhythm(bars, at + 1, at - model);
  const isPitched = own.tokens.some(({ pitch }) => pitch !== 'x');
  const same = own.tokens.filter(({ pitch }, n) => pitch === other.tokens[n]?.pitch).length;
  return size >= FEWEST_TOGETHER && isAlike && isPitched && same * 2 >= own.tokens.length;
}

function isEqual(bars: readonly Bar[], at: number, lag: number): boolean {
  const [own, model] = [bars[at], bars[at - lag]];
  return own !== undefined && model !== undefined && own.tokens.length > 0 && own.key === model.key;
}

function isPlayed(bars: readonly Bar[], at: number, lag: number): boolean {
  return (bars[at]?.tokens.length ?? 0) > 0 && (bars[at - lag]?.tokens.length ?? 0) > 0;
}

function isSameRhythm(bars: readonly Bar[], at: number, lag: number): boolean {
  const [own, model] = [bars[at], bars[at - lag]];
  if (!own || !model || own.tokens.length === 0) return false;
  return own.tokens.map(({ rhythm }) => rhythm).join() === model.tokens.map(({ rhythm }) => rhythm).join();
}

function differingIn(
  bars: readonly Bar[],
  { from, end, lag }: { readonly from: number; readonly end: number; readonly lag: number },
): PhraseDifference[] {
  return Array.from({ length: end - from }, (_, n) => from + n).flatMap((at) => {
    const [model, own] = [bars[at - lag], bars[at]];
    const differences = model && own ? barDifferences(model, own) : [];
    return differences.length > 0 ? [{ a: at - lag, b: at, differences }] : [];
  });
}

/** Whether model and return both go on, and no long note ended the phrase before. */
function isOpen(bars: readonly Bar[], end: number, lag: number): boolean {
  const [last, model] = [bars[end - 1]?.tokens, bars[end - lag]?.tokens];
  const [own] = [bars[end]?.tokens];
  if (!last || !model?.length || !own?.length) return false;
  const lengths = last.map(({ rhythm }) => Number(rhythm.split(':')[1]));
  return (lengths.at(-1) ?? 0) < 2 * Math.min(...lengths) || (lengths.at(-1) ?? 0) < 1.5;
}
