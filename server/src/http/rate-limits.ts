import { createHash } from 'node:crypto';
import {
  rateLimit,
  type ClientRateLimitInfo,
  type Options,
  type RateLimitRequestHandler,
  type Store,
} from 'express-rate-limit';
import type { Knex } from 'knex';
import { Problem } from './problem.js';

/** Counts hits in the database, so that several server processes share one limit. Keys are hashed, never stored plain. */
class DatabaseStore implements Store {
  private windowMs = 60_000;
  readonly localKeys = false;

  constructor(
    private readonly db: Knex,
    readonly prefix: string,
    private readonly now: () => number,
  ) {}

  init(options: Options): void {
    this.windowMs = options.windowMs;
  }

  async increment(key: string): Promise<ClientRateLimitInfo> {
    const now = this.now();
    const id = this.hash(key);
    await this.db.raw(
      `INSERT INTO rate_hits (id, hits, resets_at_ms) VALUES (?, 1, ?)
       ON DUPLICATE KEY UPDATE hits = IF(resets_at_ms <= ?, 1, hits + 1), resets_at_ms = IF(resets_at_ms <= ?, ?, resets_at_ms)`,
      [id, now + this.windowMs, now, now, now + this.windowMs],
    );
    const row = await this.db<{ id: string; hits: number; resets_at_ms: number }>('rate_hits')
      .where({ id })
      .first();
    return { totalHits: row?.hits ?? 1, resetTime: new Date(row?.resets_at_ms ?? now + this.windowMs) };
  }

  async decrement(key: string): Promise<void> {
    await this.db('rate_hits')
      .where({ id: this.hash(key) })
      .where('hits', '>', 0)
      .decrement('hits', 1);
  }

  async resetKey(key: string): Promise<void> {
    await this.db('rate_hits')
      .where({ id: this.hash(key) })
      .delete();
  }

  private hash(key: string): string {
    return createHash('sha256').update(`${this.prefix}:${key}`).digest('hex');
  }
}

/** What a limit counts. */
export interface LimitOptions {
  readonly name: string;
  readonly tries: number;
  readonly windowMs: number;
  readonly now: () => number;
}

/**
 * A limit on tries from one address; successes do not count.
 * Units:  milliseconds
 * Errors: Problem too-many
 */
export function limitOf(db: Knex, { name, tries, windowMs, now }: LimitOptions): RateLimitRequestHandler {
  return rateLimit({
    windowMs,
    limit: tries,
    standardHeaders: 'draft-7',
    legacyHeaders: false,
    skipSuccessfulRequests: true,
    store: new DatabaseStore(db, name, now),
    handler: () => {
      throw new Problem(
        'too-many',
        `That was tried too often; wait ${Math.round(windowMs / 60_000)} minutes and try again.`,
      );
    },
  });
}
