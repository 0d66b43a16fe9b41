import { passageLadder, type RungRule } from '@vivid-cue/core/climb';
import { quarterBpm, secondsAt, toNumber, type QuarterBpm } from '@vivid-cue/core/music';
import {
  partReadinessAt,
  partSentence,
  standingAt,
  UNSTARTED,
  withRep,
  type Aim,
  type PartMover,
  type PassageRecord,
  type Progress,
  type Standing,
  type TrackedPassage,
  optimismOf,
  witnessPairs,
} from '@vivid-cue/core/readiness';
import { measureDemands } from '@vivid-cue/core/reading';
import { resolveSpan, runsOf, type Score, type Span } from '@vivid-cue/core/score';
import { CommandError, readArgs } from '../command-error.js';
import { readScoreFile } from '../read-score-file.js';
import { readText } from '../read-text.js';
import { readRecord, type PassageInput, type PracticeRecord } from './readiness-record.js';

/** Longest input. Units: bytes (our own limit). */
const RECORDS_LIMIT = 64_000_000;
const DAY_MS = 86_400_000;
const RULE: RungRule = 'three-in-a-row';
/** A measure without a score lasts so long at the target: only the order of gains hangs on it. Units: quarter notes. */
const STAND_IN_QUARTERS = 4;

/**
 * `readiness FILE.json [--score FILE]`: how ready a part is from its reps; with `-` one record a line on standard input.
 * Shape:  JSON, see docs/formats.md; no number where there is no evidence
 * Units:  chances 0 to 1; beats of each target's unit per minute; measure indexes from 0, or printed numbers of the score
 * Errors: CommandError that names the field and what came
 * Source: docs/formats.md
 */
export function readinessCommand(args: readonly string[], folder: string): string {
  const { values, positionals } = readArgs(args, { score: { type: 'string' } });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0)
    throw new CommandError('Name one record: vivid-cue readiness FILE.json --json, or - for one a line.');
  const score = values.score === undefined ? null : readScoreFile(folder, values.score, undefined);
  const text = readText(folder, file, RECORDS_LIMIT);
  if (file !== '-') return JSON.stringify(judged(readRecord(text), score), null, 2);
  const lines = text.split(/\r?\n/u).filter((line) => line.trim() !== '');
  return lines.map((line) => JSON.stringify(judged(readRecord(line), score))).join('\n');
}

interface CountedPassage {
  readonly input: PassageInput;
  readonly span: Span;
  readonly aim: Aim;
  readonly record: PassageRecord;
  readonly standing: Standing;
}

function judged({ nowMs, part, passages }: PracticeRecord, score: Score | null): unknown {
  const spanOf = (from: number | string, to: number | string): Span => spanIn(score, from, to);
  const asked = spanOf(part.from, part.to);
  const optimism = optimismIn(passages);
  const counted = passages.map((input) =>
    countedPassage(input, { span: spanOf(input.from, input.to), nowMs, optimism }),
  );
  const last = Math.max(asked.endIndex, ...counted.map(({ span }) => span.endIndex));
  const measures = weighedMeasures(score, last, quarterBpm(part.target.bpm, part.target.beatUnit));
  const tracked = counted.map((one) => trackedPassage(one, measures));
  const readiness = partReadinessAt({ runs: [asked], measures, passages: tracked }, nowMs);
  const numberOf = (index: number): number | string => score?.measures[index]?.number ?? index;
  return {
    passages: counted.map((one) => passageOutput(one)),
    part: {
      chance: readiness.chance,
      expectedSlips: readiness.expectedSlips,
      untracked: runsOf(readiness.untracked).map(({ fromIndex, endIndex }) => ({
        from: numberOf(fromIndex),
        to: numberOf(endIndex - 1),
      })),
      deciding: readiness.reps === 0 ? null : readiness.movesMost,
    },
    sentence: partSentence({
      part: readiness,
      vocabulary: 'us',
      mover: moverOf(counted.find(({ input }) => input.id === readiness.movesMost)),
    }),
  };
}

