import { fieldIssuesOf, sheetChangeSchema, type FieldIssue, type SheetChange } from '@vivid-cue/contract';
import type { SheetRest } from './sheet-form';

/** What the contract finds wrong with a sheet, field by field. */
export function issuesOf(change: SheetChange): readonly FieldIssue[] {
  try {
    sheetChangeSchema.validateSync(change, { strict: true, abortEarly: false });
    return [];
  } catch (error) {
    return fieldIssuesOf(error);
  }
}

/** A rule of choice in words. */
export function choiceText({ rule, n, of: items }: NonNullable<SheetRest['choices']>[number]): string {
  const isEach = rule === 'oneFromEach';
  const names = items
    .map((one) => (typeof one === 'string' ? one : one.join(isEach ? ' / ' : ' with ')))
    .join(isEach ? ' · ' : ', ');
  if (rule === 'all') return `All of ${names}`;
  return isEach ? `One from each: ${names}` : `${n === 1 ? 'One' : n} of ${names}`;
}

/** What is wrong with a part as a whole, or with any field of its tempo or details. */
export function issueOfPart(issues: readonly FieldIssue[], index: number): string {
  const start = `parts[${index}]`;
  const found = issues.filter(
    ({ where }) =>
      where === start || where.startsWith(`${start}.tempo`) || where.startsWith(`${start}.detail`),
  );
  return [...new Set(found.map(({ message }) => message))].join(' ');
}
