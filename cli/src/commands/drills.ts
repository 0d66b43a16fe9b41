import { mkdirSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { drillScore, drillsOf, totalQuarters, type Drill } from '@vivid-cue/core/drills';
import { pitchName, quarterBpm, toNumber } from '@vivid-cue/core/music';
import { readMusic } from '@vivid-cue/core/reading';
import {
  parseSpan,
  printedSpan,
  resolveSpan,
  spanQuarters,
  type Score,
  type Span,
} from '@vivid-cue/core/score';
import { accepted, CommandError, readArgs } from '../command-error.js';
import { readScoreFile } from '../read-score-file.js';
import { readBpm } from './read.js';

/**
 * `drills FILE [--span 17-20] [--part ID] [--instrument NAME] [--bpm N] [--seed N] [--out DIR]`: drills of a passage from
 * its own notes; with `--out` each that has notes is written as MusicXML too.
 * Shape:  JSON text, see docs/formats.md; measures by printed number
 * Units:  quarter notes
 * Errors: CommandError for a span that the score does not have
 * Source: docs/formats.md
 */
export function drillsCommand(args: readonly string[], folder: string): string {
  const { values, positionals } = readArgs(args, {
    span: { type: 'string' },
    part: { type: 'string' },
    instrument: { type: 'string' },
    bpm: { type: 'string' },
    seed: { type: 'string' },
    out: { type: 'string' },
  });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0)
    throw new CommandError('Name one score file: vivid-cue drills FILE --span 17-20 --json.');
  const score = readScoreFile(folder, file, values.part);
  const span = readSpan(score, values.span);
  const bpm = values.bpm === undefined ? null : readBpm(values.bpm);
  const unit = 'quarter';
  const tempo = bpm === null ? null : ({ bpm, unit, quarterBpm: quarterBpm(bpm, unit) } as const);
  const pairs = readMusic(score, { instrument: values.instrument ?? null, bpm }).awkwardPairs;
  const drills = drillsOf(score, span, { pairs, tempo, seed: readSeed(values.seed) });
  if (values.out !== undefined) write(resolve(folder, values.out), drills, { score, span, tempo });
  return JSON.stringify(
    drills.map((drill) => toldDrill(drill, score, span)),
    null,
    2,
  );
}

/** A span of printed numbers, or all of the score. Errors: CommandError with the reader's sentence. */
export function readSpan(score: Score, text: string | undefined): Span {
  if (text === undefined) return { fromIndex: 0, endIndex: score.measures.length };
  const parsed = parseSpan(text);
  return accepted(parsed.ok ? resolveSpan(score.measures, parsed.value) : parsed);
}

/** A number that makes chance repeatable, 1 where none is given. Errors: CommandError for what is no whole number. */
export function readSeed(text: string | undefined): number {
  if (text === undefined) return 1;
  if (!/^\d{1,9}$/u.test(text.trim()))
    throw new CommandError(`--seed takes a whole number such as 7; "${text}" came.`);
  return Number(text);
}

function toldDrill(drill: Drill, score: Score, span: Span): object {
  const runs = drill.spans.length > 0 ? drill.spans : [span];
  const lengths = score.measures.map(({ length }) => ({ quarters: toNumber(length) }));
  const measures = runs.map((run) => {
    const { from, to } = printedSpan(score.measures, run);
    return from === to ? from : `${from}-${to}`;
  });
  return {
    kind: drill.kind,
    why: drill.why,
    measures: drill.spans.length > 0 ? measures : numbersOf(score, span),
    quarters:
      drill.measures.length > 0
        ? totalQuarters(drill.measures)
        : runs.reduce((sum, run) => sum + spanQuarters(lengths, run), 0),
    notes: drill.measures.flatMap(({ notes }, n) =>
      notes
        .filter(({ isRest }) => !isRest)
        .map(({ pitches, length }) => ({
          measure: n + 1,
          pitch: pitches.length === 0 ? null : pitchName(highest(pitches)),
          quarters: toNumber(length),
        })),
    ),
  };
}

function highest<T>(pitches: readonly T[]): T {
  const [first] = pitches.slice(-1);
  if (first === undefined) throw new CommandError('A note of a drill has no pitch.');
  return first;
}

function numbersOf({ measures }: Score, { fromIndex, endIndex }: Span): string[] {
  return measures.slice(fromIndex, endIndex).map(({ number }) => number);
}

interface Written {
  readonly score: Score;
  readonly span: Span;
  readonly tempo: Parameters<typeof drillScore>[2]['tempo'];
}

function write(folder: string, drills: readonly Drill[], { score, span, tempo }: Written): void {
  try {
    mkdirSync(folder, { recursive: true });
    drills.forEach((drill, n) => {
      const xml = drillScore(drill, score, { work: score.title ?? '', tempo, from: span });
      if (xml !== null)
        writeFileSync(resolve(folder, `${String(n + 1).padStart(2, '0')}-${drill.kind}.musicxml`), xml);
    });
  } catch (error) {
    if (!(error instanceof Error)) throw error;
    throw new CommandError(`The folder given with --out cannot be written: ${error.message}.`);
  }
}
