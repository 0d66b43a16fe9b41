import { toNumber } from '../music/index.js';
import { inSpan, runsOf, type Score, type Span } from '../score/index.js';
import {
  hairpinRanges,
  isJoined,
  phraseReturns,
  wordSwells,
  type MusicReading,
  type SoloLine,
} from '../reading/index.js';
import { PassageNamer } from './passage-names.js';

/** A stretch that could be a passage. Shape: half-open run of measure indexes; `why` says what ends the one before. */
export interface SuggestedPassage extends Span {
  readonly name: string;
  readonly why: string;
}

/** What cuts and lengths are worth (our own choice); a passage has 2 to 8 measures, four are best. */
const BEST_LENGTH = 4;
const FEWEST = 2;
const MOST = 8;
const LENGTH_COST = 0.16;
const TOO_LONG_COST = 4;
const CUT_COST = 1;
const UNEVEN_COST = 1.4;

/** Why a bar line invites a cut, and how strongly (our own order, common practice). */
const INVITATIONS = {
  mark: [2.5, 'a rehearsal mark'],
  repeat: [2.5, 'a repeat sign'],
  change: [1.8, 'a new key, meter or tempo'],
  return: [2.6, 'earlier music comes back'],
  model: [1.2, 'what begins here comes back later'],
  upbeat: [1.6, 'an upbeat leads into it'],
  breath: [1.6, 'a breath is printed'],
  rest: [1.4, 'a rest'],
  long: [1.2, 'a long note ends the phrase'],
  slur: [0.5, 'a slur ends'],
  level: [0.5, 'a new dynamic'],
} as const;

/** A note this long, before a shorter one, lets a phrase end. Units: quarters. */
const LONG_QUARTERS = 1.5;

interface Cut {
  /** Below zero the bar line invites, Infinity forbids. */
  readonly cost: number;
  readonly why: string;
}

/**
 * Cuts a part into passages at phrase ends, marks, repeats and changes of demand.
 * Shape:  covers the range but for long rests, without overlap; 2 to 8 measures each, never through a tie or slur, nor
 *         between a crescendo and its arrival, unless nothing else is left; a range of one measure is one passage
 * Units:  measure indexes
 * Source: shortest path over the bar lines; costs are our own
 */
export function suggestPassages(
  score: Score,
  line: SoloLine,
  { reading, range }: { readonly reading: MusicReading; readonly range: Span },
): SuggestedPassage[] {
  const cuts = cutsOf(score, line, reading);
  const asks = score.measures.map(() => 0);
  for (const { index, score: demand } of reading.demands) asks[index] = demand;
  const spans = playedIn(line, range).flatMap((played) => cheapest(played, cuts, asks));
  const namer = new PassageNamer(score, line, reading);
  return spans.map((span, n) => ({
    ...span,
    name: namer.name(span, { isFirst: n === 0, isLast: n > 0 && n === spans.length - 1 }),
    why: n === 0 ? 'the beginning' : (cuts[span.fromIndex]?.why ?? ''),
  }));
}

/** So many measures of rest end a passage and belong to none. */
const LONG_REST = 2;

/** The range without its long rests. */
function playedIn({ played, restsByMeasure }: SoloLine, { fromIndex, endIndex }: Span): Span[] {
  const isSilent = (index: number): boolean =>
    (played[index]?.length ?? 0) === 0 && (restsByMeasure[index]?.length ?? 0) > 0;
  const indexes = Array.from({ length: endIndex - fromIndex }, (_, n) => fromIndex + n);
  const silent = runsOf(indexes.filter(isSilent)).filter((run) => run.endIndex - run.fromIndex >= LONG_REST);
  const spans = runsOf(indexes.filter((index) => !silent.some((run) => inSpan(run, index))));
  return spans.length > 0 ? spans : [{ fromIndex, endIndex }];
}

