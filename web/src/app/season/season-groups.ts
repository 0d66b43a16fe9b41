import { groupBy } from '@vivid-cue/core/base';
import type { SeasonRow } from '@vivid-cue/contract';

/** By what the students of a season are put together. */
export type Grouping = 'none' | 'sheet' | 'instrument' | 'need';

/** The groupings with their names. */
export const GROUPINGS: readonly (readonly [Grouping, string])[] = [
  ['none', 'not at all'],
  ['sheet', 'by sheet'],
  ['instrument', 'by instrument'],
  ['need', 'by who needs you'],
];

/** Students under one heading. Shape: an empty title where all stand together */
export interface SeasonGroup {
  readonly title: string;
  readonly rows: readonly SeasonRow[];
}

/**
 * The students of a season in their groups.
 * Shape:  groups and students in the order in which they came, so that who needs the instructor stays on top; only those
 *         whose name or instrument has what is sought
 */
export function groupedRows(
  rows: readonly SeasonRow[],
  { by, sought }: { readonly by: Grouping; readonly sought: string },
): SeasonGroup[] {
  const wanted = plain(sought);
  const found = rows.filter(({ student }) => plain(`${student.name} ${student.instrument}`).includes(wanted));
  return [...groupBy(found, (row) => titleOf(row, by))].map(([title, own]) => ({ title, rows: own }));
}

function titleOf({ student, program, need }: SeasonRow, by: Grouping): string {
  if (by === 'none') return '';
  if (by === 'instrument') return student.instrument;
  if (by === 'sheet') return program?.sheetTitle ?? 'No sheet yet';
  return need === null ? 'The others' : 'Need you';
}

/** Letters without their marks, in one case. */
function plain(text: string): string {
  return text.normalize('NFD').replace(/\p{M}/gu, '').trim().toLowerCase();
}
