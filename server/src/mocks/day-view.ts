import { drawnFor, itemSeed, type MockItem } from '@vivid-cue/core/mock';
import { indexesOf } from '@vivid-cue/core/spans';
import type {
  ListenerView,
  MockDraw,
  MockItemView,
  MockPlayerView,
  MockView,
  ScoreView,
} from '@vivid-cue/contract';
import type { Studio } from '../db/studio.js';
import { notFound } from '../http/problem.js';
import { askedSpans } from '../practice/asked.js';
import { readMeasureMap } from '../practice/measure-map.js';
import { partTitle, programPartRows, type ProgramPartRow } from '../practice/part-row.js';
import {
  closingOf,
  findMock,
  itemsOf,
  listenersOf,
  mockTakes,
  nowOf,
  playersOf,
  scoresOf,
  type ListenerRow,
  type MockRow,
  type PlayerRow,
  type ScoreRow,
} from './repository.js';

/** Where nothing marks a place, a start may lie at the beginning of each so many measures. */
const PHRASE = 8;

/** A day with its rows. */
export interface MockRows {
  readonly mock: MockRow;
  readonly players: readonly PlayerRow[];
  readonly parts: ReadonlyMap<string, ProgramPartRow>;
}

/** Errors: Problem not-found */
export async function mockRowsOf(studio: Studio, id: string): Promise<MockRows> {
  const mock = await findMock(studio, id);
  if (!mock) throw notFound('mock day');
  const players = await playersOf(studio, [id]);
  const rows = await programPartRows(studio, { programIds: players.map(({ program_id: one }) => one) });
  return { mock, players, parts: new Map(rows.map((row) => [row.program_part_id, row])) };
}

/**
 * A mock day with all that is known of it.
 * Shape:  `codes` of listeners whose links were just made
 * Errors: Problem not-found
 */
export async function mockView(
  studio: Studio,
  id: string,
  codes: ReadonlyMap<string, string> = new Map(),
): Promise<MockView> {
  const rows = await mockRowsOf(studio, id);
  const { mock } = rows;
  const listeners = await listenersOf(studio, [id]);
  const scores = await scoresOf(
    studio,
    listeners.map((one) => one.id),
  );
  return {
    ...{ id: mock.id, date: mock.date.slice(0, 10), seed: mock.seed, version: mock.version },
    ...{ isBlind: mock.is_blind === 1, isRecorded: mock.is_recorded === 1 },
    closedAt: closingOf(mock)?.at ?? null,
    now: nowOf(mock),
    players: await playerViews(studio, rows),
    listeners: listeners.map((row) => listenerView(row, codes.get(row.id) ?? null)),
    scores: scores.map(scoreView),
  };
}

/** The players of a day, each with what is called up. */
export async function playerViews(
  studio: Studio,
  { mock, players, parts }: MockRows,
): Promise<MockPlayerView[]> {
  const takes = await mockTakes(
    studio,
    players.map(({ id }) => id),
  );
  return players.map((player, n) => ({
    id: player.id,
    programId: player.program_id,
    student: { id: player.student_id, name: player.name, instrument: player.instrument },
    items: itemsOf(player).map((item, at): MockItemView => {
      const called = calledUp(item, { parts, seed: itemSeed(mock.seed, n, at) });
      const take = takes.find((one) => one.player_id === player.id && one.item_id === item.id);
      return { ...item, drawn: called.drawn, measures: called.measures, takeId: take?.take_id ?? null };
    }),
  }));
}

/** What is played of an item: the part, from which measure on, and its measures. */
export interface CalledUp {
  readonly part: ProgramPartRow | null;
  readonly drawn: MockDraw | null;
  /** Places in the score that are played, in their order. */
  readonly indexes: readonly number[];
  readonly measures: MockItemView['measures'];
}

/** What an item comes to on the day: drawn by its seed where something is drawn. */
export function calledUp(
  item: MockItem,
  { parts, seed }: { readonly parts: ReadonlyMap<string, ProgramPartRow>; readonly seed: number },
): CalledUp {
  const first = parts.get(item.partIds[0] ?? '') ?? null;
  const isDrawn = item.call === 'drawn' || item.call === 'from-a-start';
  const starts = first ? startsOf(first) : [];
  const draw = isDrawn ? drawnFor(item, { seed, starts }) : null;
  const part = draw ? (parts.get(draw.partId) ?? null) : first;
  const all = part ? askedIndexes(part) : [];
  const indexes = item.call === 'from-a-start' && draw ? all.slice(draw.start) : all;
  const map = readMeasureMap(part?.measure_map ?? null) ?? [];
  const measures = indexes.flatMap((index) => {
    const measure = map[index];
    return measure ? [{ index, number: measure.number, quarters: measure.quarters }] : [];
  });
  const title = part ? partTitle(part) : '';
  const start = item.call === 'from-a-start' ? (measures[0]?.number ?? null) : null;
  return { part, indexes, measures, drawn: draw && part ? { partId: draw.partId, title, start } : null };
}

function askedIndexes(part: ProgramPartRow): number[] {
  const map = readMeasureMap(part.measure_map);
  const spans = map && askedSpans(map, part);
  return spans?.ok ? indexesOf(spans.value) : [];
}

/** Places at which somebody may be told to begin, counted from 0 over what is asked: letters, double bars, phrases. */
function startsOf(part: ProgramPartRow): number[] {
  const map = readMeasureMap(part.measure_map) ?? [];
  const indexes = askedIndexes(part);
  const marked = indexes.flatMap((index, n) => {
    const isMarked = map[index]?.rehearsal != null || map[index - 1]?.endsInDoubleBar === true;
    return isMarked || n === 0 ? [n] : [];
  });
  return marked.length > 1 ? marked : indexes.flatMap((_, n) => (n % PHRASE === 0 ? [n] : []));
}

/** A listener as the instructor sees one. */
export function listenerView(row: ListenerRow, code: string | null): ListenerView {
  return {
    ...{ id: row.id, name: row.name, code, path: `/listen/${row.id}` },
    lastUsedAt: row.last_used_at?.toISOString() ?? null,
    isRevoked: row.revoked_at !== null,
  };
}

/** A score as it was given. */
export function scoreView(row: ScoreRow): ScoreView {
  return {
    ...{ id: row.id, listenerId: row.listener_id, playerId: row.player_id, itemId: row.item_id },
    points: JSON.parse(row.points) as (number | null)[],
    taps: JSON.parse(row.taps) as number[],
    remark: row.remark,
  };
}
