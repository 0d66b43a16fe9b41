import { randomInt } from 'node:crypto';
import { v7 as newId } from 'uuid';
import { mockItems, USUAL_CRITERIA, type CriterionShare, type MockItem } from '@vivid-cue/core/mock';
import {
  dayNumber,
  dueMoment,
  type MockChange,
  type MockChoice,
  type MockInput,
  type MockLine,
  type MockPlace,
  type MocksView,
  type MockTake,
  type MockView,
} from '@vivid-cue/contract';
import { dayOfDate } from '@vivid-cue/core/plan';
import { groupBy } from '@vivid-cue/core/base';
import { insertOnce, rowsOf, together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { partTitle, programPartRows, type ProgramPartRow } from '../practice/part-row.js';
import { partView } from '../published/sheet-part.js';
import { sheetTitle } from '../published/sheet-view.js';
import { deadlinesOf } from '../published/repository.js';
import { studioFacts } from '../studio/facts.js';
import { mockView } from './day-view.js';
import {
  closingOf,
  findMock,
  insertPlayer,
  itemsOf,
  listenersOf,
  mockRows,
  playersOf,
  scoresOf,
} from './repository.js';

const SEEDS = 1_000_000;

/** The studio's mock days, and whose programs may be played in one. Units: milliseconds since 1970 */
export async function listMocks(studio: Studio, nowMs: number): Promise<MocksView> {
  const rows = await mockRows(studio);
  const ids = rows.map(({ id }) => id);
  const players = groupBy(await playersOf(studio, ids), ({ mock_id: id }) => id);
  const listeners = await listenersOf(studio, ids);
  const scores = await scoresOf(
    studio,
    listeners.map(({ id }) => id),
  );
  const mockOf = new Map(listeners.map(({ id, mock_id: mock }) => [id, mock]));
  return {
    mocks: rows.map((row): MockLine => ({
      ...{ id: row.id, date: row.date.slice(0, 10), closedAt: closingOf(row)?.at ?? null },
      players: (players.get(row.id) ?? []).map(({ student_id: studentId, name }) => ({ studentId, name })),
      listeners: listeners.filter((one) => one.mock_id === row.id && one.revoked_at === null).length,
      scores: scores.filter((one) => mockOf.get(one.listener_id) === row.id).length,
    })),
    choices: await choicesOf(studio, nowMs),
  };
}

/** A program that somebody plays, with its sheet's name. */
interface PlayedProgram {
  readonly id: string;
  readonly revision_id: string;
  readonly student_id: string;
  readonly name: string;
  readonly instrument: string;
  readonly body: string;
  readonly year: string;
  readonly division: string;
}

async function playedPrograms(studio: Studio): Promise<PlayedProgram[]> {
  return (await rowsOf(studio, 'programs as p')
    .join('students as st', 'st.id', 'p.student_id')
    .join('sheets as sh', 'sh.id', 'p.sheet_id')
    .whereNull('p.deleted_at')
    .whereNull('st.deleted_at')
    .whereNull('sh.deleted_at')
    .orderBy('st.name')
    .select('p.id', 'p.revision_id', 'p.student_id', 'st.name', 'st.instrument')
    .select('sh.body', 'sh.year', 'sh.division')) as unknown as PlayedProgram[];
}

async function choicesOf(studio: Studio, nowMs: number): Promise<MockChoice[]> {
  const rows = await playedPrograms(studio);
  const { zone } = await studioFacts(studio);
  const today = dayNumber(nowMs, zone);
  const revisions = rows.map((row) => row.revision_id);
  const deadlines = groupBy(await deadlinesOf(studio, revisions), (deadline) => deadline.revision_id);
  return rows.map((row) => {
    const days = (deadlines.get(row.revision_id) ?? []).flatMap((deadline) => {
      const moment = dueMoment(deadline);
      const left = moment ? dayOfDate(moment.date) - today : -1;
      return left >= 0 && deadline.kind === 'audition' ? [left] : [];
    });
    return {
      ...{ programId: row.id, studentId: row.student_id, name: row.name, instrument: row.instrument },
      sheetTitle: sheetTitle(row),
      daysLeft: days.length === 0 ? null : Math.min(...days),
    };
  });
}

/** What the studio's last mock listened for: criteria stay as they were set. */
async function usualCriteria(studio: Studio): Promise<readonly CriterionShare[]> {
  const [last] = await mockRows(studio);
  const players = last ? await playersOf(studio, [last.id]) : [];
  const item = players.flatMap((player) => itemsOf(player)).find(({ call }) => call !== 'aural');
  if (!item) return USUAL_CRITERIA;
  const total = item.criteria.reduce((sum, { points }) => sum + points, 0) || 1;
  return item.criteria.map(({ name, points }) => ({ name, share: points / total }));
}

/**
 * Makes a mock day from programs: order, draws, words, study time and rubric as the sheet gives them. Making it again
 * changes nothing.
 * Units:  milliseconds since 1970
 * Errors: Problem not-found for a program that is not there; id-taken
 */
export async function makeMock(studio: Studio, input: MockInput, nowMs: number): Promise<MockView> {
  const criteria = await usualCriteria(studio);
  const owners = await ownersOf(
    studio,
    input.players.map(({ programId }) => programId),
  );
  const items = new Map<string, MockItem[]>();
  for (const { programId } of input.players)
    items.set(programId, await itemsFor(studio, programId, criteria));
  await together(studio, async (inside) => {
    const isNew = await insertOnce(inside, 'mocks', {
      ...{ id: input.id, date: input.date, is_blind: input.isBlind, is_recorded: input.isRecorded },
      ...{ seed: randomInt(SEEDS), created_at: new Date(nowMs) },
    });
    if (!isNew) {
      if (!(await findMock(inside, input.id)))
        throw new Problem('id-taken', 'This day could not be made; reload the page and try again.');
      return;
    }
    for (const [position, { id, programId }] of input.players.entries())
      await insertPlayer(inside, {
        ...{ id, mockId: input.id, programId, studentId: owners.get(programId) ?? '', position },
        items: items.get(programId) ?? [],
      });
  });
  return mockView(studio, input.id);
}

/** Whose programs some are. Errors: Problem not-found where one is not there */
async function ownersOf(studio: Studio, programIds: readonly string[]): Promise<Map<string, string>> {
  const rows = (await rowsOf(studio, 'programs as p')
    .join('students as st', 'st.id', 'p.student_id')
    .whereIn('p.id', programIds)
    .whereNull('p.deleted_at')
    .whereNull('st.deleted_at')
    .select('p.id', 'p.student_id')) as unknown as { readonly id: string; readonly student_id: string }[];
  const owners = new Map(rows.map((row) => [row.id, row.student_id]));
  if (programIds.some((id) => !owners.has(id))) throw notFound('program');
  return owners;
}

async function itemsFor(
  studio: Studio,
  programId: string,
  criteria: readonly CriterionShare[],
): Promise<MockItem[]> {
  const rows = await programPartRows(studio, { programIds: [programId] });
  const parts = rows.filter(isTaken).map((row) => {
    const { kind, points } = partView(row);
    return { id: row.program_part_id, kind, points, title: partTitle(row) };
  });
  return mockItems(parts, { criteria, newId });
}

function isTaken({ is_taken: taken }: ProgramPartRow): boolean {
  return taken === 1;
}

/**
 * Changes what is called up, in which order and with which words.
 * Errors: Problem not-found, version-stale; input-invalid for a part that is not the player's
 */
export async function changeMock(
  studio: Studio,
  id: string,
  { change, version }: { readonly change: MockChange; readonly version: number },
): Promise<MockView> {
  if (!(await findMock(studio, id))) throw notFound('mock day');
  const players = new Map((await playersOf(studio, [id])).map((row) => [row.id, row]));
  const rows = await programPartRows(studio, {
    programIds: [...players.values()].map(({ program_id: one }) => one),
  });
  const programOf = new Map(rows.map((row) => [row.program_part_id, row.program_id]));
  for (const { id: playerId, items } of change.players) {
    const player = players.get(playerId);
    if (!player) throw notFound('player');
    if (items.flatMap(({ partIds }) => partIds).some((one) => programOf.get(one) !== player.program_id))
      throw notFound('part');
  }
  const isChanged = await together(studio, async (inside) => {
    const changed = await rowsOf(inside, 'mocks')
      .where({ id, version })
      .update({
        ...{ date: change.date, is_blind: change.isBlind, is_recorded: change.isRecorded },
        version: version + 1,
      });
    if (changed !== 1) return false;
    for (const [position, player] of change.players.entries())
      await rowsOf(inside, 'mock_players')
        .where({ id: player.id, mock_id: id })
        .update({ position, items: JSON.stringify(player.items) });
    return true;
  });
  const current = await mockView(studio, id);
  if (!isChanged)
    throw new Problem('version-stale', 'This day was changed in another window meanwhile; look at both.', {
      current,
    });
  return current;
}

/** Says where the day is. Errors: Problem not-found */
export async function placeMock(studio: Studio, id: string, { now }: MockPlace): Promise<MockView> {
  const players = (await findMock(studio, id)) ? await playersOf(studio, [id]) : null;
  if (!players) throw notFound('mock day');
  const player = players.find((row) => row.id === now?.playerId);
  if (now && !(player && itemsOf(player).some((item) => item.id === now.itemId))) throw notFound('player');
  await rowsOf(studio, 'mocks')
    .where({ id })
    .update({ now: now && JSON.stringify(now) });
  return mockView(studio, id);
}

/** Gives a take to what it was recorded of, so that listeners may hear it. Errors: Problem not-found */
export async function attachTake(
  studio: Studio,
  id: string,
  { playerId, itemId, takeId }: MockTake,
): Promise<MockView> {
  const player = (await playersOf(studio, [id])).find((row) => row.id === playerId);
  if (!player || !itemsOf(player).some((item) => item.id === itemId)) throw notFound('player');
  const place = { player_id: playerId, item_id: itemId };
  if (takeId !== null) {
    const take: unknown = await rowsOf(studio, 'takes')
      .where({ id: takeId, student_id: player.student_id })
      .whereNull('deleted_at')
      .first('id');
    if (take === undefined) throw notFound('take');
  }
  await together(studio, async (inside) => {
    await rowsOf(inside, 'mock_takes').where(place).delete();
    if (takeId !== null)
      await inside.db('mock_takes').insert({ ...place, take_id: takeId, studio_id: inside.id });
  });
  return mockView(studio, id);
}

/** Removes a day, or takes that back. Errors: Problem not-found */
export async function markMock(studio: Studio, id: string, at: Date | null): Promise<void> {
  if (!(await findMock(studio, id, true))) throw notFound('mock day');
  await rowsOf(studio, 'mocks').where({ id }).update({ deleted_at: at });
}
