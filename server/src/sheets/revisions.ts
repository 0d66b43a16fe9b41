import { breaksOf, diffRevisions, type RevisionDifference } from '@vivid-cue/core/program';
import { measuresText } from '@vivid-cue/core/music';
import { deadlineStructure, partStructure } from '@vivid-cue/contract';
import type { ProgramBehind, RevisionInput, RevisionsView, SheetView } from '@vivid-cue/contract';
import { together, type Studio } from '../db/studio.js';
import { notFound } from '../http/problem.js';

import { addParts, retargetProgram } from '../programs/service.js';
import { moveProgramPart, setProgramRevision } from '../programs/repository.js';
import { readMeasureMap } from '../practice/measure-map.js';

import { programPartRows, type ProgramPartRow } from '../practice/part-row.js';
import {
  countPrograms,
  deadlinesOf,
  findSheetRow,
  insertRevision,
  partsOf,
  partView,
  programsOnSheet,
  revisionsOf,
  updateSheet,
  type PartRow,
  type ProgramOnSheet,
} from '../published/repository.js';
import { refusePast, refuseRepeatedIds, staleSheet } from './service.js';
import { revisedParts } from '../published/structure.js';

import { askedSpan } from '../practice/asked.js';
import { passageRows, practiceKey } from '../practice/passage-row.js';
import { sheetTitle, revisionLine, readSheet } from '../published/sheet-view.js';
import { studioFacts } from '../studio/facts.js';

/** A revision with the version of the sheet it was made on. */
export interface RevisionEdit {
  readonly id: string;
  readonly version: number;
  readonly input: RevisionInput;
}

/**
 * Adds a revision; programs stay on theirs until they are moved over.
 * Shape:  the sheet as it now stands; a part continues the one of the same label in the revision before
 * Units:  milliseconds since 1970
 * Errors: Problem not-found, version-stale, deadline-past, input-invalid
 */
export async function addRevision(studio: Studio, edit: RevisionEdit, nowMs: number): Promise<SheetView> {
  const { id, version, input } = edit;
  const before = await readSheet(studio, id);
  if (before.revision.id === input.revisionId) return before;
  refusePast(input.deadlines, before.deadlines, nowMs);
  refuseRepeatedIds(input);
  const known = await partsOf(studio, [before.revision.id]);
  const origins = new Map(
    input.parts.flatMap(({ id: partId, label }, n) => {
      const match =
        known.find((row) => row.label.toLowerCase() === label.toLowerCase()) ??
        (known.length === input.parts.length ? known[n] : undefined);
      return match ? [[partId, match.origin_id] as const] : [];
    }),
  );
  const isAdded = await together(studio, async (inside) => {
    if (!(await updateSheet(inside, { id, version, revisionId: input.revisionId }, input))) return false;
    const revision = {
      id: input.revisionId,
      sheetId: id,
      number: before.revision.number + 1,
      issuedOn: input.issuedOn,
      note: input.note,
    };
    return insertRevision(inside, revision, input, new Date(nowMs), origins);
  });
  const current = await readSheet(studio, id);
  if (!isAdded) throw staleSheet(current);
  return current;
}

/**
 * The revisions of a sheet, what the newest changed, and which programs still stand on an older one.
 * Shape:  newest first
 * Errors: Problem not-found
 */
export async function listRevisions(studio: Studio, sheetId: string): Promise<RevisionsView> {
  const sheet = await findSheetRow(studio, sheetId);
  if (!sheet) throw notFound('sheet');
  const revisions = await revisionsOf(studio, [sheetId]);
  const counts = await countPrograms(studio);
  const programs = (await programsOnSheet(studio, sheetId)).filter(
    ({ revision_id }) => revision_id !== sheet.revision_id,
  );
  const current = await partsOf(studio, [sheet.revision_id]);
  const behind: ProgramBehind[] = [];
  for (const program of programs)
    behind.push({
      programId: program.id,
      studentId: program.student_id,
      studentName: program.student_name,
      revisionNumber: revisions.find(({ id }) => id === program.revision_id)?.number ?? 1,
      breaks: await breaksIn(
        studio,
        program,
        current,
        await datesChanged(studio, program.revision_id, sheet.revision_id),
      ),
    });
  return {
    sheetId,
    title: sheetTitle(sheet),
    revisions: revisions.map((revision) => revisionLine(revision, counts)).reverse(),
    difference: await lastDifference(
      studio,
      revisions.map(({ id }) => id),
    ),
    behind,
  };
}