/** The least costly chain of spans from one end of the range to the other. */
function cheapest({ fromIndex, endIndex }: Span, cuts: readonly Cut[], asks: readonly number[]): Span[] {
  const best = new Map<number, { cost: number; from: number }>([[fromIndex, { cost: 0, from: fromIndex }]]);
  for (let end = fromIndex + 1; end <= endIndex; end += 1) {
    let found: { cost: number; from: number } | null = null;
    for (let from = end - 1; from >= fromIndex; from -= 1) {
      const before = best.get(from);
      if (!before) continue;
      const isWhole = from === fromIndex && end === endIndex;
      if (end - from < FEWEST && !isWhole && endIndex - fromIndex >= FEWEST) continue;
      if (end - from > 4 * MOST && found) break;
      const cut = end === endIndex ? 0 : (cuts[end]?.cost ?? 0);
      const cost = before.cost + spanCost(asks.slice(from, end)) + (cut === Infinity ? FORBIDDEN : cut);
      if (!found || cost < found.cost - 1e-9) found = { cost, from };
    }
    if (found) best.set(end, found);
  }
  const spans: Span[] = [];
  for (let end = endIndex; end > fromIndex;) {
    const from = best.get(end)?.from ?? fromIndex;
    spans.unshift({ fromIndex: from, endIndex: end });
    end = from;
  }
  return spans;
}

/** More than any chain of cuts that are allowed. */
const FORBIDDEN = 1e6;

function spanCost(asks: readonly number[]): number {
  const mean = asks.reduce((sum, one) => sum + one, 0) / asks.length;
  const spread = asks.reduce((sum, one) => sum + (one - mean) ** 2, 0);
  const over = Math.max(0, asks.length - MOST);
  return (
    CUT_COST + LENGTH_COST * (asks.length - BEST_LENGTH) ** 2 + UNEVEN_COST * spread + TOO_LONG_COST * over
  );
}

/** Every bar line by the measure that begins there. */
function cutsOf(score: Score, line: SoloLine, reading: MusicReading): Cut[] {
  const crossed = crossedLines(score, line);
  for (const index of arrivals(score, line)) crossed.add(index);
  const { returns, models } = returnStarts(score, line, reading);
  const levels = new Set(
    score.marks.dynamics.filter(({ onset }) => onset.num === 0).map(({ measureIndex }) => measureIndex),
  );
  return score.measures.map(({ index }) => {
    if (crossed.has(index) || isUpbeat(line, index - 1)) return { cost: Infinity, why: 'the phrase goes on' };
    const reasons = invitations(score, line, index);
    if (returns.has(index)) reasons.push('return');
    if (models.has(index)) reasons.push('model');
    if (isUpbeat(line, index) && index > 0) reasons.push('upbeat');
    if (levels.has(index)) reasons.push('level');
    const worths = reasons.map((reason) => INVITATIONS[reason]).sort((a, b) => b[0] - a[0]);
    return {
      cost: -worths.reduce((sum, [worth]) => sum + worth, 0),
      why: worths[0]?.[1] ?? 'an even length',
    };
  });
}

function invitations(
  { measures, tempos }: Score,
  line: SoloLine,
  index: number,
): (keyof typeof INVITATIONS)[] {
  const [before, here] = [measures[index - 1], measures[index]];
  if (!before || !here) return [];
  const found: (keyof typeof INVITATIONS)[] = [];
  if (here.rehearsal !== null) found.push('mark');
  const [then, now] = [before.navigation, here.navigation];
  if (now?.repeatForward || (then?.repeatTimes ?? null) !== null || then?.fine || then?.daCapo || now?.segno)
    found.push('repeat');
  const isChange =
    here.fifths !== before.fifths ||
    here.meter.groups.join('+') !== before.meter.groups.join('+') ||
    here.meter.beatType !== before.meter.beatType ||
    tempos.some(({ at }) => toNumber(at) === toNumber(here.start) && toNumber(at) > 0);
  if (isChange) found.push('change');
  const start = toNumber(here.start);
  const last = line.played[index - 1]?.at(-1);
  const isRest = (line.restsByMeasure[index - 1] ?? []).some(
    (rest) => Math.abs(rest.start + rest.length - start) < 1e-6,
  );
  const isRestHere = (line.restsByMeasure[index] ?? []).some((rest) => Math.abs(rest.start - start) < 1e-6);
  if (isRest || isRestHere) found.push('rest');
  if (last?.signs.hasBreath || last?.signs.hasFermata) found.push('breath');
  if (last && !isRest && last.length >= LONG_QUARTERS && (line.played[index]?.[0]?.length ?? 0) < last.length)
    found.push('long');
  if (last?.endsSlur) found.push('slur');
  return found;
}

