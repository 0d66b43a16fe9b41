import {
  BEAT_UNITS,
  convertBpm,
  halfSpeedClick,
  parseTempo,
  snapDown,
  type BeatUnit,
  type Bpm,
} from '@vivid-cue/core/music';
import { accepted, CommandError, readArgs } from '../command-error.js';

/**
 * `convert "q=132" --to eighth`: the same tempo counted in another unit, with its half-speed click and dial number.
 * Shape:  JSON text, see docs/formats.md
 * Units:  beats of the named unit per minute
 * Errors: CommandError for a phrase or unit that cannot be read
 * Source: docs/formats.md
 */
export function convertCommand(args: readonly string[]): string {
  const { values, positionals } = readArgs(args, { to: { type: 'string' } });
  const phrase = positionals.join(' ');
  const { beatUnit, bpmMin, bpmMax, bound } = accepted(parseTempo(phrase));
  if (beatUnit === null || (bpmMin === null && bpmMax === null)) {
    throw new CommandError(
      `"${phrase}" does not say which note gets how many beats; write one such as "q=132".`,
    );
  }
  const to = readUnit(values.to ?? 'quarter');
  const convert = (bpm: Bpm | null): number | null =>
    bpm === null ? null : round(convertBpm(bpm, beatUnit, to));
  const written = bpmMin ?? bpmMax ?? 0;
  const half = halfSpeedClick(written, beatUnit);
  return JSON.stringify(
    {
      from: { beatUnit, bpmMin, bpmMax, bound },
      to: { beatUnit: to, bpmMin: convert(bpmMin), bpmMax: convert(bpmMax), bound },
      beatUnit: to,
      bpm: convert(written),
      halfSpeed: { beatUnit, bpm: round(written / 2), click: { beatUnit: half.unit, bpm: round(half.bpm) } },
      dial: snapDown(convertBpm(written, beatUnit, to)),
    },
    null,
    2,
  );
}

/**
 * A beat unit as people write it on a command line: eighth, dotted-quarter, "dotted quarter", q., crotchet.
 * Errors: CommandError with the names that are known
 * Source: docs/formats.md
 */
export function readUnit(text: string): BeatUnit {
  const name = text.trim().toLowerCase().replace(/\s+/gu, '-');
  const known = BEAT_UNITS.find((unit) => unit === name);
  if (known) return known;
  const spoken = parseTempo(`${text} = 60`);
  if (spoken.ok && spoken.value.beatUnit !== null) return spoken.value.beatUnit;
  throw new CommandError(
    `"${text}" is no note value we know; known are ${BEAT_UNITS.slice(0, 10).join(', ')}.`,
  );
}

function round(value: number): number {
  return Math.round(value * 1e6) / 1e6;
}
