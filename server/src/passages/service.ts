import { InvariantError } from '@vivid-cue/core/base';
import { DEFAULT_STEP, passageLadder } from '@vivid-cue/core/climb';
import { measuresText, type Vocabulary } from '@vivid-cue/core/music';
import { withRep, type Progress } from '@vivid-cue/core/readiness';
import {
  dayNumber,
  type PassageChange,
  type PassageInput,
  type PassagePageView,
  type PassageView,
  type RepInput,
  type Target,
} from '@vivid-cue/contract';
import { together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { readSettings } from '../studio/settings.js';
import { findProgramPart, practiceKey, programPartRows, type ProgramPartRow } from '../practice/part-row.js';
import {
  findPassage,
  findRep,
  holdPassage,
  insertPassage,
  insertRep,
  insertRetraction,
  latestReps,
  lockPassages,
  updatePassage,
  withProgress,
  writeSnapshot,
  type PassageColumns,
} from './repository.js';
import { spanColumns } from './span-columns.js';
import { aimOf, keepCheckpoint, rebuildSnapshot, stepOf, type Ladderable } from './snapshot.js';
import { passageView, repView } from './view.js';
import { type PassageRow, snapshotOf } from '../practice/passage-row.js';
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
): Omit<PassageColumns, 'step_kind' | 'step_size' | 'rule'> {
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
  };
}

/** A passage as it now stands, with whether its target is a sheet's own. */
async function viewOf(studio: Studio, row: PassageRow, nowMs: number): Promise<PassageView> {
  const target = await practiceTarget(studio, row);
  return passageView(row, { nowMs, isAsked: target?.isAsked ?? false });
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
    const ladder = { ...DEFAULT_LADDER, rule: (await readSettings(inside)).rungRule };
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

/**
 * Logs a rep once, however often it is sent, and brings the snapshot along in the same transaction.
 * Shape:  the passage as it then stands
 * Units:  milliseconds since 1970
 * Errors: Problem not-found; id-taken; input-invalid for a day that is still to come
 */
export async function logRep(
  studio: Studio,
  passageId: string,
  { rep, nowMs }: { readonly rep: RepInput; readonly nowMs: number },
): Promise<PassageView> {
  if (Date.parse(rep.at) > nowMs + DAY_MS) throw inFuture(rep.at);
  // A device whose clock runs ahead still logs its reps: they count as of now.
  const atMs = Math.min(Date.parse(rep.at), nowMs);
  const row = await together(studio, async (inside) => {
    const held = await holdPassage(inside, passageId);
    if (!held) throw notFound('passage');
    const day = dayNumber(atMs, held.zone);
    const fact = { ...rep, at: new Date(atMs).toISOString() };
    if (await insertRep(inside, passageId, { rep: fact, at: { day, now: new Date(nowMs) } }))
      return withProgress(held, await countRep(inside, held, { rep: fact, day }));
    if ((await findRep(inside, rep.id))?.passage_id !== passageId)
      throw new Problem('id-taken', 'This rep could not be logged; reload the page and log it again.');
    return held;
  });
  return viewOf(studio, row, nowMs);
}

const DAY_MS = 86_400_000;

function inFuture(at: string): Problem {
  const message = `This rep is dated ${at}, which is still to come; set the clock of this device right and log it again.`;
  return new Problem('input-invalid', message, { issues: [{ where: 'at', message }] });
}

/** A rep in its order goes onto the snapshot; one that arrives late makes it count anew. */
async function countRep(
  studio: Studio,
  row: PassageRow,
  { rep, day }: { readonly rep: RepInput; readonly day: number },
): Promise<Progress> {
  const before = snapshotOf(row);
  const atMs = Date.parse(rep.at);
  if (before.record.lastAtMs !== null && atMs <= before.record.lastAtMs)
    return rebuildSnapshot(studio, row.id, { passage: row, since: { at: new Date(atMs), id: rep.id } });
  const progress = withRep(before, { ...rep, atMs, day }, aimOf(row));
  await writeSnapshot(studio, row.id, progress);
  await keepCheckpoint(studio, row.id, { at: new Date(atMs), id: rep.id, progress });
  return progress;
}

/**
 * Takes a rep back; doing it twice changes nothing.
 * Shape:  the passage as it then stands
 * Units:  milliseconds since 1970
 * Errors: Problem not-found
 */
export async function takeRepBack(studio: Studio, repId: string, nowMs: number): Promise<PassageView> {
  const rep = await findRep(studio, repId);
  if (!rep) throw notFound('rep');
  const row = await together(studio, async (inside) => {
    const held = await holdPassage(inside, rep.passage_id);
    if (!held) throw notFound('passage');
    // A retraction's key is its rep's: a rep is taken back at most once.
    if (!(await insertRetraction(inside, repId, { repId, now: new Date(nowMs) }))) return held;
    return withProgress(held, await rebuildSnapshot(inside, held.id, { passage: held, since: rep }));
  });
  return viewOf(studio, row, nowMs);
}
