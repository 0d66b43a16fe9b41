import { resolve } from 'node:path';
import { roundTo } from '@vivid-cue/core/base';
import { longTone, readTake, readWav, type Sound, type TakeReading } from '@vivid-cue/core/takes';
import { accepted, CommandError, oneOf, readArgs } from '../command-error.js';
import { readBytes } from '../read-bytes.js';
import { readScoreFile } from '../read-score-file.js';
import { readSpan } from './drills.js';
import { readBpm } from './read.js';

/**
 * `take FILE.wav --score FILE [--span 1-32] [--bpm 116] [--repeats take|omit] [--part ID]`: what a take says of the music.
 * Shape:  JSON text, see docs/formats.md; measures by printed number, `index` a note's place in its measure from 1
 * Units:  seconds from the beginning of the take, beats of the score a minute
 * Errors: CommandError with one sentence
 * Source: docs/formats.md
 */
export function takeCommand(args: readonly string[], folder: string): string {
  const { values, positionals } = readArgs(args, {
    score: { type: 'string' },
    span: { type: 'string' },
    bpm: { type: 'string' },
    repeats: { type: 'string' },
    part: { type: 'string' },
  });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0 || values.score === undefined)
    throw new CommandError(
      'Name one take and its score: vivid-cue take FILE.wav --score FILE.musicxml --span 1-32 --json.',
    );
  const repeats = oneOf('repeats', values.repeats ?? 'take', ['take', 'omit']);
  const score = readScoreFile(folder, values.score, values.part);
  const read = readTake(soundOf(folder, file), score, {
    spans: values.span === undefined ? [] : [readSpan(score, values.span)],
    withRepeats: repeats === 'take',
    bpm: values.bpm === undefined ? null : readBpm(values.bpm),
  });
  return JSON.stringify(written(accepted(read)), null, 2);
}

/**
 * `tone FILE.wav`: how a long tone was held.
 * Shape:  JSON text, see docs/formats.md
 * Errors: CommandError where no tone is held
 * Source: docs/formats.md
 */
export function toneCommand(args: readonly string[], folder: string): string {
  const [file, ...more] = readArgs(args, {}).positionals;
  if (file === undefined || more.length > 0)
    throw new CommandError('Name one sound file: vivid-cue tone FILE.wav --json.');
  const tone = longTone(soundOf(folder, file));
  if (!tone)
    throw new CommandError(`No tone is held in ${file} for half a second; hold one and record it again.`);
  return JSON.stringify(tone, null, 2);
}

function soundOf(folder: string, file: string): Sound {
  return accepted(readWav(readBytes(resolve(folder, file), file)));
}

function written(take: TakeReading): object {
  const { music, beatQuarters } = take;
  const number = (pass: number): string => music.measures[pass]?.number ?? '';
  const at = (asked: number): { measure: string; index: number } => {
    const note = music.notes[asked];
    return { measure: number(note?.pass ?? 0), index: note?.ordinal ?? 0 };
  };
  const bpmOf = (quarters: number | null): number | null =>
    quarters === null ? null : roundTo(quarters / beatQuarters, 2);
  return {
    notes: take.notes.map(({ asked, seconds, confidence }) => ({
      ...at(asked),
      ...{ seconds: roundTo(seconds, 4), confidence: roundTo(confidence, 2) },
    })),
    measures: take.measures.map(({ number: measure, start, quarterBpm, confidence }) => ({
      ...{
        measure,
        startSeconds: roundTo(start, 4),
        bpm: bpmOf(quarterBpm),
        confidence: roundTo(confidence, 2),
      },
    })),
    opening: take.opening && { bpm: roundTo(take.opening.bpm, 2) },
    deciding: take.deciding && { measure: take.deciding.number, bpm: roundTo(take.deciding.bpm, 2) },
    drift: take.drift === null ? null : { percent: roundTo(take.drift, 2) },
    ...beside(take, number),
    slips: take.slips.map(({ asked, kind, seconds, confidence }) => ({
      ...at(asked),
      ...{ kind, seconds: roundTo(seconds, 3), confidence: roundTo(confidence, 2) },
    })),
    notices: take.notices,
  };
}

function beside(
  { evenness, dynamics, hairpins, pauses, restarts }: TakeReading,
  number: (pass: number) => string,
): object {
  return {
    evenness: evenness.map(({ fromPass, toPass, percent }) => ({
      ...{ from: number(fromPass), to: number(toPass), percent: roundTo(percent, 2) },
    })),
    dynamics: dynamics.map(({ number: measure, lu }) => ({ measure, lu: roundTo(lu, 2) })),
    hairpins: hairpins.map((one) => ({ ...one, changeLu: roundTo(one.changeLu, 2) })),
    pauses: pauses.map(({ seconds, length }) => ({
      seconds: roundTo(seconds, 3),
      length: roundTo(length, 3),
    })),
    restarts: restarts.map(({ seconds, from, to }) => ({
      ...{ seconds: roundTo(seconds, 3), from: number(from), to: number(to) },
    })),
  };
}
