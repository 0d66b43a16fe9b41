import { PAGE_LIMITS } from '@vivid-cue/core/page';
import { raw, type Express, type Request, type RequestHandler, type Response } from 'express';
import type { Knex } from 'knex';
import { RECORD_BYTES, ROUTES, TAKE_LIMITS, type RouteAccess, type RouteName } from '@vivid-cue/contract';
import { SCORE_LIMITS } from '@vivid-cue/core/score';
import type { Config } from '../config.js';
import type { Studio } from '../db/studio.js';
import { callerOf, signedIn } from './session-guard.js';

/** What every handler may use; time comes from outside so that tests hold it still. */
export interface Deps {
  readonly db: Knex;
  readonly config: Config;
  /** Units: milliseconds since 1970. */
  readonly now: () => number;
  /** Refuses a route to who came by no personal link, or by one that was taken back. */
  readonly deskGuard: RequestHandler;
  /** The same for listeners. */
  readonly listenerGuard: RequestHandler;
}

/** A route's own work: parse, call one service function, reply. */
export type Handler = (deps: Deps, request: Request, response: Response) => Promise<void> | void;

/** The handlers of some routes, by name. */
export type Handlers<Name extends RouteName> = Readonly<Record<Name, Handler>>;

/**
 * The studio of the caller.
 * Errors: Problem signed-out
 */
export function studioOf(deps: Deps, request: Request): Studio {
  return { db: deps.db, id: callerOf(request).studioId };
}

/** What keeps others from a route, by who may call it. */
const GUARDS: Readonly<Record<RouteAccess, (deps: Deps) => readonly RequestHandler[]>> = {
  open: () => [],
  instructor: () => [signedIn],
  student: ({ deskGuard }) => [deskGuard],
  listener: ({ listenerGuard }) => [listenerGuard],
};

/** Mounts every route of the contract's table; a missing handler does not compile. */
export function mountRoutes(app: Express, deps: Deps, handlers: Handlers<RouteName>): void {
  const scoreBytes = raw({ type: () => true, limit: SCORE_LIMITS.fileBytes });
  const pageBytes = raw({ type: () => true, limit: PAGE_LIMITS.fileBytes });
  const takeBytes = raw({ type: () => true, limit: TAKE_LIMITS.chunkBytes });
  const recordBytes = raw({ type: () => true, limit: RECORD_BYTES });
  for (const [name, route] of Object.entries(ROUTES) as [RouteName, (typeof ROUTES)[RouteName]][]) {
    const guards: RequestHandler[] = [...GUARDS[route.access](deps)];
    if (name === 'uploadScore') guards.push(scoreBytes);
    if (name === 'keepPage') guards.push(pageBytes);
    if (name === 'keepTakeChunk' || name === 'keepDeskTakeChunk') guards.push(takeBytes);
    if (name === 'importRecord') guards.push(recordBytes);
    const method = route.method.toLowerCase() as 'get' | 'post' | 'put' | 'delete';
    app[method](route.path, ...guards, (request, response) => handlers[name](deps, request, response));
  }
}
