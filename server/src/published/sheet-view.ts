import {
  dueMoment,
  instantOf,
  type DeadlineInput,
  type SheetChange,
  type SheetView,
} from '@vivid-cue/contract';
import type { Studio } from '../db/studio.js';
import { notFound } from '../http/problem.js';
import {
  countPrograms,
  deadlinesOf,
  deadlineView,
  findSheetRow,
  partsOf,
  revisionsOf,
  type RevisionRow,
} from './repository.js';
import { partView } from './sheet-part.js';

/**
 * How a sheet is named everywhere.
 * Shape:  body, division and year
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
  // Bounds in brackets, and a division that is nothing but bounds, stay on the sheet itself.
  const name = division.replace(/\s*\(.*\)/gu, '').replace(/^(?:to age|from age|ages|grades?)\s\d.*$/u, '');
  return name === '' ? `${body} ${year}` : `${body}, ${name} ${year}`;
}

/**
 * The date that comes next.
 * Shape:  null when every date is past or none names a day
 * Units:  milliseconds since 1970
 */
export function nextDeadline<D extends DeadlineInput>(deadlines: readonly D[], nowMs: number): D | null {
  const instant = (deadline: D): number => {
    const moment = dueMoment(deadline);
    return moment === null ? -Infinity : instantOf(moment);
  };
  const ahead = deadlines.filter((deadline) => instant(deadline) >= nowMs);
  return ahead.reduce<D | null>(
    (first, deadline) => (first === null || instant(deadline) < instant(first) ? deadline : first),
    null,
  );
}

/**
 * A whole sheet as its current revision states it.
 * Errors: Problem not-found
 */
export async function readSheet(studio: Studio, id: string): Promise<SheetView> {
  const row = await findSheetRow(studio, id);
  const revisions = row ? await revisionsOf(studio, [id]) : [];
  const revision = revisions.find((one) => one.id === row?.revision_id);
  if (!row || !revision) throw notFound('sheet');
  const programs = await countPrograms(studio);
  const { id: _id, revision_id: revisionId, ...head } = row;
  return {
    ...head,
    id,
    deadlines: (await deadlinesOf(studio, [revisionId])).map(deadlineView),
    parts: (await partsOf(studio, [revisionId])).map(partView),
    ...(revision.extras as Pick<SheetChange, 'choices' | 'notes' | 'questions' | 'told'>),
    publishedText: revision.published_text,
    revision: revisionLine(revision, programs),
  };
}

/** A revision in one line. */
export function revisionLine(
  { id, number, issued_on, note }: RevisionRow,
  programs: ReadonlyMap<string, number>,
): SheetView['revision'] {
  return { id, number, issuedOn: issued_on, note, programs: programs.get(id) ?? 0 };
}
