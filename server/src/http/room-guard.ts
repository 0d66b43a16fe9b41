import { statfs } from 'node:fs/promises';
import type { RequestHandler } from 'express';
import type { Knex } from 'knex';
import { noRoom } from './problem.js';

/** So much stays free: a database that cannot write any more may end. Units: bytes (our own) */
const LEAST_ROOM = 64 * 1024 * 1024;
/** What was measured holds so long. Units: milliseconds */
const FRESH_MS = 2000;
/** Room is not made in a moment. Units: seconds (our own) */
const AGAIN_SECONDS = 30;

/**
 * Refuses to write while the disk of the database is nearly full, and takes writes again once there is room. A database
 * on another machine is not looked at.
 * Errors: Problem storage-full
 */
export function roomGuard(db: Knex): RequestHandler {
  let known: { readonly isFull: boolean; readonly atMs: number } | null = null;
  let folder: Promise<string> | null = null;
  const isFull = async (): Promise<boolean> => {
    if (known && performance.now() - known.atMs < FRESH_MS) return known.isFull;
    folder ??= dataFolder(db);
    const isNow = await folder.then(hasNoRoom).catch(() => {
      folder = null;
      return false;
    });
    known = { isFull: isNow, atMs: performance.now() };
    return isNow;
  };
  return async (request, _response, next) => {
    // Taking away makes room.
    const isWrite = request.method === 'POST' || request.method === 'PUT';
    if (isWrite && (await isFull())) throw noRoom(AGAIN_SECONDS);
    next();
  };
}

async function dataFolder(db: Knex): Promise<string> {
  const [[row]] = (await db.raw('SELECT @@datadir AS folder')) as [{ readonly folder: string }[]];
  return row?.folder ?? '';
}

async function hasNoRoom(folder: string): Promise<boolean> {
  const { bavail, bsize } = await statfs(folder);
  return bavail * bsize < LEAST_ROOM;
}
