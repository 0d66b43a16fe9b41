import { v7 as newId } from 'uuid';
import type { ProgramInput, Target } from '@vivid-cue/contract';
import { together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { passageRows, updatePassage } from '../passages/repository.js';
import { rebuildSnapshot } from '../passages/snapshot.js';
import { programPartRows, type ProgramPartRow } from '../season/repository.js';
import { findSheetRow, partsOf } from '../sheets/repository.js';
import { findStudent } from '../students/repository.js';
import {
  answeredParts,
  findProgram,
  insertProgram,
  insertProgramPart,
  ownerOfPart,
  programIdsOfSheet,
  scoreInUse,
  updateTarget,
} from './repository.js';

/**
 * The tempo a part aims at: the student's own where one was set, else the sheet's number. Of a range or a lower bound
 * the slower end is taken, which is enough to satisfy the sheet.
 * Shape:  null where the sheet gives no number and none was set
 * Units:  beats of the unit per minute
 * Errors: none
 * Source: none
 */
export function effectiveTarget(part: ProgramPartRow): Target | null {
  if (part.target_bpm !== null && part.target_unit !== null)
    return { bpm: part.target_bpm, beatUnit: part.target_unit };
  const bpm = part.bpm_min ?? part.bpm_max;
  return bpm === null || part.beat_unit === null ? null : { bpm, beatUnit: part.beat_unit };
}

/**
 * One part of a program that is not removed.
 * Shape:  none
 * Units:  none
 * Errors: Problem not-found
 * Source: none
 */
export async function findProgramPart(studio: Studio, id: string): Promise<ProgramPartRow> {
  const [part] = await programPartRows(studio, { id });
  if (!part || !(await findProgram(studio, part.program_id))) throw notFound('part');
  return part;
}

/** The instrument of the student whose part this is, or null. */
export async function instrumentOf(studio: Studio, programPartId: string): Promise<string | null> {
  return (await ownerOfPart(studio, programPartId))?.instrument ?? null;
}

/**
 * Gives a student a sheet: one program with every part of it; a score that others already use comes along.
 * Shape:  the program's identifier
 * Units:  none
 * Errors: Problem not-found, id-taken
 * Source: none
 */
export async function addProgram(studio: Studio, input: ProgramInput, now: Date): Promise<string> {
  if (!(await findStudent(studio, input.studentId))) throw notFound('student');
  if (!(await findSheetRow(studio, input.sheetId))) throw notFound('sheet');
  await together(studio, async (inside) => {
    if (await insertProgram(inside, input, now)) await addParts(inside, input.id, input.sheetId);
  });
  const program = await findProgram(studio, input.id);
  if (program?.student_id !== input.studentId)
    throw new Problem('id-taken', 'This program could not be added; reload the page and try again.');
  return input.id;
}

async function addParts(studio: Studio, programId: string, sheetId: string): Promise<void> {
  const answered = await answeredParts(studio, programId);
  for (const part of await partsOf(studio, [sheetId])) {
    if (answered.has(part.id)) continue;
    await insertProgramPart(studio, {
      id: newId(),
      programId,
      sheetPartId: part.id,
      scoreId: await scoreInUse(studio, part.id),
    });
  }
}

/** Gives every program of a sheet the parts that the sheet has and the program lacks. */
export async function addMissingParts(studio: Studio, sheetId: string): Promise<void> {
  for (const programId of await programIdsOfSheet(studio, sheetId))
    await addParts(studio, programId, sheetId);
}

/** Moves passages without a target of their own to the target their part now has. */
export async function retargetSheet(studio: Studio, sheetId: string): Promise<void> {
  for (const part of await programPartRows(studio, { sheetId })) await retarget(studio, part);
}

async function retarget(studio: Studio, part: ProgramPartRow): Promise<void> {
  const target = effectiveTarget(part);
  if (!target) return;
  for (const passage of await passageRows(studio, [part.program_part_id])) {
    const isSame = passage.target_bpm === target.bpm && passage.target_unit === target.beatUnit;
    if (passage.has_own_target === 1 || isSame) continue;
    const columns = { target_bpm: target.bpm, target_unit: target.beatUnit };
    await updatePassage(studio, passage.id, passage.version, columns);
    await rebuildSnapshot(studio, passage.id, { ...passage, ...columns });
  }
}

/**
 * Sets the tempo a student aims at in a part and moves the passages that follow it.
 * Shape:  none
 * Units:  beats of the unit per minute
 * Errors: Problem not-found
 * Source: none
 */
export async function setTarget(studio: Studio, programPartId: string, target: Target): Promise<void> {
  await findProgramPart(studio, programPartId);
  await together(studio, async (inside) => {
    await updateTarget(inside, programPartId, target.bpm, target.beatUnit);
    await retarget(inside, await findProgramPart(inside, programPartId));
  });
}
