import { fieldIssuesOf, sheetChangeSchema, type FieldIssue, type SheetChange } from '@vivid-cue/contract';
import { daysLeft, dueMoment, instantOf, isZone } from '@vivid-cue/contract/zones';
import { daysText } from '../ui/texts';
import type { DeadlineForm } from './sheet-form';

/** What the contract finds wrong with a sheet, field by field. */
export function issuesOf(change: SheetChange): readonly FieldIssue[] {
  try {
    sheetChangeSchema.validateSync(change, { strict: true, abortEarly: false });
    return [];
  } catch (error) {
    return fieldIssuesOf(error);
  }
}

/** Whether a path is of a part of the sheet, or of one of its fields. */
export function isOfPart({ where }: FieldIssue, index: number): boolean {
  const start = `parts[${index}]`;
  return where === start || where.startsWith(`${start}.`);
}

/** What is wrong with a part, field by field of its own line left out, for those are marked where they stand. */
export function issueOfPart(issues: readonly FieldIssue[], index: number): string {
  const start = `parts[${index}]`;
  const own = new Set(['label', 'title', 'measures'].map((name) => `${start}.${name}`));
  const found = issues.filter(
    (issue) => isOfPart(issue, index) && !own.has(issue.where.replace(/(?<=\w)\[.*$|(?<=measures).*$/u, '')),
  );
  return [...new Set(found.map(({ message }) => message))].join(' ');
}

/** What is wrong with a field, by its path; "" where nothing is. */
export type IssueText = (where: string) => string;

/**
 * What to heed about a date that has passed: a slip of the pen perhaps, and no reason not to save.
 * Shape:  "" for a date that is still to come, is left open or is none
 * Units:  milliseconds since 1970
 */
export function passedText(deadline: DeadlineForm, nowMs: number, studioZone: string): string {
  const { kind, date, endDate, time, zone } = deadline.getRawValue();
  const orNull = (text: string): string | null => (text.trim() === '' ? null : text);
  const moment = dueMoment({ kind, date: orNull(date), endDate: orNull(endDate), time: orNull(time), zone });
  if (moment === null || !isZone(zone) || !(instantOf(moment) < nowMs)) return '';
  const days = daysLeft(moment, nowMs, studioZone);
  return `Passed ${days < 0 ? daysText(days) : 'today'}. Is the year right?`;
}
