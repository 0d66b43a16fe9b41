import type { BeatUnit } from '@vivid-cue/core/music';
import { rowsOf, type Studio } from '../db/studio.js';
import { PART_COLUMNS, type PartRow } from '../published/repository.js';
import type { TempoPolicy } from '@vivid-cue/core/program';
import { notFound } from '../http/problem.js';

/** A program's part with the sheet's part and the chosen score's measure map. */
export interface ProgramPartRow extends PartRow {
  readonly program_part_id: string;
  readonly program_id: string;
  readonly student_id: string;
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
  readonly target_bpm: number | null;
  readonly target_unit: BeatUnit | null;
}

/** Parts of some programs in the order of their sheets. */
export async function programPartRows(
  studio: Studio,
  by: {
    readonly programIds?: readonly string[];
    readonly id?: string;
    readonly revisionId?: string;
    readonly practice?: { readonly student_id: string; readonly score_id: string };
  },
): Promise<ProgramPartRow[]> {
  const query = rowsOf(studio, 'program_parts as pp')
    .join('programs as p', 'p.id', 'pp.program_id')
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
      'sc.measure_map',
      ...PART_COLUMNS.map((column) => `sp.${column}`),
    );
  if (by.programIds) query.whereIn('pp.program_id', by.programIds);
  if (by.id !== undefined) query.where('pp.id', by.id);
  if (by.revisionId !== undefined) query.where('sp.revision_id', by.revisionId);
  if (by.practice)
    query
      .where({ 'p.student_id': by.practice.student_id, 'pp.score_id': by.practice.score_id })
      .whereNull('p.deleted_at');
  return (await query) as unknown as ProgramPartRow[];
}

/** The program and student of a part, or null. */
export async function ownerOfPart(
  studio: Studio,
  programPartId: string,
): Promise<{
  readonly student_id: string;
  readonly sheet_id: string;
  readonly revision_id: string;
  readonly name: string;
  readonly instrument: string;
  readonly version: number;
} | null> {
  const row: unknown = await rowsOf(studio, 'program_parts as pp')
    .join('programs as p', 'p.id', 'pp.program_id')
    .join('students as st', 'st.id', 'p.student_id')
    .where('pp.id', programPartId)
    .whereNull('p.deleted_at')
    .whereNull('st.deleted_at')
    .first('p.student_id', 'p.sheet_id', 'p.revision_id', 'st.name', 'st.instrument', 'st.version');
  return (
    (row as
      | {
          student_id: string;
          sheet_id: string;
          revision_id: string;
          name: string;
          instrument: string;
          version: number;
        }
      | undefined) ?? null
  );
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

/** The instrument of the student whose part this is, or null. */
export async function instrumentOf(studio: Studio, programPartId: string): Promise<string | null> {
  return (await ownerOfPart(studio, programPartId))?.instrument ?? null;
}
