import type { Request, RequestHandler, Response } from 'express';
import type { Knex } from 'knex';
import type { ListeningSessionView } from '@vivid-cue/contract';
import { addressOf } from '../http/address.js';
import { freshSession } from '../http/fresh-session.js';
import type { Deps, Handlers } from '../http/mount.js';
import { Problem } from '../http/problem.js';
import { csrfTokenOf, listenerOf } from '../http/session-guard.js';
import { bodyOf, idFrom, queryOf } from '../http/validate.js';
import { sendSound } from '../takes/send-sound.js';
import { enterListening, givenTake, goodListener, keepGiven, listeningView } from './listening.js';
import type { ListenerRow } from './repository.js';

/**
 * Lets in who came by a listener's link that is still good.
 * Errors: Problem signed-out, link-gone
 */
export function listenerGuard({
  db,
  now,
}: {
  readonly db: Knex;
  readonly now: () => number;
}): RequestHandler {
  return async (request, _response, next) => {
    try {
      await goodListener(db, listenerOf(request), now());
    } catch (error) {
      if (error instanceof Problem && error.code === 'link-gone') delete request.session.listener;
      throw error;
    }
    next();
  };
}

async function here(
  { db, now }: Deps,
  request: Request,
): Promise<{ readonly studio: { readonly db: Knex; readonly id: string }; readonly listener: ListenerRow }> {
  const listener = await goodListener(db, listenerOf(request), now());
  return { studio: { db, id: listener.studio_id }, listener };
}

async function sessionView(deps: Deps, request: Request, response: Response): Promise<ListeningSessionView> {
  const identity = request.session.listener;
  const listener = identity && (await goodListener(deps.db, identity, deps.now()).catch(() => null));
  const csrfToken = csrfTokenOf(request, response, {
    secret: deps.config.sessionSecret,
    isSecure: deps.config.isBehindTls,
  });
  return { csrfToken, listener: listener ? { id: listener.id, name: listener.name } : null };
}

/** What a listener hears and gives. */
export const listeningHandlers: Handlers<
  | 'readListenerSession'
  | 'enterListening'
  | 'leaveListening'
  | 'readListening'
  | 'keepListenerScore'
  | 'readListenedSound'
> = {
  async readListenerSession(deps, request, response) {
    response.json(await sessionView(deps, request, response));
  },
  async enterListening(deps, request, response) {
    const identity = await enterListening(deps.db, bodyOf(request, 'enterListening'), {
      secret: deps.config.sessionSecret,
      address: addressOf(request),
      nowMs: deps.now(),
    });
    await freshSession(request, deps.now());
    request.session.listener = identity;
    response.json(await sessionView(deps, request, response));
  },
  leaveListening(_deps, request, response) {
    delete request.session.listener;
    response.status(204).end();
  },
  async readListening(deps, request, response) {
    const { studio, listener } = await here(deps, request);
    response.json(await listeningView(studio, listener));
  },
  async keepListenerScore(deps, request, response) {
    const { studio, listener } = await here(deps, request);
    const score = bodyOf(request, 'keepListenerScore');
    await keepGiven(studio, listener, { score, nowMs: deps.now() });
    response.json({});
  },
  async readListenedSound(deps, request, response) {
    const { studio, listener } = await here(deps, request);
    const takeId = idFrom(request, 'takeId', 'take');
    const { form } = queryOf(request, 'readListenedSound');
    await givenTake(studio, listener.mock_id, takeId);
    await sendSound(studio, { takeId, form }, { request, response });
  },
};
