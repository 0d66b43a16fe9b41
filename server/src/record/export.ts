import { RECORD_FORMAT, type RecordPassage, type RecordRep, type StudentRecord } from '@vivid-cue/contract';
import { groupBy } from '@vivid-cue/core/base';
import { readNumbering } from '../scores/repository.js';
import { unpacked } from '../db/packed.js';
import { rowsOf, type Studio } from '../db/studio.js';
import { stepOf } from '../passages/snapshot.js';
import { PASSAGE_COLUMNS, snapshotOf, type PassageRow } from '../practice/passage-row.js';
import { findPicture, pagesOfScores } from '../pages/repository.js';
import { deadlinesOf, deadlineView, partsOf, revisionsById } from '../published/repository.js';
import { partView } from '../published/sheet-part.js';
import { recordedMocks } from '../mocks/repository.js';
import { recordedUnits } from '../units/routes.js';
import { recordedFromStudent } from '../students/from-student.js';
import { lessonsOf } from '../students/lessons.js';
import { recordedPlan } from '../students/plans.js';
import { readSchools } from '../students/repository.js';
import { scoresOfStudent } from '../scores/unused.js';

/**
 * Everything the studio keeps of a student, as it can be read in again.
 * Shape:  null where there is no such student
 */
export async function exportedRecord(studio: Studio, id: string): Promise<StudentRecord | null> {
  const student: unknown = await rowsOf(studio, 'students').where({ id }).first('id', 'name', 'instrument');
  if (student === undefined) return null;
  const programs = (await rowsOf(studio, 'programs').where({ student_id: id }).select()) as ProgramRow[];
  const passages = (await rowsOf(studio, 'passages as p')
    .leftJoin('readiness_snapshots as r', 'r.id', 'p.id')
    .where('p.student_id', id)
    .orderBy('p.id')
    .select([...PASSAGE_COLUMNS, 'p.deleted_at'])) as PassageRow[];
  const scoreIds = await scoresOfStudent(studio, id);
  return {
    format: RECORD_FORMAT,
    formatVersion: 1,
    student: student as StudentRecord['student'],
    schools: await readSchools(studio, id),
    sheets: await exportedSheets(studio, programs),
    programs: await exportedPrograms(studio, programs),
    scores: await exportedScores(studio, scoreIds),
    pages: await exportedPages(studio, scoreIds),
    passages: passages.map(exportedPassage),
    reps: await exportedReps(
      studio,
      passages.map((row) => row.id),
    ),
    ...(await exportedNotes(studio, id)),
    ...(await recordedFromStudent(studio, id)),
    lessons: await lessonsOf(studio, id),
    units: await recordedUnits(studio, id),
    mocks: await recordedMocks(studio, id),
    plan: await recordedPlan(studio, id),
  };
}

interface ProgramRow {
  readonly id: string;
  readonly sheet_id: string;
  readonly revision_id: string;
  readonly division: string | null;
  readonly deleted_at: Date | null;
}

/** The sheets as the revisions state them on which the programs stand. */
async function exportedSheets(
  studio: Studio,
  programs: readonly ProgramRow[],
): Promise<StudentRecord['sheets']> {
  const heads = (await rowsOf(studio, 'sheets')
    .whereIn(
      'id',
      programs.map((program) => program.sheet_id),
    )
    .select('id', 'body', 'year', 'division', 'instrument')) as Pick<
    StudentRecord['sheets'][number],
    'id' | 'body' | 'year' | 'division' | 'instrument'
  >[];
  const revisionIds = programs.map((program) => program.revision_id);
  const revisions = new Map((await revisionsById(studio, revisionIds)).map((row) => [row.sheet_id, row]));
  const deadlines = groupBy(await deadlinesOf(studio, revisionIds), (row) => row.revision_id);
  const parts = groupBy(await partsOf(studio, revisionIds), (row) => row.revision_id);
  return heads.map((head) => {
    const revision = revisions.get(head.id);
    return {
      ...head,
      deadlines: (deadlines.get(revision?.id ?? '') ?? []).map(deadlineView),
      parts: (parts.get(revision?.id ?? '') ?? []).map(partView),
      ...revision?.extras,
      publishedText: revision?.published_text ?? null,
    } as StudentRecord['sheets'][number];
  });
}

async function exportedPrograms(
  studio: Studio,
  programs: readonly ProgramRow[],
): Promise<StudentRecord['programs']> {
  const rows = (await rowsOf(studio, 'program_parts as pp')
    .join('sheet_parts as sp', 'sp.id', 'pp.sheet_part_id')
    .whereIn(
      'pp.program_id',
      programs.map(({ id }) => id),
    )
    .whereNull('sp.deleted_at')
    .orderBy('sp.position')
    .select('pp.*', 'sp.origin_id')) as unknown as Record<string, string | number | null>[];
  const parts = groupBy(rows, (row) => String(row['program_id']));
  return programs.map((program) => ({
    id: program.id,
    sheetId: program.sheet_id,
    division: program.division,
    isRemoved: program.deleted_at !== null,
    parts: (parts.get(program.id) ?? []).map(exportedPart),
  }));
}

type RecordPart = StudentRecord['programs'][number]['parts'][number];

