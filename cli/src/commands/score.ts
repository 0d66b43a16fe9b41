import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { digestScore, readScore } from '@vivid-cue/core/score';
import { CommandError, readArgs } from '../command-error.js';

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
  const read = readScore(readBytes(resolve(folder, file), file), { partId: values.part ?? null });
  if (!read.ok) throw new CommandError(read.issues.map(({ message }) => message).join(' '));
  return JSON.stringify(digestScore(read.value), roundSeconds, 2);
}

function readBytes(path: string, shown: string): Uint8Array {
  try {
    return readFileSync(path);
  } catch {
    throw new CommandError(`The file "${shown}" cannot be read; check its name and place.`);
  }
}

/** Nine decimals tell seconds to the nanosecond and hide the tail of binary fractions. */
function roundSeconds(_key: string, value: unknown): unknown {
  return typeof value === 'number' ? Math.round(value * 1e9) / 1e9 : value;
}
