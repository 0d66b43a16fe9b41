import { v7 as newId } from 'uuid';
import type { ProgramInput, SheetProgramLine, StudentView, Target } from '@vivid-cue/contract';
import { partsHolding } from '@vivid-cue/core/sheet';
import { together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { findPassage, lockPassages, updatePassage, type PassageColumns } from '../passages/repository.js';
import { rebuildSnapshot } from '../passages/snapshot.js';
import {
  findProgramPart,
  practiceKey,
  programPartRows,
  type PartFilter,
  type Practice,
  type ProgramPartRow,
} from '../practice/part-row.js';
import { passageRows, type PassageRow } from '../practice/passage-row.js';
import { practiceTargets, type PracticeTarget } from '../practice/target.js';
import { findSheetRow, partsOf, programsOnSheet, revisionsById } from '../published/repository.js';
import { scopeOfRow } from '../published/sheet-part.js';
import { findStudent, listStudents } from '../students/repository.js';
import { readSettings } from '../studio/settings.js';
import {
  answeredParts,
  findProgram,
  insertProgram,
  insertProgramParts,
  knownScores,
  markProgram,
  programRows,
  programsOn,
  setDivision,
  updateTarget,
} from './repository.js';
import { type StudentEdit, changeStudent } from '../students/service.js';

/**
 * Gives a student a sheet: one program with every part of it; a score that others already use comes along.
 * Shape:  the program's identifier
 * Errors: Problem not-found, id-taken
 */
export async function addProgram(studio: Studio, input: ProgramInput, now: Date): Promise<string> {
  if (!(await findStudent(studio, input.studentId))) throw notFound('student');
  const sheet = await findSheetRow(studio, input.sheetId);
  if (!sheet) throw notFound('sheet');
  await together(studio, async (inside) => {
    const isNew = await insertProgram(inside, { ...input, revisionId: sheet.revision_id }, now);
    if (isNew) await addParts(inside, input.id);
  });
  const program = await findProgram(studio, input.id);
  if (program?.student_id !== input.studentId || program.sheet_id !== input.sheetId)
    throw new Problem('id-taken', 'This program could not be added; reload the page and try again.');
  return input.id;
}

/**
 * Gives several students a sheet; those who have it already are passed over.
 * Errors: Problem not-found, id-taken
 */
export async function addPrograms(
  studio: Studio,
  sheetId: string,
  {
    programs,
    now,
  }: {
    readonly programs: readonly { readonly id: string; readonly studentId: string }[];
    readonly now: Date;
  },
): Promise<void> {
  const sheet = await findSheetRow(studio, sheetId);
  if (!sheet) throw notFound('sheet');
  const known = new Set((await listStudents(studio)).map(({ id }) => id));
  if (programs.some(({ studentId }) => !known.has(studentId))) throw notFound('student');
  await together(studio, async (inside) => {
    const have = new Set((await programsOnSheet(inside, sheetId)).map(({ student_id: id }) => id));
    const fresh = programs.filter(({ studentId }) => !have.has(studentId));
    for (const { id, studentId } of fresh) {
      const head = { id, studentId, sheetId, revisionId: sheet.revision_id };
      if (!(await insertProgram(inside, head, now)))
        throw new Problem('id-taken', 'The sheet could not be given; reload the page and try again.');
    }
    await addMissingParts(
      inside,
      sheet.revision_id,
      fresh.map(({ id }) => id),
    );
  });
}

/**
 * Changes a student; with another instrument the programs get the parts that hold for it.
 * Errors: Problem not-found; version-stale with the current row
 */
export function changePlayer(studio: Studio, edit: StudentEdit): Promise<StudentView> {
  return together(studio, async (inside) => {
    const student = await changeStudent(inside, edit);
    await followInstrument(inside, student.id);
    return student;
  });
}

/** Gives a student's programs the parts that hold for the instrument the student now plays, and lets targets follow. */
async function followInstrument(studio: Studio, studentId: string): Promise<void> {
  const programs = await programRows(studio, studentId);
  const programIds = programs.map(({ id }) => id);
  await withTargets(studio, { programIds }, async () => {
    for (const revisionId of new Set(programs.map(({ revision_id: id }) => id)))
      await addMissingParts(studio, revisionId, programIds);
  });
}

/**
 * Who has a sheet.
 * Errors: Problem not-found
 */
export async function sheetPrograms(studio: Studio, sheetId: string): Promise<SheetProgramLine[]> {
  if (!(await findSheetRow(studio, sheetId))) throw notFound('sheet');
  return (await programsOnSheet(studio, sheetId)).map(({ id, student_id: studentId }) => ({
    programId: id,
    studentId,
  }));
}

/** Gives a program every part of its revision that holds for its player and that it does not answer yet. */
export async function addParts(studio: Studio, programId: string): Promise<void> {
  const program = await findProgram(studio, programId);
  if (program) await addMissingParts(studio, program.revision_id, [programId]);
}

/**
 * Gives programs on a revision the parts that hold for their players and that they lack; removed programs too, so that
 * restoring one finds it whole.
 */
export async function addMissingParts(
  studio: Studio,
  revisionId: string,
  only: readonly string[] | null = null,
): Promise<void> {
  const programs = (await programsOn(studio, revisionId)).filter(
    ({ id }) => only === null || only.includes(id),
  );
  const parts = (await partsOf(studio, [revisionId])).map((row) => ({ row, scope: scopeOfRow(row) }));
  const answered = await answeredParts(
    studio,
    programs.map(({ id }) => id),
  );
  const missing = programs.flatMap((program) =>
    partsHolding(parts, program)
      .filter(({ row }) => !answered.has(`${program.id} ${row.id}`))
      .map(({ row }) => ({ program, row })),
  );
  if (missing.length === 0) return;
  const { tempoPolicy } = await readSettings(studio);
  const optional = await optionalParts(studio, revisionId);
  const scores = await knownScores(
    studio,
    missing.map(({ row }) => row),
  );
  await insertProgramParts(
    studio,
    missing.map(({ program, row }) => ({
      id: newId(),
      programId: program.id,
      sheetPartId: row.id,
      scoreId: scores.ofWork(row.work_title, program.student_id) ?? scores.ofPart(row.id),
      // What must be chosen is not chosen yet.
      isTaken: !optional.has(row.origin_id),
      policy: tempoPolicy,
    })),
  );
}

async function optionalParts(studio: Studio, revisionId: string): Promise<ReadonlySet<string>> {
  const [revision] = await revisionsById(studio, [revisionId]);
  return new Set(
    (revision?.extras.choices ?? []).filter(({ rule }) => rule !== 'all').flatMap(({ of }) => of.flat()),
  );
}

/**
 * Changes what some programs ask, and lets the passages of what they asked before and of what they ask now follow.
 * Call inside a transaction.
 * Shape:  what the change gives; it is handed the parts as they were
 */
export async function withTargets<T>(
  studio: Studio,
  by: PartFilter,
  change: (before: readonly ProgramPartRow[]) => Promise<T>,
): Promise<T> {
  const before = await programPartRows(studio, by);
  const changed = await change(before);
  await retarget(studio, [...before, ...(await programPartRows(studio, by))]);
  return changed;
}

/**
 * Moves passages without a target of their own to the target that their practice now has. Only passages whose target
 * moved are locked and counted anew.
 */
export async function retarget(studio: Studio, practices: readonly Practice[]): Promise<void> {
  const targets = await practiceTargets(studio, practices);
  const moved = (await passageRows(studio, practices)).flatMap((passage) => {
    const columns = targetColumns(passage, targets.get(practiceKey(passage)));
    const isSame = Object.entries(columns).every(([name, value]) => passage[name as keyof Aimed] === value);
    return passage.has_own_target === 1 || isSame ? [] : [{ id: passage.id, columns }];
  });
  await lockPassages(
    studio,
    moved.map(({ id }) => id),
  );
  for (const { id, columns } of moved) {
    const passage = await findPassage(studio, id);
    if (!passage || passage.has_own_target === 1) continue;
    await updatePassage(studio, id, { version: passage.version, columns });
    await rebuildSnapshot(studio, id, { passage: { ...passage, ...columns }, since: null });
  }
}

type Aimed = Pick<PassageColumns, 'target_bpm' | 'target_unit' | 'is_asked'>;

/** What a passage without a target of its own follows; where nobody gives a tempo any more it keeps the one it had. */
function targetColumns(passage: PassageRow, target: PracticeTarget | undefined): Aimed {
  const { bpm, beatUnit } = target ?? { bpm: passage.target_bpm, beatUnit: passage.target_unit };
  return { target_bpm: bpm, target_unit: beatUnit, is_asked: Number(target?.isAsked ?? false) };
}

/**
 * Sets the tempo a student aims at in a part and moves the passages that follow it.
 * Units:  beats of the unit per minute
 * Errors: Problem not-found
 */
export async function setTarget(studio: Studio, programPartId: string, target: Target): Promise<void> {
  const part = await findProgramPart(studio, programPartId);
  await together(studio, async (inside) => {
    await updateTarget(inside, programPartId, { bpm: target.bpm, unit: target.beatUnit });
    await retarget(inside, [part]);
  });
}

/**
 * Removes a program, or takes the removal back; what it asked of a score no longer counts, or counts again.
 * Errors: Problem not-found
 */
export async function removeProgram(studio: Studio, id: string, deletedAt: Date | null): Promise<void> {
  await together(studio, (inside) =>
    withTargets(inside, { programIds: [id] }, async () => {
      if (!(await markProgram(inside, id, deletedAt))) throw notFound('program');
    }),
  );
}

/**
 * Puts a program into another division of its sheet: it gets the parts that hold there.
 * Errors: Problem not-found
 */
export async function changeDivision(studio: Studio, id: string, division: string | null): Promise<void> {
  if (!(await findProgram(studio, id))) throw notFound('program');
  await together(studio, (inside) =>
    withTargets(inside, { programIds: [id] }, async () => {
      await setDivision(inside, id, division);
      await addParts(inside, id);
    }),
  );
}
