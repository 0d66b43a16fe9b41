import type { BeatUnit, Bpm, TempoBound } from '@vivid-cue/core/music';
import {
  blankPart,
  fieldOf,
  PART_FIELDS,
  type PartScope,
  type SheetPart,
  type SheetSpan,
  type WorkSource,
} from '@vivid-cue/core/sheet';
import type { Studio } from '../db/studio.js';

/** What a part states beside its columns, as JSON. */
type StoredDetail = Partial<
  WorkSource & Omit<SheetPart, 'id' | 'label' | 'kind' | 'title' | 'scope' | 'measures' | 'tempo' | 'source'>
>;

/** A part of a revision: `origin_id` is the part's own identifier, the same in every revision. */
export interface PartRow {
  readonly id: string;
  readonly revision_id: string;
  readonly origin_id: string;
  readonly kind: SheetPart['kind'];
  readonly label: string;
  readonly work_title: string;
  readonly measures: string;
  readonly scope: string;
  readonly beat_unit: BeatUnit | null;
  readonly bpm_min: Bpm | null;
  readonly bpm_max: Bpm | null;
  readonly bound: TempoBound;
  readonly tempo_words: string | null;
  readonly detail: string | null;
}

/** Columns of a part. */
export const PART_COLUMNS = [
  'id',
  'revision_id',
  'origin_id',
  'kind',
  'label',
  'work_title',
  'measures',
  'scope',
  'beat_unit',
  'bpm_min',
  'bpm_max',
  'bound',
  'tempo_words',
  'detail',
];

/** A part as core has it. */
export function partView(row: PartRow): SheetPart {
  const detail = row.detail === null ? {} : (JSON.parse(row.detail) as StoredDetail);
  const { composer, book, number, page, edition, ...rest } = detail;
  const blank = blankPart(row.label, row.kind, row.origin_id);
  return {
    ...blank,
    ...rest,
    title: row.work_title === '' ? null : row.work_title,
    source: {
      composer: composer ?? null,
      book: book ?? null,
      number: number ?? null,
      page: page ?? null,
      edition: edition ?? null,
    },
    measures: askedRuns(row),
    scope: scopeOfRow(row),
    tempo: tempoOfRow(row),
  };
}

/** The tempo a part asks, read from its columns alone. */
export function tempoOfRow(row: PartRow): SheetPart['tempo'] {
  return {
    beatUnit: row.beat_unit,
    bpmMin: row.bpm_min,
    bpmMax: row.bpm_max,
    bound: row.bound,
    words: row.tempo_words,
  };
}

/** The runs of measures that a part asks, in the order played. */
export function askedRuns({ measures }: Pick<PartRow, 'measures'>): SheetSpan[] {
  return (JSON.parse(measures) as SheetSpan[]).map(({ from, to, anchorText }) => ({
    from: wholeNumber(from),
    to: wholeNumber(to),
    anchorText,
  }));
}

function wholeNumber(point: number | string): number | string {
  return /^\d+$/u.test(String(point)) ? Number(point) : point;
}

/** For whom a part holds. */
export function scopeOfRow({ scope }: Pick<PartRow, 'scope'>): PartScope {
  return JSON.parse(scope) as PartScope;
}

/** Where the rows of a revision stand. */
export interface RevisionPlace {
  readonly sheetId: string;
  readonly revisionId: string;
}

/** Whether two parts say the same in every field, to the words of an anchor. */
export function isSamePart(a: SheetPart, b: SheetPart): boolean {
  return PART_FIELDS.every(
    ({ name }) => JSON.stringify(fieldOf(a, name)) === JSON.stringify(fieldOf(b, name)),
  );
}

/** A part as a row of its revision. */
export function partRow(
  studio: Studio,
  { sheetId, revisionId }: RevisionPlace,
  { part, position }: { readonly part: SheetPart; readonly position: number },
): Record<string, unknown> {
  const { id, kind, label, title, scope, measures, tempo, source, ...rest } = part;
  return {
    studio_id: studio.id,
    sheet_id: sheetId,
    revision_id: revisionId,
    origin_id: id,
    position,
    kind,
    label,
    work_title: title ?? '',
    measures: JSON.stringify(measures),
    scope: JSON.stringify(scope),
    beat_unit: tempo.beatUnit,
    bpm_min: tempo.bpmMin,
    bpm_max: tempo.bpmMax,
    bound: tempo.bound,
    tempo_words: tempo.words,
    detail: JSON.stringify({ ...source, ...rest }),
  };
}
