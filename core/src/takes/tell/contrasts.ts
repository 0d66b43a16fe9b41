import { toNumber } from '../../music/index.js';
import { levels } from '../../air/index.js';
import type { Score } from '../../score/index.js';
import type { MeasureLoudness } from './dynamics.js';
import type { TakeMeasure } from './take-measures.js';

/** Two printed levels and what lies between them in the take. Shape: printed measure numbers. Units: LU, louder is more */
export interface ContrastHeard {
  readonly from: string;
  readonly to: string;
  readonly fromLevel: string;
  readonly toLevel: string;
  readonly changeLu: number;
}

/** Where a take is loudest, and where the sheet of music is. Shape: printed measure numbers */
export interface LoudestPlace {
  readonly heard: string;
  readonly printed: string;
  readonly level: string;
  readonly isAsPrinted: boolean;
}

/** Measures that hold one printed level. */
interface Stretch {
  readonly level: string;
  readonly from: string;
  readonly lu: number;
}

const ORDER = ['ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff'];
/** Levels that lie next to each other, such as mp and mf, are not held against the listener. */
const LEAST_STEP = 2;
/** A place that is so much less loud than the loudest is as loud. Units: LU (the design's bound of what is heard) */
const AS_LOUD = 3;

/**
 * Where printed levels change at once, and by how much the sound does.
 * Shape:  in the order of the take, of neighbours at least two levels apart (p to f, mp to f); none where nothing is printed
 * Units:  see ContrastHeard
 * Source: the design
 */
export function contrastsHeard(
  score: Score,
  loudness: readonly MeasureLoudness[],
  measures: readonly TakeMeasure[],
): ContrastHeard[] {
  const stretches = stretchesOf(score, loudness, measures);
  return stretches.slice(1).flatMap((next, n): ContrastHeard[] => {
    const before = stretches[n];
    if (!before || Math.abs(levelHeight(next.level) - levelHeight(before.level)) < LEAST_STEP) return [];
    return [
      {
        ...{ from: before.from, to: next.from, fromLevel: before.level, toLevel: next.level },
        changeLu: next.lu - before.lu,
      },
    ];
  });
}

/** The loudest measure of the take against the loudest printed one. Shape: null where one level is printed, or none */
export function loudestPlace(
  score: Score,
  loudness: readonly MeasureLoudness[],
  measures: readonly TakeMeasure[],
): LoudestPlace | null {
  const stretches = stretchesOf(score, loudness, measures);
  const heights = stretches.map(({ level }) => levelHeight(level));
  const highest = Math.max(...heights);
  const loudest = [...loudness].sort((a, b) => b.lu - a.lu)[0];
  const printed = stretches.filter(({ level }) => levelHeight(level) === highest);
  const best = [...printed].sort((a, b) => b.lu - a.lu)[0];
  if (!loudest || !best || new Set(heights).size < 2) return null;
  const levelAt = levels(score);
  const inLoudest = measures
    .filter(({ measureIndex }) => levelAt(startOf(score, measureIndex)) === best.level)
    .map(({ pass }) => loudness.find((one) => one.pass === pass)?.lu ?? -Infinity);
  return {
    heard: loudest.number,
    printed: best.from,
    level: best.level,
    isAsPrinted: Math.max(...inLoudest) >= loudest.lu - AS_LOUD,
  };
}

/** Where a printed level stands among all, from 0 for the softest. */
export function levelHeight(level: string): number {
  return ORDER.indexOf(level);
}

function startOf(score: Score, measureIndex: number): number {
  const start = score.measures[measureIndex]?.start;
  return start ? toNumber(start) : 0;
}

/** Runs of played measures under one level; within a measure the level at its beginning counts. */
function stretchesOf(
  score: Score,
  loudness: readonly MeasureLoudness[],
  measures: readonly TakeMeasure[],
): Stretch[] {
  if (!score.marks.dynamics.some(({ mark }) => ORDER.includes(mark))) return [];
  const levelAt = levels(score);
  const runs: { level: string; from: string; run: number; lus: number[] }[] = [];
  for (const { measureIndex, pass, number, run } of measures) {
    const lu = loudness.find((one) => one.pass === pass)?.lu;
    if (lu === undefined) continue;
    const level = levelAt(startOf(score, measureIndex));
    const last = runs.at(-1);
    if (last?.level === level && last.run === run) last.lus.push(lu);
    else runs.push({ level, from: number, run, lus: [lu] });
  }
  return runs.map(({ level, from, lus }) => ({ level, from, lu: meanPower(lus) }));
}

/** The level of the mean power: levels are logarithms. Units: LU */
function meanPower(lus: readonly number[]): number {
  return 10 * Math.log10(lus.reduce((sum, lu) => sum + 10 ** (lu / 10), 0) / lus.length);
}
