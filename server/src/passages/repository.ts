import {
  LADDER_START,
  type ClimbSchool,
  type LadderStep,
  type RungRule,
  type SlipRule,
} from '@vivid-cue/core/climb';
import type { BeatUnit, Bpm } from '@vivid-cue/core/music';
import type { Progress, RepContext, Witness } from '@vivid-cue/core/readiness';
import type { RepInput } from '@vivid-cue/contract';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';
import { PASSAGE_COLUMNS, writeBelief, type PassageRow } from '../practice/passage-row.js';
import type { Practice } from '../practice/part-row.js';

/** Puts a passage at other measures, in another score of the same student; its version moves on. */
export async function placePassage(
  studio: Studio,
  id: string,
  place: Partial<
    Pick<PassageRow, 'score_id' | 'name' | 'span_from' | 'span_to' | 'from_index' | 'end_index'>
  >,
): Promise<void> {
  await rowsOf(studio, 'passages').where({ id }).increment('version', 1).update(place);
}

/** Every passage of the studio, removed ones included: for the rebuild. */
export async function allPassageIds(studio: Studio): Promise<string[]> {
  return ((await rowsOf(studio, 'passages').select('id')) as { id: string }[]).map(({ id }) => id);
}

/** Holds the rows of some passages until the transaction ends, in one order so that two writers never wait for each other. */
export async function lockPassages(studio: Studio, ids: readonly string[]): Promise<void> {
  if (ids.length > 0)
    await rowsOf(studio, 'passages').whereIn('id', ids).orderBy('id').forUpdate().select('id');
}

/** A passage with the zone in which its days are counted. */
export type ZonedPassage = PassageRow & { readonly zone: string };

/** One passage with the zone in which its days are counted, or null. */
export async function findPassage(studio: Studio, id: string): Promise<ZonedPassage | null> {
  const [[row]] = (await studio.db.raw(READ_PASSAGE, [studio.id, id])) as [[ZonedPassage?]];
  return row ?? null;
}

/** Every rep that is logged begins with it: written once, as composing it costs as much as what it asks. */
const READ_PASSAGE = `SELECT ${PASSAGE_COLUMNS.join(', ')}, s.zone
  FROM passages p
  JOIN studios s ON s.id = p.studio_id
  LEFT JOIN readiness_snapshots r ON r.id = p.id
  WHERE p.studio_id = ? AND p.id = ? AND p.deleted_at IS NULL`;

/** As findPassage, the row held until the transaction ends. */
export async function holdPassage(studio: Studio, id: string): Promise<ZonedPassage | null> {
  const [[row]] = (await studio.db.raw(`${READ_PASSAGE} FOR UPDATE`, [studio.id, id])) as [[ZonedPassage?]];
  return row ?? null;
}

/** The columns of a passage that an instructor decides. */
export interface PassageColumns {
  readonly name: string;
  readonly span_from: string;
  readonly span_to: string;
  readonly from_index: number;
  readonly end_index: number;
  readonly target_bpm: Bpm;
  readonly target_unit: BeatUnit;
  readonly has_own_target: boolean;
  readonly is_asked: number;
  readonly step_kind: LadderStep['kind'];
  readonly step_size: number | null;
  readonly rule: RungRule;
  readonly slip_rule: SlipRule;
  readonly climb_school: ClimbSchool | null;
}

/** Adds a passage once. */
export function insertPassage(
  studio: Studio,
  id: string,
  {
    practice,
    columns,
    now,
  }: {
    readonly practice: Practice;
    readonly columns: PassageColumns & { readonly is_seam: boolean };
    readonly now: Date;
  },
): Promise<boolean> {
  return insertOnce(studio, 'passages', {
    id,
    student_id: practice.student_id,
    score_id: practice.score_id,
    ...columns,
    created_at: now,
  });
}

/** Changes a passage made on a version; false when that version is not the current one. */
export async function updatePassage(
  studio: Studio,
  id: string,
  { version, columns }: { readonly version: number; readonly columns: Partial<PassageColumns> },
): Promise<boolean> {
  return (
    (await rowsOf(studio, 'passages')
      .where({ id, version })
      .whereNull('deleted_at')
      .update({ ...columns, version: version + 1 })) === 1
  );
}