function exportedPart(row: Readonly<Record<string, string | number | null>>): RecordPart {
  const { target_bpm: bpm, target_unit: beatUnit } = row;
  return {
    id: row['id'],
    partId: row['origin_id'],
    scoreId: row['score_id'],
    target: bpm === null || beatUnit === null ? null : { bpm, beatUnit },
    isTaken: row['is_taken'] === 1,
    workTitle: row['own_title'],
    edition: row['edition'],
    page: row['page'],
    repeats: row['repeats'],
    policy: row['policy'],
    pickupCounts: row['pickup_counts'] === 1,
  } as RecordPart;
}

/** The files that a student plays from, as they are kept. */
async function exportedScores(studio: Studio, ids: readonly string[]): Promise<StudentRecord['scores']> {
  const rows = (await rowsOf(studio, 'scores as sc')
    .join('works as w', 'w.id', 'sc.work_id')
    .whereIn('sc.id', ids)
    .select(
      'sc.id',
      'sc.file_name',
      'sc.part_id',
      'sc.numbering',
      'sc.file',
      'w.title',
    )) as unknown as readonly {
    readonly id: string;
    readonly title: string;
    readonly file_name: string;
    readonly part_id: string;
    readonly numbering: string | null;
    readonly file: Buffer;
  }[];
  return Promise.all(
    rows.map(async (row) => ({
      id: row.id,
      work: row.title,
      fileName: row.file_name,
      partId: row.part_id,
      restarts: readNumbering(row.numbering),
      file: (await unpacked(row.file)).toString('base64'),
    })),
  );
}

/** The pages that a student plays from. */
async function exportedPages(
  studio: Studio,
  scoreIds: readonly string[],
): Promise<NonNullable<StudentRecord['pages']>> {
  const pages: { id: string; picture: string }[] = [];
  for (const id of await pagesOfScores(rowsOf(studio, 'score_pages'), scoreIds)) {
    const picture = await findPicture(studio, id, 'whole');
    if (picture) pages.push({ id, picture: picture.toString('base64') });
  }
  return pages;
}

function exportedPassage(row: PassageRow): RecordPassage {
  return {
    id: row.id,
    scoreId: row.score_id,
    name: row.name,
    from: row.span_from,
    to: row.span_to,
    fromIndex: row.from_index,
    endIndex: row.end_index,
    target: { bpm: row.target_bpm, beatUnit: row.target_unit },
    hasOwnTarget: row.has_own_target === 1,
    isSeam: row.is_seam === 1,
    step: { size: null, ...stepOf(row) },
    rule: row.rule,
    slipRule: row.slip_rule,
    school: row.climb_school,
    isRemoved: row.deleted_at != null,
    progress: JSON.stringify(snapshotOf(row)),
  };
}

async function exportedReps(studio: Studio, passageIds: readonly string[]): Promise<RecordRep[]> {
  const rows = (await rowsOf(studio, 'reps as x')
    .leftJoin('rep_retractions as t', 't.rep_id', 'x.id')
    .whereIn('x.passage_id', passageIds)
    .orderBy(['x.at', 'x.id'])
    .select(
      'x.id',
      { passageId: 'x.passage_id' },
      'x.at',
      'x.day',
      'x.bpm',
      { beatUnit: 'x.beat_unit' },
      'x.context',
      { isClean: 'x.is_clean' },
      'x.witness',
      'x.optimism',
      { retraction: 't.id' },
    )) as unknown as (Omit<RecordRep, 'at' | 'isClean' | 'isTakenBack'> & {
    readonly at: Date;
    readonly isClean: number;
    readonly retraction: string | null;
  })[];
  return rows.map(({ retraction, at, isClean, ...rep }) => ({
    ...rep,
    at: at.toISOString(),
    isClean: isClean === 1,
    isTakenBack: retraction !== null,
  }));
}

/** Cues, decisions about findings, and that there are calendars. */
async function exportedNotes(
  studio: Studio,
  studentId: string,
): Promise<Pick<StudentRecord, 'cues' | 'findingMarks' | 'calendarLinks'>> {
  const own = { student_id: studentId };
  const cues = (await rowsOf(studio, 'cues')
    .where(own)
    .orderBy(['score_id', 'from_index', 'id'])
    .select(
      ...['id', { scoreId: 'score_id' }, 'kind', { from: 'span_from' }, { to: 'span_to' }, 'text'],
      ...[
        { fromIndex: 'from_index' },
        { endIndex: 'end_index' },
        { findingKey: 'finding_key' },
        'deleted_at',
      ],
      ...['note', 'beat', 'sign', 'status', 'reason', 'author', 'alternatives'],
    )) as unknown as (Omit<StudentRecord['cues'][number], 'alternatives'> & {
    readonly deleted_at: Date | null;
    readonly alternatives: string;
  })[];
  const links = (await rowsOf(studio, 'calendar_links').where(own).select('id', 'created_at')) as {
    id: string;
    created_at: Date;
  }[];
  return {
    cues: cues.map(({ deleted_at: deletedAt, alternatives, ...cue }) => ({
      ...cue,
      alternatives: JSON.parse(alternatives) as StudentRecord['cues'][number]['alternatives'],
      isRemoved: deletedAt !== null,
    })),
    findingMarks: (await rowsOf(studio, 'finding_marks')
      .where(own)
      .orderBy(['created_at', 'id'])
      .select(
        ...['id', { scoreId: 'score_id' }, { key: 'finding_key' }, 'measure', 'mark'],
      )) as unknown as StudentRecord['findingMarks'],
    calendarLinks: links.map(({ id, created_at: at }) => ({ id, createdAt: at.toISOString() })),
  };
}
