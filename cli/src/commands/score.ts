import { digestScore } from '@vivid-cue/core/score';
import { CommandError, readArgs } from '../command-error.js';
import { readScoreFile } from '../read-score-file.js';

/**
 * `score FILE [--part ID]`: the measure map, order, seconds and notes of one part.
 * Shape:  JSON text, see docs/formats.md
 * Units:  quarter notes, seconds
 * Errors: CommandError with the reader's sentence
 * Source: docs/formats.md
 */
export function scoreCommand(args: readonly string[], folder: string): string {
  const { values, positionals } = readArgs(args, { part: { type: 'string' } });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0)
    throw new CommandError('Name one score file: vivid-cue score FILE [--part ID] --json.');
  return JSON.stringify(digestScore(readScoreFile(folder, file, values.part)), roundSeconds, 2);
}

/** Nine decimals tell seconds to the nanosecond and hide the tail of binary fractions. */
function roundSeconds(_key: string, value: unknown): unknown {
  return typeof value === 'number' ? Math.round(value * 1e9) / 1e9 : value;
}
