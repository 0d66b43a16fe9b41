import type { Knex } from 'knex';
import { sha256 } from '../db/sha256.js';
import { Problem } from './problem.js';

/** How many tries are free, and how the wait grows after them. Units: milliseconds */
export interface TryLimit {
  readonly name: string;
  readonly free: number;
  readonly firstWaitMs: number;
  readonly longestWaitMs: number;
  /** Tries are forgotten so long after the last one. */
  readonly forgottenMs: number;
}

const MINUTE_MS = 60_000;

/** Wrong passwords for one account: few are free, then each costs twice the wait of the one before (our own numbers). */
export const ACCOUNT_LIMIT: TryLimit = {
  name: 'account',
  free: 5,
  firstWaitMs: 15_000,
  longestWaitMs: 15 * MINUTE_MS,
  forgottenMs: 24 * 60 * MINUTE_MS,
};

/** Wrong passwords from one address: a whole school may share it (our own numbers). */
export const ADDRESS_LIMIT: TryLimit = {
  name: 'address',
  free: 100,
  firstWaitMs: MINUTE_MS,
  longestWaitMs: 15 * MINUTE_MS,
  forgottenMs: 15 * MINUTE_MS,
};

/** So many tries, then none until they are forgotten. */
export function quota(name: string, free: number, forgottenMs: number): TryLimit {
  return { name, free, firstWaitMs: forgottenMs, longestWaitMs: forgottenMs, forgottenMs };
}

/** Whose tries: what is counted is never stored plain. */
export interface Tries {
  readonly limit: TryLimit;
  readonly whose: string;
}

function keyOf({ limit, whose }: Tries): string {
  return sha256(`${limit.name}:${whose}`);
}

/**
 * Counts a try before it is known how it ends, so that many at once are no more than many one after another: one statement
 * counts, sets the wait and refuses where one holds.
 * Units:  milliseconds since 1970
 * Errors: Problem too-many while one has to wait
 */
export async function countTry(db: Knex, tries: Tries, nowMs: number): Promise<void> {
  const { free, firstWaitMs, longestWaitMs, forgottenMs } = tries.limit;
  const id = keyOf(tries);
  const resetsAtMs = nowMs + forgottenMs;
  const wait = `IF(hits < ?, 0, ? + LEAST(?, ? * POW(2, hits - ?)))`;
  const waitOf = [free, nowMs, longestWaitMs, firstWaitMs, free];
  const counted = async (): Promise<boolean> =>
    isOne(
      // Columns are set one after the other: the wait is that of the new count.
      await db.raw(
        `UPDATE rate_hits SET hits = IF(resets_at_ms <= ?, 1, hits + 1), resets_at_ms = ?, blocked_until_ms = ${wait}
         WHERE id = ? AND (blocked_until_ms <= ? OR resets_at_ms <= ?)`,
        [nowMs, resetsAtMs, ...waitOf, id, nowMs, nowMs],
      ),
    );
  if (await counted()) return;
  const isFirst = isOne(
    await db.raw(
      'INSERT IGNORE INTO rate_hits (id, hits, resets_at_ms, blocked_until_ms) VALUES (?, 1, ?, ?)',
      [id, resetsAtMs, free > 1 ? 0 : nowMs + firstWaitMs],
    ),
  );
  // Another try may have been the first meanwhile.
  if (isFirst || (await counted())) return;
  const row = (await db('rate_hits').where({ id }).first('blocked_until_ms')) as
    { readonly blocked_until_ms: number } | undefined;
  throw tooMany(Math.max(1000, Number(row?.blocked_until_ms ?? 0) - nowMs));
}

function isOne(answer: unknown): boolean {
  const [{ affectedRows }] = answer as [{ readonly affectedRows: number }];
  return affectedRows === 1;
}

function tooMany(waitMs: number): Problem {
  const seconds = Math.ceil(waitMs / 1000);
  const wait = seconds < 90 ? `${seconds} seconds` : `${Math.ceil(seconds / 60)} minutes`;
  return new Problem('too-many', `That was tried too often; wait ${wait} and try again.`, {
    retryAfterSeconds: seconds,
  });
}

/** A try that went well: the account's are forgotten, of the address's this one is taken back. */
export async function forgiveTry(db: Knex, tries: Tries): Promise<void> {
  const id = keyOf(tries);
  if (tries.limit === ACCOUNT_LIMIT) await forgetTries(db, tries);
  // Columns are set one after the other: a wait that earlier tries have earned stays.
  else
    await db.raw(
      'UPDATE rate_hits SET hits = hits - 1, blocked_until_ms = IF(hits < ?, 0, blocked_until_ms) WHERE id = ? AND hits > 0',
      [tries.limit.free, id],
    );
}

/** Forgets all tries of somebody. */
export async function forgetTries(db: Knex, tries: Tries): Promise<void> {
  await db('rate_hits')
    .where({ id: keyOf(tries) })
    .delete();
}
