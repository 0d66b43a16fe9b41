import type { Knex } from 'knex';
import { isCode, type LinkCode } from './link-codes.js';
import { Problem } from './problem.js';
import { ADDRESS_LIMIT, countTry, forgetTries, forgiveTry, type TryLimit } from './tries.js';

/** What every kind of link stores of itself. */
export interface StoredLink {
  readonly id: string;
  readonly code_hash: string;
  readonly expires_at: Date;
  readonly revoked_at: Date | null;
}

/** A kind of link that opens with a code, and how it is spoken of. */
export interface LinkKind<Link extends StoredLink> {
  readonly purpose: LinkCode['purpose'];
  readonly table: 'student_links' | 'mock_listeners';
  readonly limit: TryLimit;
  /** A link whose owner is still there; null for any other. */
  readonly find: (db: Knex, id: string) => Promise<Link | null>;
  readonly wrong: string;
  readonly gone: string;
}

/** Wrong codes for one link: five are free, then each costs twice the wait of the one before (our own numbers). */
export function linkLimit(name: string): TryLimit {
  return {
    name,
    free: 5,
    firstWaitMs: 60_000,
    longestWaitMs: 60 * 60_000,
    forgottenMs: 24 * 60 * 60_000,
  };
}

/** Who tries a link: the code as somebody may have typed it, from where and when. Units: milliseconds since 1970 */
export interface LinkTry {
  readonly linkId: string;
  readonly code: string;
  readonly secret: string;
  readonly address: string;
  readonly nowMs: number;
}

/**
 * The link that a code opens. Only wrong tries count, by link and by address.
 * Errors: Problem link-wrong, the same for a link that is not there and a wrong code; link-gone; too-many
 */
export async function openLink<Link extends StoredLink>(
  db: Knex,
  kind: LinkKind<Link>,
  { linkId, code, secret, address, nowMs }: LinkTry,
): Promise<Link> {
  const byLink = { limit: kind.limit, whose: linkId };
  const byAddress = { limit: ADDRESS_LIMIT, whose: address };
  await countTry(db, byAddress, nowMs);
  await countTry(db, byLink, nowMs);
  const link = await kind.find(db, linkId);
  if (!isCode(secret, link?.code_hash, { purpose: kind.purpose, linkId, code }) || !link)
    throw new Problem('link-wrong', kind.wrong);
  await forgiveTry(db, byAddress);
  await forgetTries(db, byLink);
  if (!isGood(link, nowMs)) throw new Problem('link-gone', kind.gone);
  await db(kind.table)
    .where({ id: link.id })
    .update({ last_used_at: new Date(nowMs) });
  return link;
}

/**
 * A link that still lets in whom it let in: asked at every request, so that one taken back holds nobody in.
 * Units:  milliseconds since 1970
 * Errors: Problem link-gone
 */
export async function goodLink<Link extends StoredLink>(
  db: Knex,
  kind: LinkKind<Link>,
  {
    linkId,
    isOwn,
    nowMs,
  }: { readonly linkId: string; readonly isOwn: (link: Link) => boolean; readonly nowMs: number },
): Promise<Link> {
  const link = await kind.find(db, linkId);
  if (!link || !isOwn(link) || !isGood(link, nowMs)) throw new Problem('link-gone', kind.gone);
  return link;
}

function isGood({ revoked_at: revoked, expires_at: expires }: StoredLink, nowMs: number): boolean {
  return revoked === null && expires.getTime() > nowMs;
}
