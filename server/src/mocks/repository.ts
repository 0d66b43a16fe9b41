import type { MockItem } from '@vivid-cue/core/mock';
import type { MockPlace, ScoreInput, StudentRecord } from '@vivid-cue/contract';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';

/** A mock day as stored. Shape: `now` and `closing` as JSON */
export interface MockRow {
  readonly id: string;
  readonly date: string;
  readonly is_blind: number;
  readonly is_recorded: number;
  readonly seed: number;
  readonly now: string | null;
  readonly closing: string | null;
  readonly version: number;
  readonly created_at: Date;
  readonly deleted_at: Date | null;
}

/** A player of a day. Shape: items as JSON */
export interface PlayerRow {
  readonly id: string;
  readonly mock_id: string;
  readonly program_id: string;
  readonly student_id: string;
  readonly name: string;
  readonly instrument: string;
  readonly items: string;
}

/** A listener as stored. */
export interface ListenerRow {
  readonly id: string;
  readonly studio_id: string;
  readonly mock_id: string;
  readonly name: string;
  readonly code_hash: string;
  readonly created_at: Date;
  readonly expires_at: Date;
  readonly last_used_at: Date | null;
  readonly revoked_at: Date | null;
}

/** A score as stored. Shape: points and taps as JSON */
export interface ScoreRow {
  readonly id: string;
  readonly listener_id: string;
  readonly player_id: string;
  readonly item_id: string;
  readonly points: string;
  readonly taps: string;
  readonly remark: string;
}

/** What closing a day brought, so that it can be taken back. */
export interface StoredClosing {
  readonly at: string;
  readonly repIds: readonly string[];
  readonly surpriseIds: readonly string[];
}

/** One day, or null; those that were removed too where they are asked for. */
export async function findMock(studio: Studio, id: string, withRemoved = false): Promise<MockRow | null> {
  const query = rowsOf(studio, 'mocks').where({ id });
  if (!withRemoved) query.whereNull('deleted_at');
  return ((await query.first()) as MockRow | undefined) ?? null;
}

/** All days of the studio, newest first. */
export async function mockRows(studio: Studio): Promise<MockRow[]> {
  return (await rowsOf(studio, 'mocks')
    .whereNull('deleted_at')
    .orderBy([
      { column: 'date', order: 'desc' },
      { column: 'id', order: 'desc' },
    ])
    .select()) as MockRow[];
}

/** The players of some days, in their order; those whose student or program was removed are left out. */
export async function playersOf(studio: Studio, mockIds: readonly string[]): Promise<PlayerRow[]> {
  return (await rowsOf(studio, 'mock_players as m')
    .join('students as st', 'st.id', 'm.student_id')
    .join('programs as p', 'p.id', 'm.program_id')
    .whereIn('m.mock_id', mockIds)
    .whereNull('st.deleted_at')
    .whereNull('p.deleted_at')
    .orderBy('m.position')
    .select(
      'm.id',
      'm.mock_id',
      'm.program_id',
      'm.student_id',
      'st.name',
      'st.instrument',
      'm.items',
    )) as unknown as PlayerRow[];
}

/** The items of a player. */
export function itemsOf({ items }: Pick<PlayerRow, 'items'>): MockItem[] {
  return JSON.parse(items) as MockItem[];
}

/** Adds a player. */
export async function insertPlayer(
  studio: Studio,
  player: {
    readonly id: string;
    readonly mockId: string;
    readonly programId: string;
    readonly studentId: string;
    readonly position: number;
    readonly items: readonly MockItem[];
  },
): Promise<boolean> {
  return insertOnce(studio, 'mock_players', {
    ...{ id: player.id, mock_id: player.mockId, program_id: player.programId, student_id: player.studentId },
    ...{ position: player.position, items: JSON.stringify(player.items) },
  });
}

/** The listeners of a day in the order in which they were asked. */
export async function listenersOf(studio: Studio, mockIds: readonly string[]): Promise<ListenerRow[]> {
  return (await rowsOf(studio, 'mock_listeners')
    .whereIn('mock_id', mockIds)
    .orderBy(['created_at', 'id'])
    .select()) as ListenerRow[];
}