function trackedPassage(
  { input, span, record }: CountedPassage,
  measures: readonly { readonly seconds: number }[],
): TrackedPassage {
  const own = measures.slice(span.fromIndex, span.endIndex);
  return {
    id: input.id,
    ...span,
    isSeam: input.isSeam,
    seconds: own.reduce((sum, { seconds }) => sum + seconds, 0),
    record,
  };
}

/** How long each measure lasts at the target and what it asks; all of one length and demand without a score. */
function weighedMeasures(
  score: Score | null,
  count: number,
  bpm: QuarterBpm,
): readonly { readonly seconds: number; readonly demand: number }[] {
  const quarters = score?.measures.map(({ length }) => toNumber(length)) ?? [];
  const demands = score ? measureDemands(score) : [];
  return Array.from({ length: count }, (_, n) => ({
    seconds: secondsAt(quarters[n] ?? STAND_IN_QUARTERS, bpm),
    demand: demands[n] ?? 1,
  }));
}

function spanIn(score: Score | null, from: number | string, to: number | string): Span {
  if (score) {
    const span = resolveSpan(score.measures, { from: String(from), to: String(to) });
    if (!span.ok)
      throw new CommandError(span.issues[0]?.message ?? 'The score does not hold these measures.');
    return span.value;
  }
  const [first, last] = [Number(from), Number(to)];
  if (!Number.isInteger(first) || !Number.isInteger(last) || first < 0 || last < first)
    throw new CommandError(
      `Without a score, measures are whole numbers from 0, the first not after the last; ${String(from)} to ${String(to)} came.`,
    );
  return { fromIndex: first, endIndex: last + 1 };
}

/** How optimistic the student's own reports are, by the passages that both heard within three days. Units: logits */
function optimismIn(passages: readonly PassageInput[]): number {
  const pairs = passages.flatMap(({ target, reps }) =>
    witnessPairs(
      reps.map(({ atMs, bpm, context, isClean, witness }) => ({
        ...{ atMs, context, isClean, witness },
        share: bpm / target.bpm,
      })),
    ),
  );
  return optimismOf(pairs).mean;
}

/** One passage's progress from its reps, in the order played, and where it stands. */
function countedPassage(
  input: PassageInput,
  { span, nowMs, optimism }: { readonly span: Span; readonly nowMs: number; readonly optimism: number },
): CountedPassage {
  const { bpm, beatUnit } = input.target;
  const ladder = passageLadder(bpm, beatUnit);
  if (!ladder.ok) throw new CommandError(ladder.issues[0]?.message ?? 'This target makes no ladder.');
  const rungBpms = ladder.value.map((rung) => rung.bpm);
  const aim: Aim = { targetBpm: bpm, unit: beatUnit, rungBpms, rule: RULE, slipRule: 'two-down' };
  const progress = [...input.reps]
    .filter(({ atMs }) => atMs <= nowMs)
    .sort((a, b) => a.atMs - b.atMs)
    .reduce<Progress>((before, rep) => {
      const day = Math.floor(rep.atMs / DAY_MS);
      return withRep(
        before,
        { ...rep, day, beatUnit, optimism: rep.witness === 'student' ? optimism : 0 },
        aim,
      );
    }, UNSTARTED);
  return { input, span, aim, record: progress.record, standing: standingAt(progress, aim, nowMs) };
}

function passageOutput({ input, standing }: CountedPassage): unknown {
  const { readiness, interval, place, playedCleanBpm, reliableBpm } = standing;
  return {
    id: input.id,
    chance: readiness.chance,
    ...(interval ?? { low: null, high: null }),
    evidence: readiness.reps,
    state: readiness.state,
    reliableBpm,
    playedCleanBpm,
    rung: place.rungIndex,
  };
}

function moverOf(mover: CountedPassage | undefined): PartMover | null {
  if (!mover) return null;
  const { input, aim, standing } = mover;
  return { name: input.id, reps: standing.readiness.reps, ...standing, ...aim, isAsked: false };
}
