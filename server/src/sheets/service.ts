import {
  daysLeft,
  instantOf,
  type DeadlineInput,
  type SheetChange,
  type SheetInput,
  type SheetLine,
  type SheetView,
} from '@vivid-cue/contract';
import { together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { addMissingParts, retargetSheet } from '../programs/service.js';
import { studioFacts } from '../season/repository.js';
import {
  countPrograms,
  deadlinesOf,
  findSheet,
  insertSheet,
  listSheetRows,
  partsOf,
  updateSheet,
} from './repository.js';

/**
 * The name of a sheet in one line.
 * Shape:  body, division and year
 * Units:  none
 * Errors: none
 * Source: none
 */
export function sheetTitle({
  body,
  division,
  year,
}: {
  readonly body: string;
  readonly division: string;
  readonly year: string;
}): string {
  return division === '' ? `${body} ${year}` : `${body}, ${division} ${year}`;
}

/**
 * Every sheet with its next date.
 * Shape:  by body
 * Units:  calendar days in the studio's zone
 * Errors: none
 * Source: none
 */
export async function listSheets(studio: Studio, nowMs: number): Promise<SheetLine[]> {
  const rows = await listSheetRows(studio);
  const ids = rows.map(({ id }) => id);
  const [deadlines, parts, programs, { zone }] = [
    await deadlinesOf(studio, ids),
    await partsOf(studio, ids),
    await countPrograms(studio),
    await studioFacts(studio),
  ];
  return rows.map((row) => {
    const next = nextDeadline(
      deadlines.filter(({ sheet_id }) => sheet_id === row.id),
      nowMs,
    );
    return {
      id: row.id,
      title: sheetTitle(row),
      instrument: row.instrument,
      parts: parts.filter(({ sheet_id }) => sheet_id === row.id).length,
      programs: programs.get(row.id) ?? 0,
      next: next && { what: next.kind, daysLeft: daysLeft(instantOf(next), nowMs, zone) },
    };
  });
}

/**
 * The first date that is still to come.
 * Shape:  null when all are past
 * Units:  milliseconds since 1970
 * Errors: none
 * Source: none
 */
export function nextDeadline<D extends DeadlineInput>(deadlines: readonly D[], nowMs: number): D | null {
  const ahead = deadlines.filter((deadline) => instantOf(deadline) >= nowMs);
  return ahead.reduce<D | null>(
    (first, deadline) => (first === null || instantOf(deadline) < instantOf(first) ? deadline : first),
    null,
  );
}

/**
 * One sheet.
 * Shape:  none
 * Units:  none
 * Errors: Problem not-found
 * Source: none
 */
export async function readSheet(studio: Studio, id: string): Promise<SheetView> {
  const sheet = await findSheet(studio, id);
  if (!sheet) throw notFound('sheet');
  return sheet;
}

/**
 * Adds a sheet; a repeated request gives the same sheet again.
 * Shape:  none
 * Units:  milliseconds since 1970
 * Errors: Problem deadline-past for a date that is over; id-taken
 * Source: none
 */
export async function addSheet(studio: Studio, input: SheetInput, nowMs: number): Promise<SheetView> {
  const known = await findSheet(studio, input.id);
  if (known) return known;
  refusePast(input.deadlines, [], nowMs);
  refuseRepeatedIds(input);
  await together(studio, (inside) => insertSheet(inside, input, new Date(nowMs)));
  const sheet = await findSheet(studio, input.id);
  if (!sheet) throw new Problem('id-taken', 'This sheet could not be added; reload the page and try again.');
  return sheet;
}

/** An edit with the version it was made on. */
export interface SheetEdit {
  readonly id: string;
  readonly version: number;
  readonly change: SheetChange;
}

/**
 * Changes a sheet and carries new parts and moved tempos over to its programs.
 * Shape:  none
 * Units:  milliseconds since 1970
 * Errors: Problem not-found; version-stale with the current sheet; deadline-past for a new date that is over
 * Source: none
 */
export async function changeSheet(
  studio: Studio,
  { id, version, change }: SheetEdit,
  nowMs: number,
): Promise<SheetView> {
  const before = await readSheet(studio, id);
  refusePast(change.deadlines, before.deadlines, nowMs);
  refuseRepeatedIds(change);
  const isChanged = await together(studio, async (inside) => {
    if (!(await updateSheet(inside, id, version, change, new Date(nowMs)))) return false;
    await addMissingParts(inside, id);
    await retargetSheet(inside, id);
    return true;
  });
  const current = await readSheet(studio, id);
  if (!isChanged)
    throw new Problem(
      'version-stale',
      'This sheet was changed in another window meanwhile; look at both and save again.',
      { current },
    );
  return current;
}

/** A date that was already on the sheet may pass; a new one in the past is a slip of the pen. */
function refusePast(
  deadlines: readonly DeadlineInput[],
  before: readonly DeadlineInput[],
  nowMs: number,
): void {
  const issues = deadlines.flatMap((deadline, n) => {
    const isKnown = before.some(
      ({ id, date, time, zone }) =>
        id === deadline.id && date === deadline.date && time === deadline.time && zone === deadline.zone,
    );
    if (isKnown || instantOf(deadline) >= nowMs) return [];
    return [
      {
        where: `deadlines[${n}].date`,
        message: `${deadline.date}${deadline.time === null ? '' : ` ${deadline.time}`} in ${deadline.zone} is already past; check the year.`,
      },
    ];
  });
  if (issues.length > 0)
    throw new Problem('deadline-past', issues.map(({ message }) => message).join(' '), { issues });
}

function refuseRepeatedIds({ deadlines, parts }: SheetChange): void {
  for (const list of [deadlines, parts]) {
    if (new Set(list.map(({ id }) => id)).size !== list.length)
      throw new Problem(
        'input-invalid',
        'Two lines of the sheet carry the same identifier; reload the page and try again.',
      );
  }
}