async function lastDifference(
  studio: Studio,
  revisionIds: readonly string[],
): Promise<RevisionDifference | null> {
  const [before, after] = revisionIds.slice(-2);
  if (before === undefined || after === undefined) return null;
  return difference(studio, before, after);
}

async function difference(studio: Studio, before: string, after: string): Promise<RevisionDifference> {
  const state = async (id: string): Promise<Parameters<typeof diffRevisions>[0]> => ({
    parts: revisedParts(await partsOf(studio, [id])),
    deadlines: (await deadlinesOf(studio, [id])).map(deadlineStructure),
  });
  return diffRevisions(await state(before), await state(after));
}

async function datesChanged(studio: Studio, before: string, after: string): Promise<string[]> {
  const { changes } = await difference(studio, before, after);
  return changes
    .filter(({ part, field }) => part.startsWith('deadlines[') && field === 'date')
    .map(
      ({ part, old, new: now }) =>
        `The ${/\[(.+)\]/u.exec(part)?.[1] ?? 'date'} moves from ${String(old ?? 'no date')} to ${String(now ?? 'no date')}.`,
    );
}

async function breaksIn(
  studio: Studio,
  program: ProgramOnSheet,
  current: readonly PartRow[],
  dates: readonly string[],
): Promise<ProgramBehind['breaks']> {
  const { vocabulary } = await studioFacts(studio);
  const parts = await programPartRows(studio, { programIds: [program.id] });
  const passages = await passageRows(studio, parts);
  const found = parts.flatMap((part) => {
    const next = current.find(({ origin_id }) => origin_id === part.origin_id);
    if (!next) return [{ part: part.label, sentences: ['This part is no longer asked.'] }];
    const own = passages.filter((row) => practiceKey(row) === practiceKey(part));
    const sentences = partBreaks(part, next, own, (from, to) => measuresText(from, to, vocabulary));
    return sentences.length === 0 ? [] : [{ part: part.label, sentences }];
  });
  const added = current.filter(({ origin_id }) => !parts.some((part) => part.origin_id === origin_id));
  return [
    ...found,
    ...added.map(({ label }) => ({ part: label, sentences: ['This part is new.'] })),
    ...(dates.length > 0 ? [{ part: 'Dates', sentences: dates }] : []),
  ];
}

function partBreaks(
  part: ProgramPartRow,
  next: PartRow,
  passages: Awaited<ReturnType<typeof passageRows>>,
  name: (from: string, to: string) => string,
): string[] {
  const measures = readMeasureMap(part.measure_map);
  const span = (row: PartRow): { readonly fromIndex: number; readonly endIndex: number } | null => {
    const asked = measures && askedSpan(measures, { ...row, pickup_counts: part.pickup_counts });
    return asked?.ok ? asked.value : null;
  };
  return breaksOf({
    before: span(part),
    after: span(next),
    spanText: (first, last) => name(measures?.[first]?.number ?? '', measures?.[last]?.number ?? ''),
    passages: passages.map((row) => ({ name: row.name, fromIndex: row.from_index, endIndex: row.end_index })),
    tempo: {
      old: partStructure(partView(part)).tempo,
      now: partStructure(partView(next)).tempo,
      ownTarget: part.target_bpm !== null,
    },
  });
}

/**
 * Moves programs over to the sheet's current revision; scores, choices, passages and reps stay.
 * Shape:  all programs that are behind where none is named
 * Errors: Problem not-found
 */
export async function movePrograms(
  studio: Studio,
  sheetId: string,
  programIds: readonly string[] | null,
): Promise<RevisionsView> {
  const sheet = await findSheetRow(studio, sheetId);
  if (!sheet) throw notFound('sheet');
  const programs = (await programsOnSheet(studio, sheetId)).filter(
    ({ id, revision_id }) =>
      revision_id !== sheet.revision_id && (programIds === null || programIds.includes(id)),
  );
  const current = await partsOf(studio, [sheet.revision_id]);
  await together(studio, async (inside) => {
    for (const program of programs) await moveOne(inside, program.id, sheet.revision_id, current);
  });
  return listRevisions(studio, sheetId);
}

async function moveOne(
  studio: Studio,
  programId: string,
  revisionId: string,
  current: readonly PartRow[],
): Promise<void> {
  for (const part of await programPartRows(studio, { programIds: [programId] })) {
    const next = current.find(({ origin_id }) => origin_id === part.origin_id);
    // A part that is no longer asked keeps its row on the old revision, so that nothing practised is lost.
    if (next) await moveProgramPart(studio, part.program_part_id, next.id);
  }
  await setProgramRevision(studio, programId, revisionId);
  await addParts(studio, programId, revisionId);
  await retargetProgram(studio, programId);
}
