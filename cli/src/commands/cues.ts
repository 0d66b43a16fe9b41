import { writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { airMusic, breathPlan, USUAL_AIR } from '@vivid-cue/core/air';
import { withCues, type FileCue } from '@vivid-cue/core/cues';
import { handNotes, handPace, handSolverOf, solveHands } from '@vivid-cue/core/hands';
import { instrumentProfile, isBlown } from '@vivid-cue/core/reading';
import type { Score } from '@vivid-cue/core/score';
import { breathCues, handCues, type SettledCue } from '@vivid-cue/core/settle';
import { withoutAbc } from '@vivid-cue/core/abc';
import { accepted, CommandError, readArgs } from '../command-error.js';
import { readBytes } from '../read-bytes.js';
import { readScoreFile } from '../read-score-file.js';
import { readAir } from './breath.js';
import { readSpan } from './drills.js';
import { readBpm } from './read.js';

/**
 * `cues FILE --out FILE2 [--span 1-8] [--air 15] [--bpm 96] [--instrument NAME] [--valve]`: what air and hands work out,
 * written into a copy of the score.
 * Shape:  JSON text `{file, cues}`, see docs/formats.md
 * Errors: CommandError for a file that cannot be written
 * Source: docs/formats.md
 */
export function cuesCommand(args: readonly string[], folder: string): string {
  const { values, positionals } = readArgs(args, {
    out: { type: 'string' },
    span: { type: 'string' },
    part: { type: 'string' },
    instrument: { type: 'string' },
    air: { type: 'string' },
    bpm: { type: 'string' },
    valve: { type: 'boolean' },
  });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0 || values.out === undefined)
    throw new CommandError('Name a score and a file to write: vivid-cue cues FILE --out FILE2 --json.');
  const score = readScoreFile(folder, file, values.part);
  const cues = proposed(score, values).map((cue) => fileCue(cue));
  const bytes = withoutAbc(readBytes(resolve(folder, file), file));
  const written = accepted(bytes.ok ? withCues(bytes.value, { partId: score.partId, cues }) : bytes);
  try {
    writeFileSync(resolve(folder, values.out), written);
  } catch (error) {
    throw new CommandError(
      `"${values.out}" cannot be written: ${error instanceof Error ? error.message : ''}.`,
    );
  }
  const numberOf = (index: number): string => score.measures[index]?.number ?? '';
  return JSON.stringify(
    {
      file: values.out,
      cues: cues.map(({ kind, fromIndex, note, sign, text, reason }) => ({
        ...{ measure: numberOf(fromIndex), note, kind, sign, text, reason },
      })),
    },
    null,
    2,
  );
}

type Values = Readonly<Partial<Record<'span' | 'instrument' | 'air' | 'bpm' | 'valve', string>>>;

function proposed(score: Score, values: Values): SettledCue[] {
  const span = readSpan(score, values.span);
  const asked = values.bpm === undefined ? null : readBpm(values.bpm);
  const pace = handPace(score, asked);
  const instrument = values.instrument ?? score.instrument;
  const solver = handSolverOf(instrument, score);
  const hasValve = Boolean(values.valve);
  const path = solver && solveHands(solver, handNotes(score, span, pace), { score, instrument, hasValve });
  const music = isBlown(instrumentProfile(instrument)) ? airMusic(score, span) : null;
  const capacity = values.air === undefined ? USUAL_AIR : readAir(values.air);
  return [
    ...(music ? breathCues(breathPlan(music, { pace, capacity })) : []),
    ...(solver && path ? handCues(solver, path) : []),
  ];
}

function fileCue({ measureIndex, ...cue }: SettledCue): FileCue {
  const span = { fromIndex: measureIndex, endIndex: measureIndex + 1 };
  return { ...cue, ...span, status: 'settled', author: 'solver', alternatives: [], beat: null };
}
