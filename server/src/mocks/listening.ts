import type { Knex } from 'knex';
import { auralQuestions, itemSeed, shuffled } from '@vivid-cue/core/mock';
import type {
  HeardPlayer,
  ListenerEntry,
  ListenerInput,
  ListeningView,
  MockPlayerView,
  MockView,
  ScoreInput,
} from '@vivid-cue/contract';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';
import { codeHash, freshCode, shownCode } from '../http/link-codes.js';
import { goodLink, linkLimit, openLink, type LinkKind } from '../http/link-entry.js';
import { notFound, Problem } from '../http/problem.js';
import type { ListenerIdentity } from '../http/session-guard.js';
import { readSettings } from '../studio/settings.js';
import { mockRowsOf, mockView, playerViews, scoreView } from './day-view.js';
import {
  closingOf,
  findMock,
  itemsOf,
  keepScore,
  nowOf,
  playersOf,
  scoresOf,
  type ListenerRow,
} from './repository.js';

/** A listener's link is good for some weeks after it was made. Units: milliseconds (our own) */
const LINK_MS = 45 * 86_400_000;

/**
 * Makes a listener's link with a code, which is told now and never again.
 * Units:  milliseconds since 1970
 * Errors: Problem not-found, id-taken
 */
export async function addListener(
  studio: Studio,
  mockId: string,
  {
    input,
    secret,
    nowMs,
  }: { readonly input: ListenerInput; readonly secret: string; readonly nowMs: number },
): Promise<MockView> {
  if (!(await findMock(studio, mockId))) throw notFound('mock day');
  const code = freshCode();
  const isNew = await insertOnce(studio, 'mock_listeners', {
    ...{ id: input.id, mock_id: mockId, name: input.name },
    code_hash: codeHash(secret, { purpose: 'listening', linkId: input.id, code }),
    created_at: new Date(nowMs),
    expires_at: new Date(nowMs + LINK_MS),
  });
  const own: unknown = await rowsOf(studio, 'mock_listeners')
    .where({ id: input.id, mock_id: mockId })
    .first('id');
  if (own === undefined)
    throw new Problem('id-taken', 'This link could not be made; reload the page and try again.');
  return mockView(studio, mockId, isNew ? new Map([[input.id, shownCode(code)]]) : new Map());
}

/** Takes a listener's link back; what was given stays. Errors: Problem not-found */
export async function revokeListener(studio: Studio, id: string, nowMs: number): Promise<void> {
  const isThere = await rowsOf(studio, 'mock_listeners')
    .where({ id })
    .update({ revoked_at: new Date(nowMs) });
  if (isThere !== 1) throw notFound('link');
}

const LISTENER_LINKS: LinkKind<ListenerRow> = {
  ...{ purpose: 'listening', table: 'mock_listeners', limit: linkLimit('listener-link'), find: liveListener },
  wrong: 'That is not the code of this link. Type the eight letters and digits that came with it.',
  gone: 'This link is not good any more: the day is over, or it was taken back. What you gave is kept.',
};

/**
 * Whom a link and its code let in.
 * Units:  milliseconds since 1970
 * Errors: Problem link-wrong, link-gone, too-many
 */
export async function enterListening(
  db: Knex,
  { listenerId: linkId, code }: ListenerEntry,
  caller: { readonly secret: string; readonly address: string; readonly nowMs: number },
): Promise<ListenerIdentity> {
  const row = await openLink(db, LISTENER_LINKS, { linkId, code, ...caller });
  return { studioId: row.studio_id, mockId: row.mock_id, listenerId: row.id };
}

async function liveListener(db: Knex, id: string): Promise<ListenerRow | null> {
  const row: unknown = await db('mock_listeners as l')
    .join('mocks as m', { 'm.id': 'l.mock_id', 'm.studio_id': 'l.studio_id' })
    .join('studios as s', 's.id', 'l.studio_id')
    .where('l.id', id)
    .whereNull('m.deleted_at')
    .whereNull('s.deleted_at')
    .first('l.*');
  return (row as ListenerRow | undefined) ?? null;
}

/** Asked at every request, so that a link taken back holds nobody in. Errors: Problem link-gone */
export async function goodListener(
  db: Knex,
  { listenerId, mockId }: ListenerIdentity,
  nowMs: number,
): Promise<ListenerRow> {
  return goodLink(db, LISTENER_LINKS, {
    linkId: listenerId,
    isOwn: (link) => link.mock_id === mockId,
    nowMs,
  });
}

