import type { Knex } from 'knex';
import { groupBy } from '@vivid-cue/core/base';
import type { BeatUnit, Bpm } from '@vivid-cue/core/music';
import type { TempoPolicy } from '@vivid-cue/core/program';
import { partsHolding } from '@vivid-cue/core/sheet';
import { rowsOf, type Studio } from '../db/studio.js';
import { notFound } from '../http/problem.js';
import { PART_COLUMNS, scopeOfRow, type PartRow } from '../published/sheet-part.js';

/** A program's part with the sheet's part and the chosen score's measure map. */
export interface ProgramPartRow extends PartRow {
  readonly program_part_id: string;
  readonly program_id: string;
  readonly student_id: string;
  readonly instrument: string;
  readonly division: string | null;
  readonly sheet_id: string;
  readonly is_taken: number;
  readonly own_title: string;
  readonly edition: string;
  readonly page: string;
  readonly repeats: 'take' | 'omit' | null;
  readonly policy: TempoPolicy;
  readonly pickup_counts: number;
  readonly score_id: string | null;
  readonly score_title: string | null;
  readonly score_file_name: string | null;
  readonly measure_map: string | null;
  readonly target_bpm: Bpm | null;
  readonly target_unit: BeatUnit | null;
}

/** What a part is called: the work that was chosen or is asked, its score, or else the sheet's words for it. */
export function partTitle(part: ProgramPartRow): string {
  return part.own_title || part.work_title || (part.score_title ?? '') || part.label;
}

/** A student with a score: one body of practice, in however many programs the score stands. */
export interface Practice {
  readonly student_id: string;
  readonly score_id: string | null;
}

/** One text for a student and a score. */
export function practiceKey({ student_id: studentId, score_id: scoreId }: Practice): string {
  return `${studentId} ${scoreId ?? ''}`;
}

/** Practices that have a score, each once, as pairs of keys. */
export function practicePairs(practices: readonly Practice[]): string[][] {
  const pairs = new Map<string, string[]>();
  for (const one of practices)
    if (one.score_id !== null) pairs.set(practiceKey(one), [one.student_id, one.score_id]);
  return [...pairs.values()];
}

/** Which parts are asked for: those of programs, one, those on a revision, or those in which scores are practised. */
export interface PartFilter {
  readonly programIds?: readonly string[];
  readonly id?: string;
  readonly revisionId?: string;
  /** Parts of programs and sheets that are not removed, in which the students practise these scores. */
  readonly practices?: readonly Practice[];
  /** Without the scores' measures, which are long, where only what is asked is wanted. */
  readonly withoutMusic?: boolean;
}

/** Parts of some programs, as far as they hold for their players, in the order of their sheets. */
export async function programPartRows(studio: Studio, by: PartFilter): Promise<ProgramPartRow[]> {
  const pairs = by.practices && practicePairs(by.practices);
  if (by.programIds?.length === 0 || pairs?.length === 0) return [];
  const query = everyPart(studio);
  if (by.withoutMusic !== true) query.select('sc.measure_map');
  if (by.programIds) query.whereIn('pp.program_id', by.programIds);
  if (by.id !== undefined) query.where('pp.id', by.id);
  if (by.revisionId !== undefined) query.where('sp.revision_id', by.revisionId);
  if (pairs)
    query
      .join('sheets as sh', 'sh.id', 'p.sheet_id')
      .whereIn(['p.student_id', 'pp.score_id'], pairs)
      .whereNull('p.deleted_at')
      .whereNull('sh.deleted_at');
  return heldRows((await query) as unknown as ProgramPartRow[]);
}

/** All parts of programs, each with its program, player, sheet part and score. */
function everyPart(studio: Studio): Knex.QueryBuilder {
  return rowsOf(studio, 'program_parts as pp')
    .join('programs as p', 'p.id', 'pp.program_id')
    .join('students as st', 'st.id', 'p.student_id')
    .join('sheet_parts as sp', function onRevision() {
      this.on('sp.id', 'pp.sheet_part_id').andOn('sp.revision_id', 'p.revision_id');
    })
    .leftJoin('scores as sc', 'sc.id', 'pp.score_id')
    .whereNull('sp.deleted_at')
    .orderBy('sp.position')
    .select(
      { program_part_id: 'pp.id' },
      'pp.program_id',
      'p.student_id',
      'st.instrument',
      'p.division',
      'p.sheet_id',
      'pp.is_taken',
      'pp.own_title',
      'pp.edition',
      'pp.page',
      'pp.repeats',
      'pp.policy',
      'pp.pickup_counts',
      'pp.score_id',
      'pp.target_bpm',
      'pp.target_unit',
      { score_title: 'sc.title' },
      { score_file_name: 'sc.file_name' },
      ...PART_COLUMNS.map((column) => `sp.${column}`),
    );
}

/** Of each program the parts that hold for its player; a student's instrument may have changed since it was given. */
function heldRows(rows: readonly ProgramPartRow[]): ProgramPartRow[] {
  const scoped = rows.map((row) => ({ row, scope: scopeOfRow(row) }));
  const held = new Set(
    [...groupBy(scoped, ({ row }) => row.program_id).values()].flatMap((program) =>
      partsHolding(program, {
        instrument: program[0]?.row.instrument ?? null,
        division: program[0]?.row.division ?? null,
      }).map(({ row }) => row),
    ),
  );
  return rows.filter((row) => held.has(row));
}

/** The program and student of a part. */
export interface PartOwner {
  readonly program_id: string;
  readonly student_id: string;
  readonly sheet_id: string;
  readonly revision_id: string;
  readonly name: string;
  readonly instrument: string;
  readonly version: number;
}

/** The program and student of a part, or null where either is removed. */
export async function ownerOfPart(studio: Studio, programPartId: string): Promise<PartOwner | null> {
  const row: unknown = await rowsOf(studio, 'program_parts as pp')
    .join('programs as p', 'p.id', 'pp.program_id')
    .join('students as st', 'st.id', 'p.student_id')
    .where('pp.id', programPartId)
    .whereNull('p.deleted_at')
    .whereNull('st.deleted_at')
    .first(
      'pp.program_id',
      'p.student_id',
      'p.sheet_id',
      'p.revision_id',
      'st.name',
      'st.instrument',
      'st.version',
    );
  return (row as PartOwner | undefined) ?? null;
}

/**
 * One part of a program that is not removed.
 * Errors: Problem not-found
 */
export async function findProgramPart(studio: Studio, id: string): Promise<ProgramPartRow> {
  const [part] = await programPartRows(studio, { id });
  if (!part || !(await ownerOfPart(studio, id))) throw notFound('part');
  return part;
}
