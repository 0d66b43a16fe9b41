import { v7 as newId } from 'uuid';
import type { ProgramInput, Target } from '@vivid-cue/contract';
import { together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { updatePassage } from '../passages/repository.js';
import { rebuildSnapshot } from '../passages/snapshot.js';
import { findProgramPart, programPartRows } from '../practice/part-row.js';
import { findSheetRow, partsOf, revisionsById } from '../published/repository.js';
import { readSettings } from '../studio/settings.js';
import { findStudent } from '../students/repository.js';
import {
  answeredParts,
  findProgram,
  insertProgram,
  insertProgramPart,
  programIdsOn,
  scoreInUse,
  scoreOfWork,
  updateTarget,
} from './repository.js';
import { type Practice, passageRows } from '../practice/passage-row.js';
import { practiceTarget } from '../practice/target.js';

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
    if (isNew) await addParts(inside, input.id, sheet.revision_id);
  });
  const program = await findProgram(studio, input.id);
  if (program?.student_id !== input.studentId)
    throw new Problem('id-taken', 'This program could not be added; reload the page and try again.');
  return input.id;
}

/** Gives a program every part of a revision that it does not answer yet. */
export async function addParts(studio: Studio, programId: string, revisionId: string): Promise<void> {
  const answered = await answeredParts(studio, programId);
  const program = await findProgram(studio, programId);
  const { tempoPolicy } = await readSettings(studio);
  const [revision] = await revisionsById(studio, [revisionId]);
  const optional = new Set(
    (revision?.extras.choices ?? []).filter(({ rule }) => rule !== 'all').flatMap(({ of }) => of.flat()),
  );
  for (const part of await partsOf(studio, [revisionId])) {
    if (answered.has(part.id)) continue;
    const known = program && (await scoreOfWork(studio, part.work_title, program.student_id));
    await insertProgramPart(studio, {
      id: newId(),
      programId,
      sheetPartId: part.id,
      scoreId: known ?? (await scoreInUse(studio, part.id)),
      // What must be chosen is not chosen yet.
      isTaken: !optional.has(part.label),
      policy: tempoPolicy,
    });
  }
}

/** Gives every program on a revision the parts that the revision has and the program lacks. */
export async function addMissingParts(studio: Studio, revisionId: string): Promise<void> {
  for (const programId of await programIdsOn(studio, revisionId))
    await addParts(studio, programId, revisionId);
}

/** Moves passages without a target of their own to the target their practice now has. */
export async function retargetRevision(studio: Studio, revisionId: string): Promise<void> {
  for (const part of await programPartRows(studio, { revisionId })) await retarget(studio, part);
}

/** The same for one program. */
export async function retargetProgram(studio: Studio, programId: string): Promise<void> {
  for (const part of await programPartRows(studio, { programIds: [programId] })) await retarget(studio, part);
}

async function retarget(studio: Studio, practice: Practice): Promise<void> {
  const target = await practiceTarget(studio, practice);
  if (!target) return;
  for (const passage of await passageRows(studio, [practice])) {
    const isSame = passage.target_bpm === target.bpm && passage.target_unit === target.beatUnit;
    if (passage.has_own_target === 1 || isSame) continue;
    const columns = { target_bpm: target.bpm, target_unit: target.beatUnit };
    await updatePassage(studio, passage.id, passage.version, columns);
    await rebuildSnapshot(studio, passage.id, { ...passage, ...columns });
  }
}

/**
 * Sets the tempo a student aims at in a part and moves the passages that follow it.
 * Units:  beats of the unit per minute
 * Errors: Problem not-found
 */
export async function setTarget(studio: Studio, programPartId: string, target: Target): Promise<void> {
  await findProgramPart(studio, programPartId);
  await together(studio, async (inside) => {
    await updateTarget(inside, programPartId, target.bpm, target.beatUnit);
    await retarget(inside, await findProgramPart(inside, programPartId));
  });
}