/** Removes a passage, or takes the removal back. */
export async function markPassage(studio: Studio, id: string, deletedAt: Date | null): Promise<boolean> {
  return (await rowsOf(studio, 'passages').where({ id }).update({ deleted_at: deletedAt })) === 1;
}

/** A rep as stored. */
export interface RepRow {
  readonly id: string;
  readonly at: Date;
  readonly day: number;
  readonly bpm: Bpm;
  readonly beat_unit: BeatUnit;
  readonly context: RepContext;
  readonly is_clean: number;
  readonly witness: Witness;
  readonly optimism: number;
}

function standingReps(studio: Studio, passageId: string): ReturnType<typeof rowsOf> {
  return rowsOf(studio, 'reps as x')
    .leftJoin('rep_retractions as t', 't.rep_id', 'x.id')
    .where('x.passage_id', passageId)
    .whereNull('t.id')
    .select(
      ...[
        'x.id',
        'x.at',
        'x.day',
        'x.bpm',
        'x.beat_unit',
        'x.context',
        'x.is_clean',
        'x.witness',
        'x.optimism',
      ],
    );
}

/** A place in the order played. */
export interface RepPlace {
  readonly at: Date;
  readonly id: string;
}

/** All reps of a passage that were not taken back, or those after a place, in the order played. */
export async function repRows(studio: Studio, passageId: string, after: RepPlace | null): Promise<RepRow[]> {
  const query = standingReps(studio, passageId).orderBy(['x.at', 'x.id']);
  if (after) query.whereRaw('(x.at, x.id) > (?, ?)', [after.at, after.id]);
  return (await query) as RepRow[];
}

/** The last checkpoint before a place; those from there on are dropped, for what they say changes. */
export async function checkpointBefore(
  studio: Studio,
  passageId: string,
  place: RepPlace | null,
): Promise<(RepPlace & { readonly progress: Progress }) | null> {
  const own = rowsOf(studio, 'readiness_checkpoints').where({ passage_id: passageId });
  if (place === null) {
    await own.delete();
    return null;
  }
  await own.clone().whereRaw('(at, rep_id) >= (?, ?)', [place.at, place.id]).delete();
  const row = (await own
    .orderBy('at', 'desc')
    .orderBy('rep_id', 'desc')
    .first('at', 'rep_id', 'progress')) as
    { readonly at: Date; readonly rep_id: string; readonly progress: string } | undefined;
  if (!row) return null;
  const progress = JSON.parse(row.progress) as Progress;
  // What was kept before slips were counted has none.
  return {
    at: row.at,
    id: row.rep_id,
    progress: { ...progress, ladder: { ...LADDER_START, ...progress.ladder } },
  };
}

/** Keeps where a passage stands after a rep. */
export async function writeCheckpoint(
  studio: Studio,
  passageId: string,
  { at, id, progress }: RepPlace & { readonly progress: Progress },
): Promise<void> {
  await studio.db('readiness_checkpoints').insert({
    passage_id: passageId,
    studio_id: studio.id,
    at,
    rep_id: id,
    progress: JSON.stringify(progress),
  });
}

/** The latest reps, newest first. */
export async function latestReps(studio: Studio, passageId: string, limit: number): Promise<RepRow[]> {
  return (await standingReps(studio, passageId)
    .orderBy([
      { column: 'x.at', order: 'desc' },
      { column: 'x.id', order: 'desc' },
    ])
    .limit(limit)) as RepRow[];
}

/** Who says how a rep went, and how much rosier that is than what is heard. Units: logits */
export interface Said {
  readonly witness: Witness;
  readonly optimism: number;
}

/** A rep that is to be stored, on its day in the studio's zone. */
interface NewRep {
  readonly rep: RepInput;
  readonly said: Said;
  readonly at: { readonly day: number; readonly now: Date };
}

/** Adds a rep once; false when it is already there. */
export function insertRep(studio: Studio, passageId: string, rep: NewRep): Promise<boolean> {
  return insertOnce(studio, 'reps', repColumns(passageId, rep));
}

function repColumns(passageId: string, { rep, said, at }: NewRep) {
  return {
    id: rep.id,
    passage_id: passageId,
    at: new Date(rep.at),
    day: at.day,
    bpm: rep.bpm,
    beat_unit: rep.beatUnit,
    context: rep.context,
    is_clean: rep.isClean,
    ...said,
    received_at: at.now,
  };
}

