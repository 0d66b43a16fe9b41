import { roundTo } from '../../base/index.js';
import type { ToldMeasure, ToldTake } from './told-take.js';

/** A measure in two takes. Shape: null where one of them does not tell it. Units: beats of the score a minute */
export interface MeasureBeside {
  readonly index: number;
  readonly number: string;
  readonly before: ToldMeasure | null;
  readonly after: ToldMeasure | null;
}

/** What two takes have in common and what moved. Shape: `sentences` the first things first */
export interface TakesBeside {
  readonly measures: readonly MeasureBeside[];
  readonly sentences: readonly string[];
}

/** Less than this is the same (our own). Units: per cent of a tempo, per cent of evenness, LU */
const MOVED = { tempo: 1.5, spread: 1, even: 2, lu: 1 };

/**
 * Two takes of the same music, measure by measure.
 * Shape:  measures in the order of the score, each as it was last played in its take; "steadier" by the spread of measures'
 *         tempos around each take's own middle
 * Source: the design
 */
export function takesBeside(before: ToldTake, after: ToldTake): TakesBeside {
  const [one, other] = [before, after].map(lastOf);
  const indexes = [...new Set([...(one?.keys() ?? []), ...(other?.keys() ?? [])])].sort((a, b) => a - b);
  const measures = indexes.map((index) => {
    const [was, is] = [one?.get(index) ?? null, other?.get(index) ?? null];
    return { index, number: (is ?? was)?.number ?? '', before: was, after: is };
  });
  const both = measures.flatMap(({ before: was, after: is }) =>
    was?.bpm != null && is?.bpm != null ? [{ was: was.bpm, is: is.bpm }] : [],
  );
  const sentences = [
    ...steadiness(both),
    ...opening(before, after),
    ...deciding(before, after),
    ...evenness(before, after),
    ...stops(before, after),
  ];
  return { measures, sentences: sentences.length > 0 ? sentences : ['Nothing moved that can be told.'] };
}

function lastOf({ measures }: ToldTake): ReadonlyMap<number, ToldMeasure> {
  return new Map(measures.map((measure) => [measure.index, measure]));
}

/** How far tempos stray from their mean. Units: per cent */
function spreadOf(bpms: readonly number[]): number {
  const mean = bpms.reduce((sum, bpm) => sum + bpm, 0) / bpms.length;
  const squares = bpms.reduce((sum, bpm) => sum + (bpm - mean) ** 2, 0);
  return (100 * Math.sqrt(squares / Math.max(1, bpms.length - 1))) / mean;
}

function steadiness(both: readonly { readonly was: number; readonly is: number }[]): string[] {
  if (both.length < 3) return [];
  const [was, is] = [both.map((one) => one.was), both.map((one) => one.is)].map(spreadOf);
  const words = `measures stray by ${roundTo(is ?? 0, 1)} % from their tempo, before by ${roundTo(was ?? 0, 1)} %`;
  const change = (was ?? 0) - (is ?? 0);
  if (Math.abs(change) < MOVED.spread) return [`As steady as before: ${words}.`];
  return [change > 0 ? `Steadier: ${words}.` : `Less steady: ${words}.`];
}

function opening({ opening: was }: ToldTake, { opening: is }: ToldTake): string[] {
  return moved('The opening', was, is);
}

function deciding({ deciding: was }: ToldTake, { deciding: is }: ToldTake): string[] {
  if (was?.number !== is?.number) return [];
  return moved(`Measure ${is?.number ?? ''}`, was?.bpm ?? null, is?.bpm ?? null);
}

function moved(what: string, was: number | null, is: number | null): string[] {
  if (was === null || is === null || Math.abs(is / was - 1) * 100 < MOVED.tempo) return [];
  return [`${what} goes at ${Math.round(is)}, before at ${Math.round(was)}.`];
}

/** Runs over the same measures in both takes. */
function evenness(before: ToldTake, after: ToldTake): string[] {
  return after.evenness.flatMap(({ from, to, percent }) => {
    const was = before.evenness.find((one) => one.from === from && one.to === to);
    if (!was || Math.abs(was.percent - percent) < MOVED.even) return [];
    const place = from === to ? `measure ${from}` : `measures ${from}–${to}`;
    const word = percent < was.percent ? 'More even' : 'Less even';
    return [`${word} in ${place}: ${roundTo(percent, 1)} %, before ${roundTo(was.percent, 1)} %.`];
  });
}

function stops(before: ToldTake, after: ToldTake): string[] {
  const [was, is] = [before, after].map(({ pauses, restarts }) => pauses.length + restarts.length);
  if (was === is) return [];
  const times = (count: number): string => (count === 1 ? 'once' : count === 2 ? 'twice' : `${count} times`);
  return [
    is === 0
      ? `Played through; before it stopped ${times(was ?? 0)}.`
      : `Stops or goes back ${times(is ?? 0)}, before ${was === 0 ? 'never' : times(was ?? 0)}.`,
  ];
}
