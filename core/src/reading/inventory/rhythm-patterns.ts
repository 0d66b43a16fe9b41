import { groupBy } from '../../base/index.js';
import { toNumber, ZERO } from '../../music/index.js';
import type { Score } from '../../score/index.js';
import { valueName } from '../line/value-names.js';
import type { SoloLine } from '../line/solo-line.js';

/** A rhythm that comes in several measures. Shape: "A" is the most frequent; `rhythm` in note values, rests marked. */
export interface RhythmPattern {
  readonly id: string;
  readonly measures: readonly string[];
  readonly rhythm: string;
}

/**
 * Measures of one rhythm, rests counted; measures without a note are in none.
 * Shape:  lists of measure indexes, rising, in the order of their first
 */
export function likeMeasures({ measures }: Score, line: SoloLine): (readonly number[])[] {
  const indexes = measures.flatMap((_, index) => ((line.byMeasure[index]?.length ?? 0) === 0 ? [] : [index]));
  const keyOf = (index: number): string =>
    events(line, index, toNumber(measures[index]?.start ?? ZERO))
      .map(({ at, length, isRest }) => `${at.toFixed(4)}${isRest ? 'r' : ':'}${length.toFixed(4)}`)
      .join(' ');
  return [...groupBy(indexes, keyOf).values()];
}

/**
 * Names the rhythms that come again, to be learned without pitch first.
 * Shape:  patterns that come at least twice, the most frequent first; then in the order of the music
 * Units:  printed measure numbers
 */
export function rhythmPatterns(
  { measures }: Score,
  line: SoloLine,
  clusters: readonly (readonly number[])[],
): RhythmPattern[] {
  return clusters
    .filter(({ length }) => length > 1)
    .toSorted((a, b) => b.length - a.length)
    .map((cluster, n) => ({
      id: letterId(n),
      measures: cluster.map((index) => measures[index]?.number ?? ''),
      rhythm: rhythmText(line, measures, cluster[0] ?? 0),
    }));
}

/** A … Z, then AA, AB …, as columns are lettered. */
function letterId(n: number): string {
  const letter = String.fromCodePoint(65 + (n % 26));
  return n < 26 ? letter : `${letterId(Math.floor(n / 26) - 1)}${letter}`;
}

interface RhythmEvent {
  readonly at: number;
  readonly length: number;
  readonly isRest: boolean;
}

function events(line: SoloLine, index: number, start: number): RhythmEvent[] {
  const notes = (line.played[index] ?? []).map((note) => ({
    at: toNumber(note.onset),
    length: note.length,
    isRest: false,
  }));
  const rests = (line.restsByMeasure[index] ?? []).map((rest) => ({
    at: rest.start - start,
    length: rest.length,
    isRest: true,
  }));
  return [...notes, ...rests].sort((a, b) => a.at - b.at);
}

function rhythmText(line: SoloLine, measures: Score['measures'], index: number): string {
  return events(line, index, toNumber(measures[index]?.start ?? ZERO))
    .map(({ length, isRest }) => `${valueName(length)}${isRest ? ' rest' : ''}`)
    .join(', ');
}

/**
 * A rhythm with equal values counted: "eighth, eighth, quarter" is "2 eighths, quarter".
 * Shape:  values joined by commas
 * @example shortRhythm('eighth, eighth, quarter') // '2 eighths, quarter'
 */
export function shortRhythm(rhythm: string): string {
  const runs: { value: string; count: number }[] = [];
  for (const value of rhythm.split(', ')) {
    const last = runs.at(-1);
    if (last?.value === value) last.count += 1;
    else runs.push({ value, count: 1 });
  }
  return runs.map(({ value, count }) => (count === 1 ? value : `${count} ${plural(value)}`)).join(', ');
}

function plural(value: string): string {
  return value.endsWith('half') ? `${value.slice(0, -4)}halves` : `${value}s`;
}
