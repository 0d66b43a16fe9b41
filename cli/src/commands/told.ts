import { readToldLine, scoreOfTold } from '@vivid-cue/core/paper';
import { digestScore } from '@vivid-cue/core/score';
import { CommandError, readArgs } from '../command-error.js';

/**
 * `told "1–16 4/4; A9; |: 1–8 :|; ♩=116"`: the measure map of music that is told and not read from a file.
 * Shape:  JSON text as of `score`, without notes
 * Units:  quarter notes, seconds
 * Errors: CommandError with a sentence for every piece that is not understood
 * Source: docs/formats.md
 */
export function toldCommand(args: readonly string[]): string {
  const { positionals } = readArgs(args, {});
  const { music, issues } = readToldLine(positionals.join(' '));
  if (!music || issues.length > 0) throw new CommandError(issues.map(({ message }) => message).join(' '));
  return JSON.stringify(digestScore(scoreOfTold(music)), null, 2);
}
