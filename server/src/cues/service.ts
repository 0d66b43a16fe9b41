import type { CueChange, CueInput, CueView } from '@vivid-cue/contract';
import { together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { spanColumns } from '../passages/span-columns.js';
import { findProgramPart, practiceKey, programPartRows, type ProgramPartRow } from '../practice/part-row.js';
import { cueView, findCue, insertCue, updateCue, type CueColumns, type CueRow } from './repository.js';

function columnsFor(part: ProgramPartRow, { kind, text, from, to, ...more }: CueChange): CueColumns {
  const { note = null, beat = null, sign = '', status = 'settled', reason = '', alternatives = [] } = more;
  return {
    ...{ kind, text, note, sign, beat: note === null ? beat : null, status, reason },
    alternatives: JSON.stringify(alternatives),
    ...spanColumns(part.measure_map, { from, to }),
  };
}

/**
 * Writes a cue; a repeated request gives the same cue again.
 * Errors: Problem not-found, score-missing, span-refused, id-taken
 */
export async function addCue(
  studio: Studio,
  programPartId: string,
  { input, now }: { readonly input: CueInput; readonly now: Date },
): Promise<CueView> {
  const part = await findProgramPart(studio, programPartId);
  const columns = columnsFor(part, input);
  const practice = { student_id: part.student_id, score_id: part.score_id };
  const { id, findingKey, author = findingKey === null ? 'instructor' : 'reading' } = input;
  await insertCue(studio, { id, ...practice, ...columns, author, finding_key: findingKey }, now);
  const row = await findCue(studio, input.id);
  if (!row || practiceKey(row) !== practiceKey(practice))
    throw new Problem('id-taken', 'This cue could not be added; reload the page and try again.');
  return cueView(row);
}

/**
 * Writes several cues, all of them or none: what air and hands worked out.
 * Shape:  in the order in which they came
 * Errors: as of addCue
 */
export function addCues(
  studio: Studio,
  programPartId: string,
  { cues, now }: { readonly cues: readonly CueInput[]; readonly now: Date },
): Promise<CueView[]> {
  return together(studio, async (inside) => {
    const views: CueView[] = [];
    for (const input of cues) views.push(await addCue(inside, programPartId, { input, now }));
    return views;
  });
}

/**
 * Changes a cue.
 * Errors: Problem not-found, version-stale, span-refused
 */
export async function changeCue(
  studio: Studio,
  { id, version, change }: { readonly id: string; readonly version: number; readonly change: CueChange },
): Promise<CueView> {
  const row = await needCue(studio, id);
  const [part] = await programPartRows(studio, { practices: [row] });
  if (!part) throw notFound('part');
  const isChanged = await updateCue(studio, id, { version, columns: columnsFor(part, change) });
  const current = cueView(await needCue(studio, id));
  if (!isChanged)
    throw new Problem(
      'version-stale',
      'This cue was changed in another window meanwhile; look at both and save again.',
      { current },
    );
  return current;
}

async function needCue(studio: Studio, id: string): Promise<CueRow> {
  const row = await findCue(studio, id);
  if (!row) throw notFound('cue');
  return row;
}
