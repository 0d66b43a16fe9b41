import { unpacked } from '../db/packed.js';
import { rowsOf, type Studio } from '../db/studio.js';
import { scoresOfStudent } from '../scores/unused.js';

type Rows = readonly { readonly id: string }[];

/**
 * Everything the studio keeps of a student, table by table.
 * Shape:  null where there is no such student
 */
export async function exportRows(
  studio: Studio,
  id: string,
): Promise<Readonly<Record<string, unknown>> | null> {
  const student: unknown = await rowsOf(studio, 'students')
    .where({ id })
    .first('id', 'name', 'instrument', 'created_at');
  if (student === undefined) return null;
  return { student, ...(await preparation(studio, id)), ...(await practice(studio, id)) };
}

/** What the student prepares, and from what. */
async function preparation(studio: Studio, id: string): Promise<Readonly<Record<string, unknown>>> {
  const programs = (await rowsOf(studio, 'programs as p')
    .join('sheets as s', 's.id', 'p.sheet_id')
    .where('p.student_id', id)
    .select('p.id', 's.body', 's.year', 's.division')) as Rows;
  return {
    programs,
    choices: await exportedChoices(studio, programs.map(idOf)),
    scores: await exportedScores(studio, await scoresOfStudent(studio, id)),
    calendarLinks: await rowsOf(studio, 'calendar_links').where('student_id', id).select('id', 'created_at'),
  };
}

/** What the student practised, and what was noted about it. */
async function practice(studio: Studio, id: string): Promise<Readonly<Record<string, unknown>>> {
  const passages = (await rowsOf(studio, 'passages')
    .where('student_id', id)
    .select('id', 'name', 'span_from', 'span_to', 'target_bpm', 'target_unit')) as Rows;
  const ids = passages.map(idOf);
  return {
    passages,
    reps: await exportedReps(studio, ids),
    retractions: await rowsOf(studio, 'rep_retractions as t')
      .join('reps as x', 'x.id', 't.rep_id')
      .whereIn('x.passage_id', ids)
      .select('t.rep_id', 't.created_at'),
    readiness: await rowsOf(studio, 'readiness_snapshots').whereIn('id', ids).select(),
    cues: await rowsOf(studio, 'cues')
      .where('student_id', id)
      .orderBy(['score_id', 'from_index'])
      .select('id', 'score_id', 'kind', 'span_from', 'span_to', 'text', 'created_at'),
    findingMarks: await rowsOf(studio, 'finding_marks')
      .where('student_id', id)
      .select('score_id', 'finding_key', 'measure', 'mark', 'created_at'),
  };
}

/** The files that a student plays from, as they came. Shape: `file` in base64 */
async function exportedScores(studio: Studio, ids: readonly string[]): Promise<unknown> {
  const rows = (await rowsOf(studio, 'scores')
    .whereIn('id', ids)
    .select('id', 'title', 'file_name', 'part_id', 'numbering', 'file')) as { readonly file: Buffer }[];
  return Promise.all(
    rows.map(async (row) => ({ ...row, file: (await unpacked(row.file)).toString('base64') })),
  );
}

function idOf({ id }: { readonly id: string }): string {
  return id;
}

async function exportedChoices(studio: Studio, programIds: readonly string[]): Promise<unknown> {
  return rowsOf(studio, 'program_parts as pp')
    .join('sheet_parts as sp', 'sp.id', 'pp.sheet_part_id')
    .whereIn('pp.program_id', programIds)
    .select(
      ...[
        'pp.program_id',
        'sp.label',
        'pp.is_taken',
        'pp.own_title',
        'pp.edition',
        'pp.page',
        'pp.repeats',
        'pp.policy',
      ],
      ...['pp.target_bpm', 'pp.target_unit'],
    );
}

async function exportedReps(studio: Studio, passageIds: readonly string[]): Promise<unknown> {
  return rowsOf(studio, 'reps')
    .whereIn('passage_id', passageIds)
    .orderBy('at')
    .select('id', 'passage_id', 'at', 'bpm', 'beat_unit', 'context', 'is_clean');
}
