import { v7 as newId } from 'uuid';
import { convertBpm, type Bpm } from '@vivid-cue/core/music';
import { dayResults, itemSeed, panelSlips, type ItemResult } from '@vivid-cue/core/mock';
import { indexesOf } from '@vivid-cue/core/spans';
import { takenTempo, type ToldTake } from '@vivid-cue/core/takes';
import type { MockView } from '@vivid-cue/contract';
import { rowsOf, type Studio } from '../db/studio.js';
import { Problem } from '../http/problem.js';
import { logReps, takeRepBack } from '../passages/reps.js';
import { passageRows, type PassageRow } from '../practice/passage-row.js';
import { insertSurprise } from '../students/from-student.js';
import { calledUp, mockRowsOf, playerViews, scoreView, mockView, type CalledUp } from './day-view.js';
import {
  closingOf,
  itemsOf,
  listenersOf,
  mockTakes,
  scoresOf,
  type PlayerRow,
  type StoredClosing,
} from './repository.js';

/** Something that was played and scored, with what it came to. */
interface Scored {
  readonly player: PlayerRow;
  readonly called: CalledUp;
  readonly result: ItemResult;
  readonly takeId: string | null;
}

/** Fewer listeners tap nothing that both heard. Source: the design */
const FEWEST_LISTENERS = 2;

/**
 * Ends a mock day: each passage of what was scored by two listeners or more was played once in a mock, clean where no
 * measure of it was tapped by two; what was tapped by two is a surprise. Doing it again changes nothing.
 * Shape:  the day as it then stands
 * Units:  milliseconds since 1970
 * Errors: Problem not-found; input-invalid while nobody has scored anything
 */
export async function closeMock(studio: Studio, id: string, nowMs: number): Promise<MockView> {
  const rows = await mockRowsOf(studio, id);
  if (closingOf(rows.mock)) return mockView(studio, id);
  const listeners = await listenersOf(studio, [id]);
  const scores = (
    await scoresOf(
      studio,
      listeners.map((one) => one.id),
    )
  ).map(scoreView);
  if (scores.length === 0)
    throw new Problem(
      'input-invalid',
      'Nobody has scored anything yet: ask listeners by their links first, or remove the day.',
    );
  const { players } = dayResults(await playerViews(studio, rows), scores);
  const takes = await mockTakes(
    studio,
    rows.players.map((player) => player.id),
  );
  const closing = { repIds: [] as string[], surpriseIds: [] as string[] };
  for (const [n, player] of rows.players.entries())
    for (const [at, item] of itemsOf(player).entries()) {
      const result = players.find(({ playerId }) => playerId === player.id)?.items[at];
      const heardBy = scores.filter((one) => one.playerId === player.id && one.itemId === item.id).length;
      if (!result || heardBy < FEWEST_LISTENERS) continue;
      const called = calledUp(item, { parts: rows.parts, seed: itemSeed(rows.mock.seed, n, at) });
      const take = takes.find((one) => one.player_id === player.id && one.item_id === item.id);
      const back = await sendBack(studio, { player, called, result, takeId: take?.take_id ?? null }, nowMs);
      closing.repIds.push(...back.repIds);
      closing.surpriseIds.push(...back.surpriseIds);
    }
  const stored: StoredClosing = { at: new Date(nowMs).toISOString(), ...closing };
  await rowsOf(studio, 'mocks')
    .where({ id })
    .update({ closing: JSON.stringify(stored), now: null });
  return mockView(studio, id);
}

async function sendBack(
  studio: Studio,
  { player, called, result, takeId }: Scored,
  nowMs: number,
): Promise<{ readonly repIds: string[]; readonly surpriseIds: string[] }> {
  const { part, indexes } = called;
  const back = { repIds: [] as string[], surpriseIds: [] as string[] };
  if (part?.score_id == null) return back;
  const practice = { student_id: player.student_id, score_id: part.score_id };
  const passages = (await passageRows(studio, [practice])).filter((passage) => isWithin(passage, indexes));
  const slips = panelSlips(result);
  const tempo = takeId === null ? null : await tempoOf(studio, takeId);
  const at = new Date(nowMs).toISOString();
  for (const passage of passages) {
    const own = slips.filter((index) => index >= passage.from_index && index < passage.end_index);
    const bpm = tempo === null ? passage.target_bpm : inTargetBeats(tempo, passage);
    const rep = {
      id: newId(),
      at,
      bpm,
      beatUnit: passage.target_unit,
      context: 'mock',
      isClean: own.length === 0,
    } as const;
    await logReps(studio, passage.id, { reps: [rep], nowMs });
    back.repIds.push(rep.id);
  }
  for (const measureIndex of slips) {
    const passage = passages.find((one) => measureIndex >= one.from_index && measureIndex < one.end_index);
    if (!passage) continue;
    const bpm = tempo === null ? passage.target_bpm : inTargetBeats(tempo, passage);
    const surprise = { id: newId(), measureIndex, bpm, beatUnit: passage.target_unit, at };
    const text = `tapped by ${result.taps.get(measureIndex) ?? 0} in the mock`;
    await insertSurprise(studio, passage.id, { ...surprise, text });
    back.surpriseIds.push(surprise.id);
  }
  return back;
}

/** Whether all of a passage was played. */
function isWithin(
  { from_index: fromIndex, end_index: endIndex }: PassageRow,
  indexes: readonly number[],
): boolean {
  return indexesOf([{ fromIndex, endIndex }]).every((index) => indexes.includes(index));
}

/** The middle tempo of a take that was read; null of one that was not. Units: quarter notes a minute */
async function tempoOf(studio: Studio, takeId: string): Promise<Bpm | null> {
  const row = (await rowsOf(studio, 'takes').where({ id: takeId }).first('told')) as
    { readonly told: string | null } | undefined;
  return row?.told ? takenTempo(JSON.parse(row.told) as ToldTake) : null;
}

/** A tempo in the beats of a passage's target, within what a rep may have. */
function inTargetBeats(quarters: Bpm, { target_unit: unit }: PassageRow): Bpm {
  const bpm = convertBpm(quarters, 'quarter', unit);
  return Math.round(Math.min(400, Math.max(10, bpm)) * 100) / 100;
}

/** Takes the end of a day back: its reps and surprises go. Shape: the day as it then stands. Errors: Problem not-found */
export async function reopenMock(studio: Studio, id: string, nowMs: number): Promise<MockView> {
  const { mock } = await mockRowsOf(studio, id);
  const closing = closingOf(mock);
  if (closing) {
    for (const repId of closing.repIds) await takeRepBack(studio, repId, nowMs);
    await rowsOf(studio, 'surprises').whereIn('id', closing.surpriseIds).delete();
    await rowsOf(studio, 'mocks').where({ id }).update({ closing: null });
  }
  return mockView(studio, id);
}
