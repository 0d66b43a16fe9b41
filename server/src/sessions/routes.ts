import type { Request, Response } from 'express';
import type { SessionView } from '@vivid-cue/contract';
import { addressOf } from '../http/address.js';
import type { Deps, Handlers } from '../http/mount.js';
import { callerOf, csrfTokenOf } from '../http/session-guard.js';
import { hashedSid, SESSION_MS } from '../http/session-store.js';
import { bodyOf } from '../http/validate.js';
import { accountById, type Account } from './repository.js';
import {
  changePassword,
  checkSignIn,
  openStudio,
  removeStudio,
  restoreStudio,
  type Visit,
} from './service.js';

/** Who am I, sign in, sign out, open a studio, change its password, remove it and bring it back. */
export const sessionHandlers: Handlers<
  'readSession' | 'signIn' | 'signOut' | 'createAccount' | 'changePassword' | 'removeStudio' | 'restoreStudio'
> = {
  async readSession(deps, request, response) {
    const { studioId, userId } = request.session;
    const account =
      studioId !== undefined && userId !== undefined ? await accountById(deps.db, studioId, userId) : null;
    response.json(view(deps, { request, response, account }));
  },
  async signIn(deps, request, response) {
    const account = await checkSignIn(deps.db, bodyOf(request, 'signIn'), visitOf(deps, request));
    await startSession(deps, request, account);
    response.json(view(deps, { request, response, account }));
  },
  async createAccount(deps, request, response) {
    const { db, config, now } = deps;
    const account = await openStudio(db, bodyOf(request, 'createAccount'), {
      now: new Date(now()),
      from: { address: addressOf(request), perHour: config.signUpsAnHour },
    });
    await startSession(deps, request, account);
    response.status(201).json(view(deps, { request, response, account }));
  },
  async changePassword(deps, request, response) {
    const who = { ...callerOf(request), ...visitOf(deps, request), keptSid: hashedSid(request.sessionID) };
    await changePassword(deps.db, who, bodyOf(request, 'changePassword'));
    response.status(204).end();
  },
  async removeStudio(deps, request, response) {
    const who = { ...callerOf(request), ...visitOf(deps, request) };
    await removeStudio(deps.db, who, bodyOf(request, 'removeStudio').password);
    await endSession(request);
    response.clearCookie('vivid-cue').status(204).end();
  },
  async restoreStudio(deps, request, response) {
    const account = await restoreStudio(deps.db, bodyOf(request, 'restoreStudio'), visitOf(deps, request));
    await startSession(deps, request, account);
    response.json(view(deps, { request, response, account }));
  },
  async signOut(_deps, request, response) {
    await endSession(request);
    response.clearCookie('vivid-cue').status(204).end();
  },
};

function visitOf({ now }: Deps, request: Request): Visit {
  return { address: addressOf(request), nowMs: now() };
}

function view(
  { config }: Deps,
  {
    request,
    response,
    account,
  }: { readonly request: Request; readonly response: Response; readonly account: Account | null },
): SessionView {
  const instructor = account && {
    studioId: account.studioId,
    name: account.name,
    studioName: account.studioName,
    zone: account.zone,
    vocabulary: account.vocabulary,
  };
  const csrfToken = csrfTokenOf(request, response, {
    secret: config.sessionSecret,
    isSecure: config.isBehindTls,
  });
  return { csrfToken, instructor, demo: config.demo };
}

/** A fresh session identifier at sign-in, so that a planted one is worth nothing. */
async function startSession({ now }: Deps, request: Request, account: Account): Promise<void> {
  await new Promise<void>((done, failed) => {
    request.session.regenerate((error: unknown) => (error ? failed(error as Error) : done()));
  });
  request.session.userId = account.userId;
  request.session.studioId = account.studioId;
  request.session.endsAtMs = now() + SESSION_MS;
}

function endSession(request: Request): Promise<void> {
  return new Promise<void>((done, failed) => {
    request.session.destroy((error: unknown) => (error ? failed(error as Error) : done()));
  });
}