/** Bar lines that a tie or slur goes over, by the measure that begins there. */
function crossedLines({ measures }: Score, line: SoloLine): Set<number> {
  const crossed = new Set<number>();
  for (const note of line.notes) {
    const first = line.byMeasure[note.measureIndex]?.[0];
    if (note === first && note.isSlurredInto) crossed.add(note.measureIndex);
    const end = note.start + note.length;
    for (let next = note.measureIndex + 1; next < measures.length; next += 1) {
      if (toNumber(measures[next]?.start ?? { num: 0, den: 1 }) > end - 1e-6) break;
      crossed.add(next);
    }
  }
  return crossed;
}

/** Where music of two measures and more comes back, and where its model begins. */
function returnStarts(
  score: Score,
  line: SoloLine,
  reading: MusicReading,
): { readonly returns: ReadonlySet<number>; readonly models: ReadonlySet<number> } {
  const phrases = phraseReturns(score, line, reading).filter(({ a, b, length }) => length > 1 && b - a > 1);
  return { returns: new Set(phrases.map(({ b }) => b)), models: new Set(phrases.map(({ a }) => a)) };
}

/** Measures at whose beginning a crescendo or a diminuendo arrives. */
function arrivals(score: Score, line: SoloLine): number[] {
  const levels = new Set(
    score.marks.dynamics.filter(({ onset }) => onset.num === 0).map(({ measureIndex }) => measureIndex),
  );
  return [...hairpinRanges(score, line), ...wordSwells(score)].flatMap(({ fromIndex, lastIndex }) => [
    ...Array.from({ length: lastIndex - fromIndex }, (_, n) => fromIndex + 1 + n),
    ...(levels.has(lastIndex + 1) ? [lastIndex + 1] : []),
  ]);
}

/** Whether a measure is silent but for notes at its end that lead on. */
function isUpbeat({ played, restsByMeasure }: SoloLine, index: number): boolean {
  const [notes, rests] = [played[index] ?? [], restsByMeasure[index] ?? []];
  const [first, last, next] = [notes[0], notes.at(-1), played[index + 1]?.[0]];
  if (!first || !last || !next || !isJoined(last, next)) return false;
  const sounding = notes.reduce((sum, { length }) => sum + length, 0);
  const silent = rests
    .filter(({ start }) => start < first.start)
    .reduce((sum, { length }) => sum + length, 0);
  return silent >= sounding && first.start > 0;
}

/**
 * The joins between neighbouring passages: the last measure of one and the first of the next.
 * Shape:  half-open spans of two measures, in the order of the music; none where passages do not meet
 * Units:  measure indexes
 * Source: common practice, no source
 */
export function seamsOf(passages: readonly Span[]): Span[] {
  const starts = new Set(passages.map(({ fromIndex }) => fromIndex));
  return passages
    .filter(({ endIndex }) => starts.has(endIndex))
    .map(({ endIndex }) => ({ fromIndex: endIndex - 1, endIndex: endIndex + 1 }))
    .sort((a, b) => a.fromIndex - b.fromIndex)
    .filter((seam, n, all) => n === 0 || all[n - 1]?.fromIndex !== seam.fromIndex);
}
