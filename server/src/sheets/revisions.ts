import { groupBy } from '@vivid-cue/core/base';
import { measuresText, type Vocabulary } from '@vivid-cue/core/music';
import { breaksOf, diffRevisions, type RevisionDifference } from '@vivid-cue/core/program';
import type { Span } from '@vivid-cue/core/score';
import { deadlineStructure } from '@vivid-cue/contract';
import type { ProgramBehind, RevisionInput, RevisionsView, SheetView } from '@vivid-cue/contract';
import { partsHolding } from '@vivid-cue/core/sheet';
import { together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { askedSpans } from '../practice/asked.js';
import { readMeasureMap } from '../practice/measure-map.js';
import { practiceKey, programPartRows, type ProgramPartRow } from '../practice/part-row.js';
import { passageRows, type PassageRow } from '../practice/passage-row.js';
import { moveProgramParts, setProgramRevision } from '../programs/repository.js';
import { addMissingParts, withTargets } from '../programs/service.js';
import {
  countPrograms,
  deadlinesOf,
  findSheetRow,
  insertRevision,
  partsOf,
  programsOnSheet,
  revisionsOf,
  updateSheet,
  type DeadlineRow,
  type ProgramOnSheet,
  type RevisionRow,
  type SheetRow,
} from '../published/repository.js';
import { scopeOfRow, tempoOfRow, type PartRow } from '../published/sheet-part.js';
import { readSheet, revisionLine, sheetTitle } from '../published/sheet-view.js';
import { revisedParts } from '../published/structure.js';
import { studioFacts } from '../studio/facts.js';
import { refuseRepeatedIds, staleSheet } from './service.js';

/** A revision with the version of the sheet it was made on. */
export interface RevisionEdit {
  readonly id: string;
  readonly version: number;
  readonly input: RevisionInput;
}

/**
 * Adds a revision; programs stay on theirs until they are moved over. A part keeps its identifier from revision to
 * revision. All of it is one transaction: where anything is refused, the sheet stays as it was.
 * Shape:  the sheet as it now stands
 * Units:  milliseconds since 1970
 * Errors: Problem not-found, version-stale, id-taken, input-invalid
 */
export async function addRevision(studio: Studio, edit: RevisionEdit, nowMs: number): Promise<SheetView> {
  const { id, version, input } = edit;
  const before = await readSheet(studio, id);
  if (before.revision.id === input.revisionId) return before;
  refuseRepeatedIds(input);
  const revision = {
    id: input.revisionId,
    sheetId: id,
    number: before.revision.number + 1,
    issuedOn: input.issuedOn,
    note: input.note,
  };
  const isAdded = await together(studio, async (inside) => {
    if ((await findSheetRow(inside, id, true))?.version !== version) return false;
    if (!(await insertRevision(inside, revision, { sheet: input, now: new Date(nowMs) })))
      throw new Problem('id-taken', 'This revision could not be added; reload the page and try again.');
    return updateSheet(inside, { id, version, revisionId: input.revisionId }, input);
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
  const states = await revisionStates(
    studio,
    revisions.map(({ id }) => id),
  );
  const programs = (await programsOnSheet(studio, sheetId)).filter(
    ({ revision_id }) => revision_id !== sheet.revision_id,
  );
  return {
    sheetId,
    title: sheetTitle(sheet),
    revisions: revisions.map((revision) => revisionLine(revision, counts)).reverse(),
    difference: lastDifference(
      revisions.map(({ id }) => id),
      states,
    ),
    behind: await programsBehind(studio, programs, { sheet, revisions, states }),
  };
}

/** What revisions state, by their identifiers. */
interface RevisionState {
  readonly rows: readonly PartRow[];
  readonly deadlines: readonly DeadlineRow[];
}
type States = ReadonlyMap<string, RevisionState>;

async function revisionStates(studio: Studio, ids: readonly string[]): Promise<States> {
  const parts = groupBy(await partsOf(studio, ids), ({ revision_id }) => revision_id);
  const deadlines = groupBy(await deadlinesOf(studio, ids), ({ revision_id }) => revision_id);
  return new Map(
    ids.map((id) => [id, { rows: parts.get(id) ?? [], deadlines: deadlines.get(id) ?? [] }] as const),
  );
}

/** Every program that stands on an older revision, with what the current one breaks: a few queries for all of them. */
async function programsBehind(
  studio: Studio,
  programs: readonly ProgramOnSheet[],
  {
    sheet,
    revisions,
    states,
  }: { readonly sheet: SheetRow; readonly revisions: readonly RevisionRow[]; readonly states: States },
): Promise<ProgramBehind[]> {
  const { vocabulary } = await studioFacts(studio);
  const rows = await programPartRows(studio, { programIds: programs.map(({ id }) => id) });
  const parts = groupBy(rows, ({ program_id }) => program_id);
  const passages = groupBy(await passageRows(studio, rows), practiceKey);
  const current = states.get(sheet.revision_id)?.rows ?? [];
  return programs.map((program) => ({
    programId: program.id,
    studentId: program.student_id,
    studentName: program.student_name,
    revisionNumber: revisions.find(({ id }) => id === program.revision_id)?.number ?? 1,
    breaks: breaksIn(parts.get(program.id) ?? [], {
      current,
      passages,
      vocabulary,
      dates: datesChanged(states, program.revision_id, sheet.revision_id),
    }),
  }));
}

function lastDifference(revisionIds: readonly string[], states: States): RevisionDifference | null {
  const [before, after] = revisionIds.slice(-2);
  if (before === undefined || after === undefined) return null;
  return difference(states, before, after);
}

function difference(states: States, before: string, after: string): RevisionDifference {
  const state = (id: string): Parameters<typeof diffRevisions>[0] => ({
    parts: revisedParts(states.get(id)?.rows ?? []),
    deadlines: (states.get(id)?.deadlines ?? []).map(deadlineStructure),
  });
  return diffRevisions(state(before), state(after));
}

function datesChanged(states: States, before: string, after: string): string[] {
  return difference(states, before, after)
    .changes.filter(({ part, field }) => part.startsWith('deadlines[') && field === 'date')
    .map(
      ({ part, old, new: now }) =>
        `The ${/\[(.+)\]/u.exec(part)?.[1] ?? 'date'} moves from ${String(old ?? 'no date')} to ${String(now ?? 'no date')}.`,
    );
}

/** What a revision's breaks are told from. */
interface BreakFacts {
  readonly current: readonly PartRow[];
  readonly passages: ReadonlyMap<string, readonly PassageRow[]>;
  readonly vocabulary: Vocabulary;
  readonly dates: readonly string[];
}

function breaksIn(
  parts: readonly ProgramPartRow[],
  { current, passages, vocabulary, dates }: BreakFacts,
): ProgramBehind['breaks'] {
  const found = parts.flatMap((part) => {
    const next = current.find(({ origin_id }) => origin_id === part.origin_id);
    if (!next) return [{ part: part.label, sentences: ['This part is no longer asked.'] }];
    const sentences = partBreaks(part, next, { passages: passages.get(practiceKey(part)) ?? [], vocabulary });
    return sentences.length === 0 ? [] : [{ part: part.label, sentences }];
  });
  return [
    ...found,
    ...newParts(parts, current).map(({ label }) => ({ part: label, sentences: ['This part is new.'] })),
    ...(dates.length > 0 ? [{ part: 'Dates', sentences: [...dates] }] : []),
  ];
}

/** Parts of a revision that a program does not answer and that hold for its player. */
function newParts(parts: readonly ProgramPartRow[], current: readonly PartRow[]): readonly PartRow[] {
  const [first] = parts;
  const held = partsHolding(
    current.map((row) => ({ row, scope: scopeOfRow(row) })),
    { instrument: first?.instrument ?? null, division: first?.division ?? null },
  );
  return held
    .map(({ row }) => row)
    .filter(({ origin_id }) => !parts.some((part) => part.origin_id === origin_id));
}

function partBreaks(
  part: ProgramPartRow,
  next: PartRow,
  { passages, vocabulary }: { readonly passages: readonly PassageRow[]; readonly vocabulary: Vocabulary },
): string[] {
  const measures = readMeasureMap(part.measure_map);
  const spans = (row: PartRow): readonly Span[] | null => {
    const asked = measures && askedSpans(measures, { ...row, pickup_counts: part.pickup_counts });
    return asked?.ok ? asked.value : null;
  };
  return breaksOf({
    before: spans(part),
    after: spans(next),
    spanText: (first, last) =>
      measuresText(measures?.[first]?.number ?? '', measures?.[last]?.number ?? '', vocabulary),
    passages: passages.map((row) => ({ name: row.name, fromIndex: row.from_index, endIndex: row.end_index })),
    tempo: {
      old: tempoOfRow(part),
      now: tempoOfRow(next),
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
  const ids = programs.map(({ id }) => id);
  const current = await partsOf(studio, [sheet.revision_id]);
  await together(studio, (inside) =>
    withTargets(inside, { programIds: ids }, async (before) => {
      await moveParts(inside, before, current);
      await setProgramRevision(inside, ids, sheet.revision_id);
      await addMissingParts(inside, sheet.revision_id, ids);
    }),
  );
  return listRevisions(studio, sheetId);
}

/** A part that is no longer asked keeps its row on the old revision, so that nothing practised is lost. */
async function moveParts(
  studio: Studio,
  parts: readonly ProgramPartRow[],
  current: readonly PartRow[],
): Promise<void> {
  const byOrigin = groupBy(parts, ({ origin_id }) => origin_id);
  for (const { id, origin_id } of current) {
    const own = byOrigin.get(origin_id) ?? [];
    if (own.length > 0)
      await moveProgramParts(
        studio,
        own.map(({ program_part_id: partId }) => partId),
        id,
      );
  }
}
