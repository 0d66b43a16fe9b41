import type { Request } from 'express';
import { type SessionView } from '@vivid-cue/contract';
import type { Handlers } from '../http/mount.js';
import { csrfTokenOf } from '../http/session-guard.js';
import { bodyOf } from '../http/validate.js';
import { accountById, type Account } from './repository.js';
import { checkSignIn, openStudio } from './service.js';

/** Who am I, sign in, sign out, open a studio. */
export const sessionHandlers: Handlers<'readSession' | 'signIn' | 'signOut' | 'createAccount'> = {
  async readSession({ db, config }, request, response) {
    const { studioId, userId } = request.session;
    const account =
      studioId !== undefined && userId !== undefined ? await accountById(db, studioId, userId) : null;
    response.json(view(request, account, config.demo));
  },
  async signIn({ db, config }, request, response) {
    const account = await checkSignIn(db, bodyOf(request, 'signIn'));
    await startSession(request, account);
    response.json(view(request, account, config.demo));
  },
  async createAccount({ db, config, now }, request, response) {
    const account = await openStudio(db, bodyOf(request, 'createAccount'), new Date(now()));
    await startSession(request, account);
    response.status(201).json(view(request, account, config.demo));
  },
  async signOut(_deps, request, response) {
    await new Promise<void>((done, failed) => {
      request.session.destroy((error: unknown) => (error ? failed(error as Error) : done()));
    });
    response.clearCookie('vivid-cue').status(204).end();
  },
};

function view(request: Request, account: Account | null, demo: SessionView['demo']): SessionView {
  const instructor = account && {
    studioId: account.studioId,
    name: account.name,
    studioName: account.studioName,
    zone: account.zone,
    vocabulary: account.vocabulary,
  };
  return { csrfToken: csrfTokenOf(request), instructor, demo };
}

/** A fresh session identifier at sign-in, so that a planted one is worth nothing. */
async function startSession(request: Request, account: Account): Promise<void> {
  await new Promise<void>((done, failed) => {
    request.session.regenerate((error: unknown) => (error ? failed(error as Error) : done()));
  });
  request.session.userId = account.userId;
  request.session.studioId = account.studioId;
}
