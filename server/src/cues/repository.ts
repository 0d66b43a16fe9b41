import type { CueAuthor, CueKind, CueStatus } from '@vivid-cue/core/cue-kinds';
import type { CueAlternative, CueView } from '@vivid-cue/contract';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';
import type { Practice } from '../practice/part-row.js';

/** A cue as stored. */
export interface CueRow {
  readonly id: string;
  readonly student_id: string;
  readonly score_id: string;
  readonly kind: CueKind;
  readonly span_from: string;
  readonly span_to: string;
  readonly from_index: number;
  readonly end_index: number;
  readonly text: string;
  readonly note: number | null;
  readonly beat: number | null;
  readonly sign: string;
  readonly status: CueStatus;
  readonly reason: string;
  readonly author: CueAuthor;
  /** A JSON text. */
  readonly alternatives: string;
  readonly finding_key: string | null;
  readonly version: number;
  readonly deleted_at: Date | null;
}

const COLUMNS = [
  ...['id', 'student_id', 'score_id', 'kind', 'span_from', 'span_to', 'from_index', 'end_index', 'text'],
  ...[
    'note',
    'beat',
    'sign',
    'status',
    'reason',
    'author',
    'alternatives',
    'finding_key',
    'version',
    'deleted_at',
  ],
];

/** A cue as the contract shows it. */
export function cueView(row: CueRow): CueView {
  return {
    id: row.id,
    kind: row.kind,
    from: row.span_from,
    to: row.span_to,
    fromIndex: row.from_index,
    endIndex: row.end_index,
    text: row.text,
    note: row.note,
    beat: row.beat,
    sign: row.sign,
    status: row.status,
    reason: row.reason,
    author: row.author,
    alternatives: JSON.parse(row.alternatives) as CueAlternative[],
    findingKey: row.finding_key,
    version: row.version,
  };
}

/** The cues of a student's score in the order of the music, removed ones left out. */
export async function cueRows(
  studio: Studio,
  { student_id: studentId, score_id: scoreId }: Practice,
): Promise<CueRow[]> {
  if (scoreId === null) return [];
  return (await rowsOf(studio, 'cues')
    .where({ student_id: studentId, score_id: scoreId })
    .whereNull('deleted_at')
    .orderBy(['from_index', 'note', 'created_at', 'id'])
    .select(COLUMNS)) as unknown as CueRow[];
}

/** Cues of a score, whoever has them, or of one student; removed ones included. */
export async function cuesOfScore(
  studio: Studio,
  scoreId: string,
  studentId: string | null,
): Promise<CueRow[]> {
  const query = rowsOf(studio, 'cues').where({ score_id: scoreId }).orderBy('from_index').select(COLUMNS);
  return (await (studentId === null ? query : query.where({ student_id: studentId }))) as unknown as CueRow[];
}

/** One cue that is not removed, or null. */
export async function findCue(studio: Studio, id: string): Promise<CueRow | null> {
  return (
    ((await rowsOf(studio, 'cues').where({ id }).whereNull('deleted_at').first(COLUMNS)) as
      CueRow | undefined) ?? null
  );
}

/** What an instructor decides of a cue. */
export type CueColumns = Omit<
  CueRow,
  'id' | 'student_id' | 'score_id' | 'author' | 'finding_key' | 'version' | 'deleted_at'
>;

/** Adds a cue once. */
export function insertCue(
  studio: Studio,
  cue: CueColumns & Practice & Pick<CueRow, 'id' | 'author' | 'finding_key'>,
  now: Date,
): Promise<boolean> {
  return insertOnce(studio, 'cues', { ...cue, created_at: now });
}

/** Changes a cue made on a version; false when that version is not the current one. */
export async function updateCue(
  studio: Studio,
  id: string,
  { version, columns }: { readonly version: number; readonly columns: CueColumns },
): Promise<boolean> {
  return (
    (await rowsOf(studio, 'cues')
      .where({ id, version })
      .whereNull('deleted_at')
      .update({ ...columns, version: version + 1 })) === 1
  );
}

/** Removes a cue, or takes the removal back. */
export async function markCue(studio: Studio, id: string, deletedAt: Date | null): Promise<boolean> {
  return (await rowsOf(studio, 'cues').where({ id }).update({ deleted_at: deletedAt })) === 1;
}

/** Puts a cue at other measures, perhaps of another score; its version moves on. */
export async function placeCue(
  studio: Studio,
  id: string,
  place: Partial<Pick<CueRow, 'score_id' | 'span_from' | 'span_to' | 'from_index' | 'end_index'>>,
): Promise<void> {
  await rowsOf(studio, 'cues').where({ id }).increment('version', 1).update(place);
}
