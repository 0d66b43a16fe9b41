import { writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { sightStudy } from '@vivid-cue/core/mock';
import { accepted, CommandError, readArgs } from '../command-error.js';

/**
 * `sight --level 3 --instrument clarinet --seed 7 --out FILE.musicxml`: writes a study for sight-reading.
 * Shape:  JSON text of what was written, see docs/formats.md
 * Errors: CommandError for what is missing, no level, no instrument, or a file that cannot be written
 * Source: docs/formats.md
 */
export function sightCommand(args: readonly string[], folder: string): string {
  const { values, positionals } = readArgs(args, {
    level: { type: 'string' },
    instrument: { type: 'string' },
    seed: { type: 'string' },
    out: { type: 'string' },
  });
  const { level, instrument, out } = values;
  if (positionals.length > 0 || level === undefined || instrument === undefined || out === undefined)
    throw new CommandError(
      'Name level, instrument and file: vivid-cue sight --level 3 --instrument clarinet --seed 7 --out FILE.musicxml.',
    );
  const seed = Number(values.seed ?? '1');
  if (!Number.isSafeInteger(seed) || seed < 0)
    throw new CommandError(`--seed takes a whole number; "${values.seed ?? ''}" came.`);
  const { musicXml, ...told } = accepted(sightStudy({ level: Number(level), instrument, seed }));
  try {
    writeFileSync(resolve(folder, out), musicXml);
  } catch {
    throw new CommandError(`"${out}" cannot be written; name a file in a folder that is there.`);
  }
  return JSON.stringify({ ...told, file: out }, null, 2);
}
