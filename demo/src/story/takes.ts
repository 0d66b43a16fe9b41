import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { v7 as newId } from 'uuid';
import { levels } from '@vivid-cue/core/air';
import { convertBpm } from '@vivid-cue/core/music';
import { readScore, type Score, type Span } from '@vivid-cue/core/score';
import { levelWord, peakOf, readTake, toldTake, type Sound } from '@vivid-cue/core/takes';
import { performed, type RehearsalWish } from '@vivid-cue/core/takes/testing';
import { TAKE_LIMITS, type TakePart } from '@vivid-cue/contract';
import { beginTake, deskView, keepReading, studentTakes, takeChunk, type Studio } from '@vivid-cue/server';
import { flacOf } from '@vivid-cue/server/flac';
import type { StudentStory, TakeStory } from './story.data.js';

const DAY_MS = 86_400_000;
/** Takes are played at twenty past five. Units: milliseconds since midnight */
const AFTERNOON_MS = (17 * 60 + 20) * 60_000;
const ALL = 1_000_000_000_000;
/** How loud each printed level is played, 0 to 1. */
const LOUD: Readonly<Record<string, number>> = { pp: 0.1, p: 0.18, mp: 0.3, mf: 0.45, f: 0.7, ff: 1 };
const MIDDLE = 0.45;

/**
 * Renders the takes of a student from the scores, keeps them as a device would, and what each says.
 * Units:  milliseconds since 1970
 */
export async function seedTakes(
  studio: Studio,
  story: StudentStory,
  { studentId, nowMs }: { readonly studentId: string; readonly nowMs: number },
): Promise<void> {
  for (const take of story.takes ?? []) {
    const answer = story.answers.find(({ part }) => part === take.part);
    const { parts } = await studentTakes(studio, studentId, ALL);
    const desk = await deskView(studio, studentId, nowMs);
    const score = scoreOf(answer?.study ?? '');
    const part = parts.find(({ workTitle }) => workTitle === score.title);
    if (!part) throw new Error(`The story records “${score.title ?? ''}”, which is not among the parts.`);
    const runs = desk.parts.find(({ id }) => id === part.id)?.runs ?? [];
    await seedTake(studio, { take, part, score, runs, studentId, nowMs });
  }
}

function scoreOf(study: string): Score {
  const read = readScore(readFileSync(new URL(`../../studies/${study}.musicxml`, import.meta.url)));
  if (!read.ok) throw new Error(read.issues[0]?.message);
  return read.value;
}

interface TakeSound {
  readonly id: string;
  readonly sound: Sound;
}

interface TakeToSeed {
  readonly take: TakeStory;
  readonly part: TakePart;
  readonly score: Score;
  readonly runs: readonly Span[];
  readonly studentId: string;
  readonly nowMs: number;
}

async function seedTake(
  studio: Studio,
  { take, part, score, runs, studentId, nowMs }: TakeToSeed,
): Promise<void> {
  const id = newId();
  const atMs = (Math.floor(nowMs / DAY_MS) - take.daysAgo) * DAY_MS + AFTERNOON_MS;
  const { samples, rate } = performed(score, { ...wishOf(take, score), spans: runs }).sound;
  const bytes = await flacOf(samples, rate);
  const asked = part.target;
  const keeper = { studio, studentId, byStudent: take.byStudent, nowMs: atMs };
  await beginTake(
    keeper,
    {
      ...{ id, programPartId: part.id, sittingId: null, at: new Date(atMs).toISOString() },
      ...{
        seconds: samples.length / rate,
        level: levelWord(peakOf(samples)),
        withRepeats: part.withRepeats,
        asked,
      },
      sound: { bytes: bytes.length, sha256: createHash('sha256').update(bytes).digest('hex') },
      original: null,
    },
    ALL,
  );
  for (let n = 0; n * TAKE_LIMITS.chunkBytes < bytes.length; n += 1) {
    const piece = bytes.subarray(n * TAKE_LIMITS.chunkBytes, (n + 1) * TAKE_LIMITS.chunkBytes);
    await takeChunk(studio, { takeId: id, form: 'sound', n, bytes: piece }, atMs);
  }
  await read(studio, { id, sound: { samples, rate }, score, part, runs });
}

/** Reads the take as a page would. */
async function read(
  studio: Studio,
  { id, sound, score, part, runs }: Pick<TakeToSeed, 'score' | 'part' | 'runs'> & TakeSound,
): Promise<void> {
  const { target } = part;
  const told = readTake(sound, score, {
    ...{ spans: runs, withRepeats: part.withRepeats },
    bpm: target && convertBpm(target.bpm, target.beatUnit, 'quarter'),
  });
  if (!told.ok) throw new Error(told.issues[0]?.message);
  await keepReading({ studio, onlyStudent: null }, id, toldTake(told.value));
}

function wishOf({ tempos, timbre, seed, unsteady, shape, ...take }: TakeStory, score: Score): RehearsalWish {
  const levelAt = levels(score);
  return {
    ...{ timbre, seed, bent: new Map(take.bent ?? []) },
    vary: (_even, { measures, notes }) => {
      const starts = new Map(measures.map(({ number, at }) => [Number(number), at]));
      const points = tempos.map(([measure, bpm]) => ({ at: starts.get(measure) ?? 0, bpm }));
      return {
        ...{ unsteady, before: 0.8, tempo: (at: number) => glide(points, at) },
        loud: ({ at }) => MIDDLE + shape * ((LOUD[levelAt(at + 1e-3)] ?? MIDDLE) - MIDDLE),
        pauses: new Map(take.pauses ?? []),
        wrong: new Map((take.wrong ?? []).filter((n) => n < notes.length).map((n) => [n, 2])),
        missing: new Set(take.missing ?? []),
      };
    },
  };
}

/** A tempo between the two that stand around a place. */
function glide(points: readonly { readonly at: number; readonly bpm: number }[], at: number): number {
  const next = points.findIndex((point) => point.at > at);
  const [before, after] = [points[next < 0 ? points.length - 1 : Math.max(0, next - 1)], points[next]];
  if (!before) return 96;
  if (!after || next <= 0) return before.bpm;
  const share = (at - before.at) / Math.max(0.001, after.at - before.at);
  return before.bpm + share * (after.bpm - before.bpm);
}
