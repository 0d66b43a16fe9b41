import { v7 as newId } from 'uuid';
import type { ProgramInput, Target } from '@vivid-cue/contract';
import { together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { quarterBpm } from '@vivid-cue/core/music';
import { passageRows, updatePassage, type Practice } from '../passages/repository.js';
import { rebuildSnapshot } from '../passages/snapshot.js';
import { programPartRows, type ProgramPartRow } from '../season/repository.js';
import { findSheetRow, partsOf, revisionsById } from '../sheets/repository.js';
import { readSettings } from '../settings/service.js';
import { findStudent } from '../students/repository.js';
import {
  answeredParts,
  findProgram,
  insertProgram,
  insertProgramPart,
  ownerOfPart,
  programIdsOn,
  scoreInUse,
  scoreOfWork,
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
 * The tempo that a student practises a score at: the fastest of the programs that ask for it.
 * Shape:  null where no program gives one
 * Units:  beats of the unit per minute
 * Errors: none
 * Source: none
 */
export async function practiceTarget(studio: Studio, practice: Practice): Promise<Target | null> {
  if (practice.score_id === null) return null;
  const parts = await programPartRows(studio, {
    practice: { student_id: practice.student_id, score_id: practice.score_id },
  });
  const targets = parts.map((part) => effectiveTarget(part)).filter((target) => target !== null);
  return targets.reduce<Target | null>(
    (fastest, next) =>
      fastest === null || quarterBpm(next.bpm, next.beatUnit) > quarterBpm(fastest.bpm, fastest.beatUnit)
        ? next
        : fastest,
    null,
  );
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
