import type { ProgramPartView } from '@vivid-cue/contract';
import { groupBy } from '@vivid-cue/core/base';
import { rowsOf, type Studio } from '../db/studio.js';
import type { StudioFacts } from '../studio/facts.js';
import { partVoicesAt, type PassageVoice } from '@vivid-cue/core/readiness';
import { judgePart, partToJudge } from './judge.js';
import { practiceKey, practicePairs, type Practice, type ProgramPartRow } from './part-row.js';
import { passageRows, type PassageRow } from './passage-row.js';
import { scoreMusic, type ScoreMusic } from './score-music.js';

/** What is forgotten in so short a time shows in no number. Units: milliseconds (our own) */
const HOLDS_MS = 600_000;
/** So many judgements are remembered: those of some hundred seasons. */
const MOST_REMEMBERED = 20_000;

/** Judgements by their parts, each with all that it rests on. */
const remembered = new Map<string, { readonly basis: string; readonly view: ProgramPartView }>();

/**
 * The judgements of some parts. One is made anew only where something moved that it rests on: the part, its passages,
 * its score, the studio's words, or ten minutes. What moved the database says, so that several servers agree.
 * Shape:  in the order of the parts; `withoutMusic` rows are enough
 * Units:  milliseconds since 1970
 */
export async function judgedParts(
  studio: Studio,
  parts: readonly ProgramPartRow[],
  { facts, nowMs }: { readonly facts: StudioFacts; readonly nowMs: number },
): Promise<ProgramPartView[]> {
  const [passages, maps] = await Promise.all([passageMarks(studio, parts), mapMarks(studio, parts)]);
  const age = Math.floor(nowMs / HOLDS_MS);
  const based = parts.map((part) => ({
    part,
    basis: JSON.stringify([part, passages.get(practiceKey(part)), maps.get(part.score_id ?? ''), facts, age]),
  }));
  const moved = based.filter(({ part, basis }) => remembered.get(part.program_part_id)?.basis !== basis);
  const judge = await judgeFor(
    studio,
    moved.map(({ part }) => part),
  );
  return based.map(({ part, basis }) => {
    const known = remembered.get(part.program_part_id);
    if (known?.basis === basis) return known.view;
    const view = judge(part, { facts, nowMs });
    remember(part.program_part_id, { basis, view });
    return view;
  });
}

function remember(id: string, judgement: { readonly basis: string; readonly view: ProgramPartView }): void {
  remembered.delete(id);
  remembered.set(id, judgement);
  const [oldest] = remembered.keys();
  if (remembered.size > MOST_REMEMBERED && oldest !== undefined) remembered.delete(oldest);
}

/** What the forecast of a part is made from. Units: −ln of a chance */
export interface PartAhead {
  readonly programId: string;
  readonly voices: readonly PassageVoice[];
  readonly restHazard: number;
}

/**
 * What the forecasts of some parts are made from.
 * Shape:  parts that have music, a tempo and passages
 * Units:  milliseconds since 1970
 */
export async function partVoices(
  studio: Studio,
  parts: readonly ProgramPartRow[],
  nowMs: number,
): Promise<PartAhead[]> {
  const { passages, music } = await musicAndPassages(studio, parts);
  return parts.flatMap((part) => {
    const own = passages.get(practiceKey(part)) ?? [];
    const judged = partToJudge({ part, music: music.get(part.score_id ?? '') ?? null, passages: own });
    if (part.is_taken !== 1 || judged === null || judged.passages.length === 0) return [];
    return [{ programId: part.program_id, ...partVoicesAt(judged, nowMs) }];
  });
}

/** A judge with the passages and scores of some parts at hand. */
async function judgeFor(
  studio: Studio,
  parts: readonly ProgramPartRow[],
): Promise<
  (part: ProgramPartRow, at: { readonly facts: StudioFacts; readonly nowMs: number }) => ProgramPartView
> {
  const { passages, music } = await musicAndPassages(studio, parts);
  return (part, { facts, nowMs }) =>
    judgePart({
      part,
      music: music.get(part.score_id ?? '') ?? null,
      passages: passages.get(practiceKey(part)) ?? [],
      facts,
      nowMs,
    });
}

/** The passages of some parts' practices, and the music of their scores. */
async function musicAndPassages(
  studio: Studio,
  parts: readonly ProgramPartRow[],
): Promise<{
  readonly passages: ReadonlyMap<string, readonly PassageRow[]>;
  readonly music: ReadonlyMap<string, ScoreMusic | null>;
}> {
  const passages = groupBy(await passageRows(studio, parts), practiceKey);
  const rows = (await rowsOf(studio, 'scores')
    .whereIn('id', scoreIds(parts))
    .select('id', 'measure_map')) as { id: string; measure_map: string }[];
  return { passages, music: new Map(rows.map((row) => [row.id, scoreMusic(row.measure_map)])) };
}

/** One text of passages "p" with their snapshots "r" that changes when any of them does. */
export const PASSAGES_MARK =
  "CONCAT_WS(' ', COUNT(*), SUM(r.writes), SUM(p.version), BIT_XOR(CRC32(p.id))) AS mark";

/**
 * What tells whether any passage of a practice was cut, changed, removed or played: versions and counts of writes only
 * grow, and which passages there are shows in their identifiers.
 * Shape:  by practiceKey
 */
async function passageMarks(
  studio: Studio,
  practices: readonly Practice[],
): Promise<ReadonlyMap<string, string>> {
  const pairs = practicePairs(practices);
  if (pairs.length === 0) return new Map();
  const [students, scores] = [0, 1].map((n) => [...new Set(pairs.map((pair) => pair[n] ?? ''))]);
  const rows = (await rowsOf(studio, 'passages as p')
    .leftJoin('readiness_snapshots as r', 'r.id', 'p.id')
    // Pairs take the database longer than the few that belong to no pair.
    .whereIn('p.student_id', students ?? [])
    .whereIn('p.score_id', scores ?? [])
    .whereNull('p.deleted_at')
    .groupBy(['p.student_id', 'p.score_id'])
    .select(...['p.student_id', 'p.score_id'], studio.db.raw(PASSAGES_MARK))) as unknown as (Practice & {
    readonly mark: string;
  })[];
  return new Map(rows.map((row) => [practiceKey(row), row.mark]));
}

/** What tells whether a score is read otherwise than before. Shape: by score */
async function mapMarks(
  studio: Studio,
  practices: readonly Practice[],
): Promise<ReadonlyMap<string, string>> {
  const rows = (await rowsOf(studio, 'scores')
    .whereIn('id', scoreIds(practices))
    .select('id', studio.db.raw('MD5(measure_map) AS mark'))) as unknown as { id: string; mark: string }[];
  return new Map(rows.map(({ id, mark }) => [id, mark]));
}

function scoreIds(practices: readonly Practice[]): string[] {
  return [...new Set(practices.flatMap(({ score_id: id }) => (id === null ? [] : [id])))];
}