/** A listener's page: without names and in an order of its own where nobody is to be known. */
export async function listeningView(studio: Studio, listener: ListenerRow): Promise<ListeningView> {
  const rows = await mockRowsOf(studio, listener.mock_id);
  const { mock } = rows;
  const settings = await readSettings(studio);
  const isBlind = mock.is_blind === 1;
  const all = (await playerViews(studio, rows)).map((player, n) =>
    heardPlayer(player, { number: isBlind ? n + 1 : null, seedAt: (at) => itemSeed(mock.seed, n, at) }),
  );
  const scores = await scoresOf(studio, [listener.id]);
  const now = nowOf(mock);
  return {
    listener: { id: listener.id, name: listener.name },
    ...{ studioName: settings.studioName, vocabulary: settings.vocabulary },
    ...{ date: mock.date.slice(0, 10), isBlind, isClosed: closingOf(mock) !== null },
    now: now && { playerId: now.playerId, itemId: now.itemId },
    players: isBlind ? renumbered(shuffled(all, seedOf(listener.id))) : all,
    scores: scores.map((row): ScoreInput => {
      const { listenerId: _listener, ...score } = scoreView(row);
      return score;
    }),
  };
}

/** Numbers follow the listener's own order, so that they say nothing of the day's. */
function renumbered(players: readonly HeardPlayer[]): HeardPlayer[] {
  return players.map((player, n) => ({ ...player, label: `Player ${n + 1}` }));
}

function seedOf(id: string): number {
  return Number.parseInt(id.slice(-8), 16) >>> 1;
}

function heardPlayer(
  { id, student, items }: MockPlayerView,
  { number, seedAt }: { readonly number: number | null; readonly seedAt: (item: number) => number },
): HeardPlayer {
  return {
    id,
    label: number === null ? student.name : `Player ${number}`,
    instrument: student.instrument,
    items: items.map(({ id: itemId, title, drawn, criteria, measures, takeId, call, level }, at) => ({
      ...{ id: itemId, criteria, measures, takeId, start: drawn?.start ?? null },
      title: drawn && drawn.start === null ? drawn.title : title,
      answers: (call === 'aural' ? auralQuestions({ level, seed: seedAt(at) }) : []).map(
        ({ test: { ask }, right }) => ({ ask, right }),
      ),
    })),
  };
}

/** Keeps what a listener gives. Errors: Problem not-found; input-invalid for points that are not to be had, and a day that is over */
export async function keepGiven(
  studio: Studio,
  { id: listenerId, mock_id: mockId }: ListenerRow,
  { score, nowMs }: { readonly score: ScoreInput; readonly nowMs: number },
): Promise<void> {
  const mock = await findMock(studio, mockId);
  if (!mock) throw notFound('mock day');
  if (closingOf(mock))
    throw new Problem(
      'input-invalid',
      'This day is over; its results stand. Ask the teacher to open it again.',
    );
  const player = (await playersOf(studio, [mockId])).find(({ id }) => id === score.playerId);
  const item = player && itemsOf(player).find(({ id }) => id === score.itemId);
  if (!item) throw notFound('player');
  const over = score.points.findIndex(
    (given, n) => given !== null && given > (item.criteria[n]?.points ?? 0),
  );
  if (over >= 0 || score.points.length !== item.criteria.length) {
    const criterion = item.criteria[Math.max(0, over)];
    const message = `${criterion?.name ?? 'This'} has at most ${criterion?.points ?? 0} points; ${score.points[Math.max(0, over)] ?? 'none'} came.`;
    throw new Problem('input-invalid', message, { issues: [{ where: 'points', message }] });
  }
  await keepScore(studio, listenerId, { score, now: new Date(nowMs) });
}

/** A take that was given to a listener's day. Errors: Problem not-found for any other */
export async function givenTake(studio: Studio, mockId: string, takeId: string): Promise<void> {
  const row: unknown = await rowsOf(studio, 'mock_takes as x')
    .join('mock_players as p', 'p.id', 'x.player_id')
    .join('takes as t', 't.id', 'x.take_id')
    .where({ 'p.mock_id': mockId, 'x.take_id': takeId })
    .whereNull('t.deleted_at')
    .whereNotNull('t.whole_at')
    .first('x.take_id');
  if (row === undefined) throw notFound('take');
}