/** The scores of some listeners. */
export async function scoresOf(studio: Studio, listenerIds: readonly string[]): Promise<ScoreRow[]> {
  return (await rowsOf(studio, 'mock_scores')
    .whereIn('listener_id', listenerIds)
    .orderBy('id')
    .select()) as ScoreRow[];
}

/** Keeps what a listener gives: written over where something was given before. */
export async function keepScore(
  studio: Studio,
  listenerId: string,
  { score, now }: { readonly score: ScoreInput; readonly now: Date },
): Promise<void> {
  const { id, playerId, itemId, points, taps, remark } = score;
  const given = { points: JSON.stringify(points), taps: JSON.stringify(taps), remark, at: now };
  const place = { listener_id: listenerId, player_id: playerId, item_id: itemId };
  const isNew = await insertOnce(studio, 'mock_scores', { id, ...place, ...given });
  if (!isNew) await rowsOf(studio, 'mock_scores').where(place).update(given);
}

/** The takes of some players' items. */
export async function mockTakes(
  studio: Studio,
  playerIds: readonly string[],
): Promise<{ readonly player_id: string; readonly item_id: string; readonly take_id: string }[]> {
  return (await rowsOf(studio, 'mock_takes as m')
    .join('takes as t', 't.id', 'm.take_id')
    .whereIn('m.player_id', playerIds)
    .whereNull('t.deleted_at')
    .select('m.player_id', 'm.item_id', 'm.take_id')) as unknown as {
    player_id: string;
    item_id: string;
    take_id: string;
  }[];
}

/** Where a day is. */
export function nowOf({ now }: Pick<MockRow, 'now'>): MockPlace['now'] {
  return now === null ? null : (JSON.parse(now) as NonNullable<MockPlace['now']>);
}

/** What closing a day brought; null while it is open. */
export function closingOf({ closing }: Pick<MockRow, 'closing'>): StoredClosing | null {
  return closing === null ? null : (JSON.parse(closing) as StoredClosing);
}

/** Days from one on, on which a student plays in a mock that is not closed. Shape: ISO days */
export async function mockDates(studio: Studio, studentId: string, from: string): Promise<string[]> {
  const rows = (await rowsOf(studio, 'mock_players as p')
    .join('mocks as m', 'm.id', 'p.mock_id')
    .where('p.student_id', studentId)
    .where('m.date', '>=', from)
    .whereNull('m.deleted_at')
    .whereNull('m.closing')
    .distinct('m.date')
    .orderBy('m.date')) as unknown as { readonly date: string }[];
  return rows.map(({ date }) => date.slice(0, 10));
}

/** Deletes days in which nobody plays any more. */
export async function dropEmptyMocks(studio: Studio): Promise<void> {
  await rowsOf(studio, 'mocks')
    .whereRaw('NOT EXISTS (SELECT 1 FROM mock_players WHERE mock_players.mock_id = mocks.id)')
    .delete();
}

/** What a student played in mocks and was given for it, without who gave it: for the record. */
export async function recordedMocks(
  studio: Studio,
  studentId: string,
): Promise<NonNullable<StudentRecord['mocks']>> {
  const players = (await rowsOf(studio, 'mock_players as p')
    .join('mocks as m', 'm.id', 'p.mock_id')
    .where('p.student_id', studentId)
    .whereNull('m.deleted_at')
    .orderBy('m.date')
    .select('p.id', 'p.items', 'm.date')) as unknown as {
    readonly id: string;
    readonly items: string;
    readonly date: string;
  }[];
  const scores = (await rowsOf(studio, 'mock_scores')
    .whereIn(
      'player_id',
      players.map(({ id }) => id),
    )
    .orderBy('id')
    .select()) as ScoreRow[];
  return players.map((player) => ({
    date: player.date.slice(0, 10),
    items: itemsOf(player).map(({ id, title, criteria }) => ({
      ...{ title, criteria: criteria.map(({ name, points }) => `${name}: ${points}`) },
      given: scores
        .filter((one) => one.player_id === player.id && one.item_id === id)
        .map(({ points, taps, remark }) => ({
          ...{ points: JSON.parse(points) as (number | null)[], taps: JSON.parse(taps) as number[], remark },
        })),
    })),
  }));
}
