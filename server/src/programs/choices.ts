import { readScore } from '@vivid-cue/core/score';
import { readScaleKey, scaleInstrument, scaleScore, type ScaleKey } from '@vivid-cue/core/scale';
import { v7 as newId } from 'uuid';
import type { PartChoice, ScaleChoice } from '@vivid-cue/contract';
import { sha256 } from '../db/sha256.js';
import { together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { attachTo, findScore, insertScore, workIdFor } from '../scores/repository.js';
import { digested } from '../scores/digested.js';
import { retarget } from './service.js';
import { updateChoice } from './repository.js';
import { findProgramPart } from '../practice/part-row.js';
import { effectiveTarget } from '../practice/target.js';

/**
 * Sets what a student plays for a part.
 * Errors: Problem not-found
 */
export async function chooseForPart(
  studio: Studio,
  programPartId: string,
  choice: PartChoice,
): Promise<string> {
  const part = await findProgramPart(studio, programPartId);
  if (choice.scoreId !== null && !(await findScore(studio, choice.scoreId))) throw notFound('score');
  await together(studio, async (inside) => {
    await updateChoice(inside, programPartId, {
      is_taken: choice.isTaken,
      own_title: choice.workTitle,
      edition: choice.edition,
      page: choice.page,
      repeats: choice.repeats,
      policy: choice.policy,
      pickup_counts: choice.pickupCounts,
      ...(choice.scoreId !== null && { score_id: choice.scoreId }),
      // Keeping the sheet's number gives up a number of one's own.
      ...(choice.policy === 'keep' &&
        (part.bpm_min ?? part.bpm_max) !== null && { target_bpm: null, target_unit: null }),
    });
    // The passages of the score before and of the one now follow what their programs ask.
    await retarget(inside, [part, { ...part, score_id: choice.scoreId ?? part.score_id }]);
  });
  return part.program_id;
}

/**
 * Writes a scale out for the student's instrument and puts it in the part.
 * Shape:  the program's identifier
 * Units:  octaves
 * Errors: Problem not-found; span-refused where the scale does not fit the instrument
 */
export async function writeScale(
  studio: Studio,
  programPartId: string,
  { choice, nowMs }: { readonly choice: ScaleChoice; readonly nowMs: number },
): Promise<string> {
  const part = await findProgramPart(studio, programPartId);
  const instrument = scaleInstrument(part.instrument);
  if (!instrument.ok) throw refused('instrument', instrument.issues[0]?.message ?? '');
  const { wanted, title } = scaleAsked(choice, part.kind === 'chromatic');
  const text = scaleScore({
    title,
    key: wanted,
    octaves: choice.octaves,
    noteValue: choice.noteValue,
    tempo: effectiveTarget(part),
    articulation: choice.articulation === '' ? null : choice.articulation,
    instrument: instrument.value,
  });
  if (!text.ok) throw refused('octaves', text.issues[0]?.message ?? '');
  const file = Buffer.from(text.value, 'utf8');
  const score = readScore(file, {});
  if (!score.ok) throw refused('key', score.issues[0]?.message ?? '');
  const now = new Date(nowMs);
  await together(studio, async (inside) => {
    const workId = await workIdFor(inside, title.slice(0, 160), { id: newId(), now });
    const fileName = `${title.toLowerCase().replace(/[^\p{L}\d♯♭]+/gu, '-')}.musicxml`;
    const digest = digested(score.value);
    await insertScore(
      inside,
      { id: choice.scoreId, workId, fileName, file, sha256: sha256(file), digest },
      now,
    );
    // A scale is written for this student's instrument: it serves no other program.
    await attachTo(inside, programPartId, choice.scoreId);
    await retarget(inside, [{ ...part, score_id: choice.scoreId }]);
  });
  return part.program_id;
}

/** The scale of a choice and what it is called. */
function scaleAsked(
  choice: ScaleChoice,
  isChromatic: boolean,
): { readonly wanted: ScaleKey; readonly title: string } {
  const read = readScaleKey(
    isChromatic ? `${choice.key.replace(/\s.*$/u, '')} major` : choice.key,
    choice.isArpeggio,
  );
  if (!read.ok) throw refused('key', read.issues[0]?.message ?? '');
  const wanted: ScaleKey = isChromatic ? { ...read.value, form: 'chromatic' } : read.value;
  const key = choice.key.replace(/(?<=[A-G])b(?=\s)/u, '♭').replace(/(?<=[A-G])#/u, '♯');
  const title = `${isChromatic ? `Chromatic on ${key.replace(/\s.*$/u, '')}` : key}${choice.isArpeggio ? ' arpeggio' : ''}`;
  return { wanted, title };
}

function refused(where: string, message: string): Problem {
  return new Problem('span-refused', message, { issues: [{ where, message }] });
}
