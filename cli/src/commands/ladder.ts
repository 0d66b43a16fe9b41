import { buildLadder, DEFAULT_STEP, type LadderStep } from '@vivid-cue/core/climb';
import { accepted, CommandError, readArgs } from '../command-error.js';
import { readUnit } from './convert.js';

/**
 * `ladder --from 60 --to 127 --step 10|4%|dial|usual`: the rungs of a climb.
 * Shape:  JSON text, see docs/formats.md
 * Units:  beats of the unit per minute
 * Errors: CommandError for ends or steps that make no ladder
 * Source: docs/formats.md
 */
export function ladderCommand(args: readonly string[]): string {
  const { values, positionals } = readArgs(args, {
    from: { type: 'string' },
    to: { type: 'string' },
    step: { type: 'string' },
    unit: { type: 'string' },
  });
  if (positionals.length > 0)
    throw new CommandError(
      `A ladder takes --from, --to, --step and --unit; "${positionals.join(' ')}" came beside them.`,
    );
  const toBpm = readNumber(values.to, '--to');
  const fromBpm = values.from === undefined ? toBpm / 2 : readNumber(values.from, '--from');
  const step = readStep(values.step);
  const unit = readUnit(values.unit ?? 'quarter');
  const rungs = accepted(buildLadder({ fromBpm, toBpm, step, unit }));
  return JSON.stringify({ from: fromBpm, to: toBpm, unit, step, count: rungs.length, rungs }, null, 2);
}

function readNumber(text: string | undefined, name: string): number {
  if (text === undefined)
    throw new CommandError(`Say where the ladder goes with ${name}, for example ${name} 116.`);
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value))
    throw new CommandError(`${name} takes a number of beats a minute; "${text}" came.`);
  return value;
}

function readStep(text: string | undefined): LadderStep {
  if (text === undefined) return DEFAULT_STEP;
  if (text === 'dial' || text === 'usual') return { kind: text };
  const match = /^(\d+(?:\.\d+)?)(%?)$/u.exec(text.trim());
  if (!match)
    throw new CommandError(
      `--step takes a number (10), a percentage (4%), "dial" or "usual"; "${text}" came.`,
    );
  return { kind: match[2] === '%' ? 'percent' : 'bpm', size: Number(match[1]) };
}
