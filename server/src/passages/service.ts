import { InvariantError } from '@vivid-cue/core/base';
import { DEFAULT_STEP, passageLadder, schoolOf } from '@vivid-cue/core/climb';
import { measuresText, type Vocabulary } from '@vivid-cue/core/music';
import {
  type PassageChange,
  type PassageInput,
  type PassagePageView,
  type PassageView,
  type Target,
} from '@vivid-cue/contract';
import { together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { readSchools } from '../students/repository.js';
import { readSettings } from '../studio/settings.js';
import { findProgramPart, practiceKey, programPartRows, type ProgramPartRow } from '../practice/part-row.js';
import {
  findPassage,
  insertPassage,
  latestReps,
  lockPassages,
  updatePassage,
  type PassageColumns,
} from './repository.js';
import { spanColumns } from './span-columns.js';
import { rebuildSnapshot, stepOf, type Ladderable } from './snapshot.js';
import { passageView, repView } from './view.js';
import { type PassageRow } from '../practice/passage-row.js';
import { practiceTarget, type PracticeTarget } from '../practice/target.js';
import { studioFacts } from '../studio/facts.js';

const SHOWN_REPS = 60;

/** What both a new and a changed passage say. */
type PassageWish = Pick<PassageInput, 'name' | 'from' | 'to' | 'target'>;

/** What all passages of one part share. */
interface PracticeFacts {
  readonly target: PracticeTarget | null;
  readonly vocabulary: Vocabulary;
}

async function practiceFacts(studio: Studio, part: ProgramPartRow): Promise<PracticeFacts> {
  const { vocabulary } = await studioFacts(studio);
  return { target: await practiceTarget(studio, part), vocabulary };
}

function columnsFor(
  part: ProgramPartRow,
  wish: PassageWish,
  facts: PracticeFacts,
): Omit<PassageColumns, 'step_kind' | 'step_size' | 'rule' | 'slip_rule' | 'climb_school'> {
  const span = spanColumns(part.measure_map, wish);
  const target: Target | null = wish.target ?? facts.target;
  if (!target)
    throw new Problem(
      'target-missing',
      'The sheet gives no number for this part; set the part’s target tempo first.',
    );
  return {
    name: wish.name === '' ? measuresText(span.span_from, span.span_to, facts.vocabulary) : wish.name,
    ...span,
    target_bpm: target.bpm,
    target_unit: target.beatUnit,
    has_own_target: wish.target !== null,
    is_asked: Number(facts.target?.isAsked ?? false),
  };
}

/**
 * A passage as it now stands, with whether its target is a sheet's own.
 * Units:  milliseconds since 1970
 */
export async function viewOf(studio: Studio, row: PassageRow, nowMs: number): Promise<PassageView> {
  const isAsked = row.is_asked ?? (await practiceTarget(studio, row))?.isAsked ?? false;
  return passageView(row, { nowMs, isAsked: Boolean(isAsked) });
}

/**
 * Cuts a passage; a repeated request gives the same passage again.
 * Units:  milliseconds since 1970
 * Errors: Problem not-found, score-missing, span-refused, target-missing, id-taken
 */
export async function addPassage(
  studio: Studio,
  programPartId: string,
  { input, nowMs }: { readonly input: PassageInput; readonly nowMs: number },
): Promise<PassageView> {
  const [made] = await addPassages(studio, programPartId, { inputs: [input], nowMs });
  if (!made) throw new InvariantError('one passage was asked and none came');
  return made;
}

/**
 * Cuts several passages, all or none; repeated requests give the same passages again.
 * Shape:  in the order sent
 * Units:  milliseconds since 1970
 * Errors: as addPassage
 */
export async function addPassages(
  studio: Studio,
  programPartId: string,
  { inputs, nowMs }: { readonly inputs: readonly PassageInput[]; readonly nowMs: number },
): Promise<PassageView[]> {
  const part = await findProgramPart(studio, programPartId);
  return together(studio, async (inside) => {
    const facts = await practiceFacts(inside, part);
    const ladder = { ...DEFAULT_LADDER, ...(await usualRules(inside, part.student_id)) };
    const made: PassageView[] = [];
    for (const input of inputs) {
      const known = await findPassage(inside, input.id);
      const row =
        known && practiceKey(known) === practiceKey(part)
          ? known
          : await insertWished(inside, part, {
              input,
              columns: { ...columnsFor(part, input, facts), ...ladder },
              now: new Date(nowMs),
            });
      made.push(passageView(row, { nowMs, isAsked: facts.target?.isAsked ?? false }));
    }
    return made;
  });
}

/** How a student's passages climb until somebody says otherwise. */
async function usualRules(
  studio: Studio,
  studentId: string,
): Promise<Pick<PassageColumns, 'rule' | 'slip_rule' | 'climb_school'>> {
  const { rungRule, slipRule } = schoolOf([await readSchools(studio, studentId), await readSettings(studio)]);
  return {
    rule: rungRule,
    slip_rule: slipRule,
    // A passage follows its student and studio until it has a school of its own.
    climb_school: null,
  };
}

const DEFAULT_LADDER = {
  step_kind: DEFAULT_STEP.kind,
  step_size: 'size' in DEFAULT_STEP ? DEFAULT_STEP.size : null,
};

/** A passage and its snapshot. */
async function insertWished(
  studio: Studio,
  part: ProgramPartRow,
  {
    input,
    columns,
    now,
  }: { readonly input: PassageInput; readonly columns: PassageColumns; readonly now: Date },
): Promise<PassageRow> {
  const stored = { practice: part, columns: { ...columns, is_seam: input.isSeam ?? false }, now };
  if (await insertPassage(studio, input.id, stored))
    await rebuildSnapshot(studio, input.id, { passage: columns, since: null });
  const row = await findPassage(studio, input.id);
  if (!row || practiceKey(row) !== practiceKey(part))
    throw new Problem('id-taken', 'This passage could not be added; reload the page and try again.');
  return row;
}

/** An edit with the version it was made on. */
export interface PassageEdit {
  readonly id: string;
  readonly version: number;
  readonly change: PassageChange;
}

/**
 * Changes a passage; its record is counted anew from the facts, because target and ladder decide what a rep means.
 * Units:  milliseconds since 1970
 * Errors: Problem not-found, version-stale, span-refused, target-missing
 */
export async function changePassage(
  studio: Studio,
  { id, version, change }: PassageEdit,
  nowMs: number,
): Promise<PassageView> {
  const row = await needPassage(studio, id);
  const [part] = await programPartRows(studio, { practices: [row] });
  if (!part) throw notFound('part');
  const columns = columnsFor(part, change, await practiceFacts(studio, part));
  const step = {
    step_kind: change.step.kind,
    step_size: change.step.kind === 'percent' || change.step.kind === 'bpm' ? (change.step.size ?? 4) : null,
    rule: change.rule,
    slip_rule: change.slipRule ?? row.slip_rule,
    climb_school: change.school === undefined ? row.climb_school : change.school,
  };
  refuseStep({ ...columns, ...step });
  const isChanged = await together(studio, async (inside) => {
    await lockPassages(inside, [id]);
    if (!(await updatePassage(inside, id, { version, columns: { ...columns, ...step } }))) return false;
    await rebuildSnapshot(inside, id, { passage: { ...columns, ...step }, since: null });
    return true;
  });
  const current = await viewOf(studio, await needPassage(studio, id), nowMs);
  if (!isChanged)
    throw new Problem(
      'version-stale',
      'This passage was changed in another window meanwhile; look at both and save again.',
      { current },
    );
  return current;
}

/** A step that makes no ladder is refused with the ladder's own sentence. */
function refuseStep(passage: Ladderable): void {
  const ladder = passageLadder(passage.target_bpm, passage.target_unit, stepOf(passage));
  if (ladder.ok) return;
  const message = ladder.issues[0]?.message ?? '';
  throw new Problem('input-invalid', message, { issues: [{ where: 'step.size', message }] });
}

async function needPassage(studio: Studio, id: string): Promise<PassageRow> {
  const row = await findPassage(studio, id);
  if (!row) throw notFound('passage');
  return row;
}

/**
 * A passage with its latest reps.
 * Shape:  newest first, at most 60
 * Units:  milliseconds since 1970
 * Errors: Problem not-found
 */
export async function passagePage(studio: Studio, id: string, nowMs: number): Promise<PassagePageView> {
  const row = await needPassage(studio, id);
  return {
    passage: await viewOf(studio, row, nowMs),
    reps: (await latestReps(studio, id, SHOWN_REPS)).map(repView),
  };
}
