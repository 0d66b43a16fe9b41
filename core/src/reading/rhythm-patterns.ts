import { toNumber } from '../music/index.js';
import type { Score } from '../score/index.js';
import { valueName } from './value-names.js';
import type { SoloLine } from './solo-line.js';

/** A rhythm that comes in several measures. Shape: "A" is the most frequent; `rhythm` in note values, rests marked. */
export interface RhythmPattern {
  readonly id: string;
  readonly measures: readonly string[];
  readonly rhythm: string;
}

/** The rhythm of one measure as text that is equal for equal rhythms; "" for an empty measure. */
export function rhythmKey(line: SoloLine, index: number, start: number): string {
  return events(line, index, start)
    .map(({ at, length, isRest }) => `${at.toFixed(4)}${isRest ? 'r' : ':'}${length.toFixed(4)}`)
    .join(' ');
}

/**
 * Clusters measures by rhythm, to be learned without pitch first.
 * Shape:  patterns that come at least twice, the most frequent first; then in the order of the music
 * Units:  printed measure numbers
 * Errors: none
 * Source: none
 */
export function rhythmPatterns(score: Score, line: SoloLine): RhythmPattern[] {
  const clusters = new Map<string, { measures: string[]; rhythm: string }>();
  score.measures.forEach(({ number, start }, index) => {
    if ((line.byMeasure[index]?.length ?? 0) === 0) return;
    const key = rhythmKey(line, index, toNumber(start));
    const cluster = clusters.get(key) ?? { measures: [], rhythm: rhythmText(line, index, toNumber(start)) };
    cluster.measures.push(number);
    clusters.set(key, cluster);
  });
  return [...clusters.values()]
    .filter(({ measures }) => measures.length > 1)
    .sort((a, b) => b.measures.length - a.measures.length)
    .map((cluster, n) => ({ id: letterId(n), ...cluster }));
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
  const notes = (line.byMeasure[index] ?? [])
    .filter(({ isGrace }) => !isGrace)
    .map((note) => ({ at: toNumber(note.onset), length: note.length, isRest: false }));
  const rests = line.rests
    .slice(...restBounds(line, index))
    .map((rest) => ({ at: rest.start - start, length: rest.length, isRest: true }));
  return [...notes, ...rests].sort((a, b) => a.at - b.at);
}

/** Rests stand in time order, so those of a measure are one stretch of the list. */
function restBounds({ rests }: SoloLine, index: number): [number, number] {
  const first = lowerBound(rests, index);
  return [first, lowerBound(rests, index + 1)];
}

function lowerBound(rests: SoloLine['rests'], index: number): number {
  let [low, high] = [0, rests.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((rests[middle]?.measureIndex ?? 0) < index) low = middle + 1;
    else high = middle;
  }
  return low;
}

function rhythmText(line: SoloLine, index: number, start: number): string {
  return events(line, index, start)
    .map(({ length, isRest }) => `${valueName(length)}${isRest ? ' rest' : ''}`)
    .join(', ');
}