/** One transaction in one statement: what is said between server and database costs more than what is done there. */
const addInOrderOf = (count: number): string => `BEGIN NOT ATOMIC
  DECLARE EXIT HANDLER FOR SQLEXCEPTION BEGIN ROLLBACK; RESIGNAL; END;
  START TRANSACTION;
  ${'INSERT INTO reps SET ?; '.repeat(count)}
  UPDATE readiness_snapshots SET ?, writes = writes + 1 WHERE id = ? AND studio_id = ? AND writes = ?;
  IF ROW_COUNT() = 1 THEN COMMIT; SELECT TRUE AS is_counted;
  ELSE ROLLBACK; SELECT FALSE AS is_counted;
  END IF;
END`;

/**
 * Adds reps and writes over the snapshot that was read before them, all or nothing.
 * Shape:  false, and nothing is written, where the snapshot is not that one any more or a rep is already there
 */
export async function addInOrder(
  studio: Studio,
  seen: PassageRow,
  { rows, progress }: { readonly rows: readonly NewRep[]; readonly progress: Progress },
): Promise<boolean> {
  const bindings = [
    ...rows.map((rep) => ({ ...repColumns(seen.id, rep), studio_id: studio.id })),
    snapshotColumns(progress),
    seen.id,
    studio.id,
    seen.writes,
  ];
  try {
    const [[[row]]] = (await studio.db.raw(addInOrderOf(rows.length), bindings as never)) as [
      [[{ readonly is_counted: number }]],
    ];
    return row.is_counted === 1;
  } catch (error) {
    const { code } = error as { readonly code?: string };
    if (code === 'ER_DUP_ENTRY' || code === 'ER_LOCK_DEADLOCK') return false;
    throw error;
  }
}

/** Where a rep stands, and in which passage; or null. */
export async function findRep(
  studio: Studio,
  repId: string,
): Promise<(RepPlace & { readonly passage_id: string }) | null> {
  const row: unknown = await rowsOf(studio, 'reps').where({ id: repId }).first('id', 'at', 'passage_id');
  return (row as (RepPlace & { readonly passage_id: string }) | undefined) ?? null;
}

/** Takes a rep back: one more fact, the rep itself stays. */
export function insertRetraction(
  studio: Studio,
  id: string,
  { repId, now }: { readonly repId: string; readonly now: Date },
): Promise<boolean> {
  return insertOnce(studio, 'rep_retractions', { id, rep_id: repId, created_at: now });
}

/** What a row holds of a progress. */
function snapshotColumns({ record, ladder }: Progress) {
  return {
    belief: writeBelief(record.belief),
    reps: record.reps,
    joined_reps: record.joinedReps,
    run_reps: record.runReps,
    practice_days: record.practiceDays,
    first_day: record.firstDay,
    last_day: record.lastDay,
    last_at: record.lastAtMs === null ? null : new Date(record.lastAtMs),
    rung_index: ladder.rungIndex,
    streak: ladder.streak,
    streak_days: ladder.streakDays,
    streak_bpm: ladder.streakBpm,
    rung_day: ladder.lastDay,
    top_rung: ladder.topRung,
    slips: ladder.slips,
    is_first_sight: ladder.isFirstSight,
    clean_bpm: ladder.cleanBpm,
    is_done: ladder.isDone,
  };
}

/** Writes a snapshot over the one before. */
export async function writeSnapshot(studio: Studio, passageId: string, progress: Progress): Promise<void> {
  const row = snapshotColumns(progress);
  await studio
    .db('readiness_snapshots')
    .insert({ id: passageId, studio_id: studio.id, ...row })
    .onConflict('id')
    .merge({ ...row, writes: studio.db.raw('writes + 1') });
}

/** A passage's row as it stands once a progress was written over the one it came with. */
export function withProgress(row: PassageRow, progress: Progress): PassageRow {
  const { is_first_sight: isFirstSight, is_done: isDone, ...columns } = snapshotColumns(progress);
  return {
    ...row,
    ...columns,
    is_first_sight: Number(isFirstSight),
    is_done: Number(isDone),
    writes: row.writes === null ? 1 : row.writes + 1,
  };
}
