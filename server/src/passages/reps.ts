import { withRep, type Progress } from '@vivid-cue/core/readiness';
import { dayNumber, type PassageView, type RepInput } from '@vivid-cue/contract';
import { together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { snapshotOf, type PassageRow } from '../practice/passage-row.js';
import {
  type Said,
  addInOrder,
  findRep,
  holdPassage,
  insertRep,
  insertRetraction,
  findPassage,
  withProgress,
  writeSnapshot,
} from './repository.js';
import { viewOf } from './service.js';
import { aimOf, isCheckpointDue, keepCheckpoint, rebuildSnapshot } from './snapshot.js';

/** What the instructor logs was heard. */
const HEARD: Said = { witness: 'instructor', optimism: 0 };

/** A rep as it counts: on its day, and not later than now. Units: milliseconds since 1970 */
interface Arrival {
  readonly rep: RepInput;
  readonly said: Said;
  readonly atMs: number;
  readonly nowMs: number;
}

/**
 * Logs a rep once, however often it is sent, and brings the snapshot along in the same transaction.
 * Shape:  the passage as it then stands
 * Units:  milliseconds since 1970
 * Errors: Problem not-found; id-taken; input-invalid for a day that is still to come
 */
export function logRep(
  studio: Studio,
  passageId: string,
  { rep, nowMs, said = HEARD }: { readonly rep: RepInput; readonly nowMs: number; readonly said?: Said },
): Promise<PassageView> {
  return logReps(studio, passageId, { reps: [rep], nowMs, said });
}

/**
 * Logs reps of one passage in their order, all of them or none: those that waited for a connection come together.
 * Shape:  the passage as it then stands
 * Units:  milliseconds since 1970
 * Errors: as of `logRep`
 */
export async function logReps(
  studio: Studio,
  passageId: string,
  {
    reps,
    nowMs,
    said = HEARD,
  }: { readonly reps: readonly RepInput[]; readonly nowMs: number; readonly said?: Said },
): Promise<PassageView> {
  const arrivals = reps.map((rep) => ({ ...arrivalOf(rep, nowMs), said }));
  const seen = await findPassage(studio, passageId);
  if (!seen) throw notFound('passage');
  const progress = nextInOrder(seen, arrivals);
  if (progress === null) return viewOf(studio, await logHeld(studio, passageId, arrivals), nowMs);
  const rows = arrivals.map(({ rep, atMs }) => ({
    rep,
    said,
    at: { day: dayNumber(atMs, seen.zone), now: new Date(nowMs) },
  }));
  const after = withProgress(seen, progress);
  const [isCounted, view] = await Promise.all([
    addInOrder(studio, seen, { rows, progress }),
    viewOf(studio, after, nowMs),
  ]);
  return isCounted ? view : viewOf(studio, await logHeld(studio, passageId, arrivals), nowMs);
}

/** A device whose clock runs ahead still logs its reps: they count as of now. */
function arrivalOf(rep: RepInput, nowMs: number): Omit<Arrival, 'said'> {
  if (Date.parse(rep.at) > nowMs + DAY_MS) throw inFuture(rep.at);
  const atMs = Math.min(Date.parse(rep.at), nowMs);
  return { rep: { ...rep, at: new Date(atMs).toISOString() }, atMs, nowMs };
}

/** Where a passage stands after reps that come in their order and need no more than themselves; null for any other. */
function nextInOrder(
  passage: PassageRow & { readonly zone: string },
  arrivals: readonly Arrival[],
): Progress | null {
  if (passage.writes === null) return null;
  const aim = aimOf(passage);
  let progress: Progress = snapshotOf(passage);
  for (const { rep, said, atMs } of arrivals) {
    const { lastAtMs } = progress.record;
    if (lastAtMs !== null && atMs <= lastAtMs) return null;
    progress = withRep(progress, { ...rep, ...said, atMs, day: dayNumber(atMs, passage.zone) }, aim);
    if (isCheckpointDue(progress)) return null;
  }
  return progress;
}

/** Logs reps with their passage held meanwhile, whatever else is written and whenever they were played. */
function logHeld(studio: Studio, passageId: string, arrivals: readonly Arrival[]): Promise<PassageRow> {
  return together(studio, async (inside) => {
    const held = await holdPassage(inside, passageId);
    if (!held) throw notFound('passage');
    let row: PassageRow = held;
    for (const { rep, said, atMs, nowMs } of arrivals) {
      const day = dayNumber(atMs, held.zone);
      if (await insertRep(inside, passageId, { rep, said, at: { day, now: new Date(nowMs) } }))
        row = withProgress(row, await countRep(inside, row, { rep, said, day }));
      else if ((await findRep(inside, rep.id))?.passage_id !== passageId)
        throw new Problem('id-taken', 'This rep could not be logged; reload the page and log it again.');
    }
    return row;
  });
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
  { rep, said, day }: { readonly rep: RepInput; readonly said: Said; readonly day: number },
): Promise<Progress> {
  const before = snapshotOf(row);
  const atMs = Date.parse(rep.at);
  if (before.record.lastAtMs !== null && atMs <= before.record.lastAtMs)
    return rebuildSnapshot(studio, row.id, { passage: row, since: { at: new Date(atMs), id: rep.id } });
  const progress = withRep(before, { ...rep, ...said, atMs, day }, aimOf(row));
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
