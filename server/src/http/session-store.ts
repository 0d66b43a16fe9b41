import { Store, type SessionData } from 'express-session';
import type { Knex } from 'knex';
import { sha256 } from '../db/sha256.js';

/** A session ends so long after it began, whatever is done meanwhile. Units: milliseconds (our own) */
export const SESSION_MS = 14 * 86_400_000;

/**
 * Sessions in the database, so that several servers share them and a restart ends none. Identifiers are stored hashed:
 * who reads the table can sign in as nobody. An error goes to whoever asked, and to nobody else.
 */
export class DatabaseSessions extends Store {
  constructor(
    private readonly db: Knex,
    private readonly now: () => number,
  ) {
    super();
  }

  override get(sid: string, done: (error: unknown, session?: SessionData | null) => void): void {
    this.row(sid)
      .where('expired', '>', new Date(this.now()))
      .first('sess')
      .then((row: { readonly sess: unknown } | undefined) =>
        row === undefined ? null : (parsed(row.sess) as SessionData),
      )
      .then((session) => done(null, session), done);
  }

  override set(sid: string, session: SessionData, done: (error?: unknown) => void = nothing): void {
    const row = {
      sess: JSON.stringify(session),
      expired: new Date(session.endsAtMs ?? this.now()),
      user_id: session.userId ?? null,
    };
    this.db('sessions')
      .insert({ sid: hashedSid(sid), ...row })
      .onConflict('sid')
      .merge(row)
      .then(() => done(), done);
  }

  override destroy(sid: string, done: (error?: unknown) => void = nothing): void {
    this.row(sid)
      .delete()
      .then(() => done(), done);
  }

  private row(sid: string): Knex.QueryBuilder {
    return this.db('sessions').where({ sid: hashedSid(sid) });
  }
}

/** How a session's identifier is stored. */
export function hashedSid(sid: string): string {
  return sha256(sid);
}

function parsed(text: unknown): unknown {
  return typeof text === 'string' ? JSON.parse(text) : text;
}

function nothing(): void {
  // Whoever does not ask is not told.
}
