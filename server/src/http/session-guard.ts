import { randomBytes, timingSafeEqual } from 'node:crypto';
import type { Request, RequestHandler } from 'express';
import { Problem } from './problem.js';

declare module 'express-session' {
  interface SessionData {
    csrfToken: string;
    userId: string;
    studioId: string;
  }
}

/** Who calls: the signed-in instructor's own identifiers. */
export interface Caller {
  readonly userId: string;
  readonly studioId: string;
}

/**
 * The signed-in instructor.
 * Errors: Problem signed-out
 */
export function callerOf(request: Request): Caller {
  const { userId, studioId } = request.session;
  if (userId === undefined || studioId === undefined)
    throw new Problem(
      'signed-out',
      'You are signed out; sign in again. What you entered is still on this page.',
    );
  return { userId, studioId };
}

/** Refuses a route to everybody who is not signed in. */
export const signedIn: RequestHandler = (request, _response, next) => {
  callerOf(request);
  next();
};

/**
 * The token of this session, made on first need.
 * Shape:  32 random bytes in base64url
 * Source: OWASP, synchronizer token pattern (from memory)
 */
export function csrfTokenOf(request: Request): string {
  request.session.csrfToken ??= randomBytes(32).toString('base64url');
  return request.session.csrfToken;
}

/** Refuses a changing request that does not carry its session's token. */
export const csrfGuard: RequestHandler = (request, _response, next) => {
  if (request.method === 'GET' || request.method === 'HEAD') {
    next();
    return;
  }
  const expected = Buffer.from(request.session.csrfToken ?? '');
  const came = Buffer.from(request.get('X-CSRF-Token') ?? '');
  if (expected.length === 0 || expected.length !== came.length || !timingSafeEqual(expected, came)) {
    throw new Problem('csrf', 'This page is out of date; reload it and try again.');
  }
  next();
};
