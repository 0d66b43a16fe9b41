import { readFileSync } from 'node:fs';
import { CommandError } from './command-error.js';

/**
 * The bytes of a file, or of standard input.
 * Shape:  `source` a whole path, or 0 for standard input; `shown` the name as it was given
 * Errors: CommandError for a file that cannot be read
 */
export function readBytes(source: string | 0, shown: string): Uint8Array {
  try {
    return readFileSync(source);
  } catch {
    throw new CommandError(`The file "${shown}" cannot be read; check its name and place.`);
  }
}
