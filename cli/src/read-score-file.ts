import { resolve } from 'node:path';
import { withoutAbc } from '@vivid-cue/core/abc';
import { readScore, type Score } from '@vivid-cue/core/score';
import { accepted } from './command-error.js';
import { readBytes } from './read-bytes.js';

/**
 * One part of a score file, named from the folder the command was called in.
 * Shape:  the part that readScore chooses where `part` is undefined
 * Errors: CommandError for a file that is not there, else with the reader's sentences
 */
export function readScoreFile(folder: string, file: string, part: string | undefined): Score {
  const bytes = withoutAbc(readBytes(resolve(folder, file), file));
  return accepted(bytes.ok ? readScore(bytes.value, { partId: part ?? null }) : bytes);
}
