import { fieldIssuesOf, sheetChangeSchema, type FieldIssue, type SheetChange } from '@vivid-cue/contract';

/** What the contract finds wrong with a sheet, field by field. */
export function issuesOf(change: SheetChange): readonly FieldIssue[] {
  try {
    sheetChangeSchema.validateSync(change, { strict: true, abortEarly: false });
    return [];
  } catch (error) {
    return fieldIssuesOf(error);
  }
}

/** What is wrong with a part, field by field of its own line left out, for those are marked where they stand. */
export function issueOfPart(issues: readonly FieldIssue[], index: number): string {
  const start = `parts[${index}]`;
  const own = new Set(['label', 'title', 'measures'].map((name) => `${start}.${name}`));
  const found = issues.filter(
    ({ where }) =>
      (where === start || where.startsWith(`${start}.`)) &&
      !own.has(where.replace(/(?<=\w)\[.*$|(?<=measures).*$/u, '')),
  );
  return [...new Set(found.map(({ message }) => message))].join(' ');
}

/** What is wrong with a field, by its path; "" where nothing is. */
export type IssueText = (where: string) => string;
