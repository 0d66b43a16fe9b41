import { MAX_BPM, MIN_BPM } from '@vivid-cue/core/music';
import { findingsOf, readMusic, soloLine } from '@vivid-cue/core/reading';
import { CommandError, readArgs } from '../command-error.js';
import { readScoreFile } from '../read-score-file.js';

/**
 * `read FILE [--part ID] [--instrument NAME] [--bpm N]`: findings and demands of one part.
 * Shape:  JSON text, see docs/formats.md; measures by printed number
 * Units:  quarter notes, seconds; `--bpm` counts beats of the first full measure
 * Errors: CommandError with the reader's sentence
 * Source: docs/formats.md
 */
export function readCommand(args: readonly string[], folder: string): string {
  const { values, positionals } = readArgs(args, {
    part: { type: 'string' },
    instrument: { type: 'string' },
    bpm: { type: 'string' },
  });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0)
    throw new CommandError(
      'Name one score file: vivid-cue read FILE [--part ID] [--instrument NAME] [--bpm N] --json.',
    );
  const bpm = values.bpm === undefined ? null : readBpm(values.bpm);
  const score = readScoreFile(folder, file, values.part);
  const whole = readMusic(score, { instrument: values.instrument ?? null, bpm });
  // The beat to feel and awkward pairs stand in the findings; pace and profile are what it was read with.
  const { beatToFeel: _feel, awkwardPairs: _pairs, pace: _pace, profile: _profile, ...reading } = whole;
  const numberOf = (index: number): string => score.measures[index]?.number ?? '';
  const findings = findingsOf(score, soloLine(score), { reading: whole }).map(
    ({ kind, importance, title, sentence, places, notes }) => ({
      ...{ kind, importance, title, sentence },
      measures: places.map(numberOf),
      notes: notes.map(({ index, note }) => ({ measure: numberOf(index), note })),
    }),
  );
  const demands = reading.demands.map(({ measure, score: worth, because }) => ({
    measure,
    score: worth,
    because,
  }));
  const ornaments = reading.ornaments.map(({ by: _by, other: _other, ...ornament }) => ornament);
  return JSON.stringify({ ...reading, ornaments, demands, findings }, null, 2);
}

/** Beats a minute as `--bpm` takes them. Errors: CommandError. */
export function readBpm(text: string): number {
  const bpm = Number(text);
  if (text.trim() === '' || !(bpm >= MIN_BPM && bpm <= MAX_BPM))
    throw new CommandError(
      `--bpm takes a number from ${MIN_BPM} to ${MAX_BPM}; "${text}" came. Give for example --bpm 116.`,
    );
  return bpm;
}
