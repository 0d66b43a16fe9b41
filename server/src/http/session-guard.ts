import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import type { Request, RequestHandler, Response } from 'express';
import { Problem } from './problem.js';

/** A student who came by a personal link. */
export interface DeskIdentity {
  readonly studioId: string;
  readonly studentId: string;
  readonly linkId: string;
}

/** A listener who came by a link to one mock day. */
export interface ListenerIdentity {
  readonly studioId: string;
  readonly mockId: string;
  readonly listenerId: string;
}

declare module 'express-session' {
  interface SessionData {
    userId: string;
    studioId: string;
    /** Who came by a personal link. */
    desk: DeskIdentity;
    /** Who came to listen. */
    listener: ListenerIdentity;
    /** When it ends, whatever is done meanwhile. Units: milliseconds since 1970 */
    endsAtMs: number;
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

/**
 * The student at the desk.
 * Errors: Problem signed-out
 */
export function deskCallerOf(request: Request): DeskIdentity {
  const { desk } = request.session;
  if (desk === undefined)
    throw new Problem(
      'signed-out',
      'Open your desk by your own link; what you logged on this device is kept.',
    );
  return desk;
}

/**
 * The listener of a mock day.
 * Errors: Problem signed-out
 */
export function listenerOf(request: Request): ListenerIdentity {
  const { listener } = request.session;
  if (listener === undefined)
    throw new Problem('signed-out', 'Open the day by your own link and its code; what you gave is kept.');
  return listener;
}

/** Refuses a route to everybody who is not signed in. */
export const signedIn: RequestHandler = (request, _response, next) => {
  callerOf(request);
  next();
};

/** How cookies are set. Shape: `isSecure` where browsers come over TLS */
export interface TokenOptions {
  readonly secret: string;
  readonly isSecure: boolean;
}

const VISITOR = 'vivid-cue-visitor';
const VISITOR_COOKIE = new RegExp(`(?:^|;\\s*)${VISITOR}=([\\w-]{32})(?:;|$)`, 'u');

/** What a visitor who is not signed in carries instead of a session, so that nothing is stored of visitors. */
function visitorOf(request: Request): string | null {
  return VISITOR_COOKIE.exec(request.get('Cookie') ?? '')?.[1] ?? null;
}

/**
 * The token that changing requests of this browser must carry: bound to the session of who is signed in, to a cookie that
 * scripts cannot read otherwise.
 * Shape:  32 bytes in base64url
 * Source: OWASP, signed double-submit cookie (from memory)
 */
export function csrfTokenOf(
  request: Request,
  response: Response,
  { secret, isSecure }: TokenOptions,
): string {
  if (isKnown(request)) return tokenFor(secret, `session ${request.sessionID}`);
  const known = visitorOf(request);
  const visitor = known ?? randomBytes(24).toString('base64url');
  if (known === null)
    response.cookie(VISITOR, visitor, { httpOnly: true, sameSite: 'lax', secure: isSecure, path: '/' });
  return tokenFor(secret, `visitor ${visitor}`);
}

/** Whether the session is an instructor's, a student's or a listener's. */
function isKnown({ session }: Request): boolean {
  return session.userId !== undefined || session.desk !== undefined || session.listener !== undefined;
}

function tokenFor(secret: string, whose: string): string {
  return createHmac('sha256', secret).update(`csrf ${whose}`).digest('base64url');
}

/** Refuses a changing request that does not carry the token of its session or visitor. */
export function csrfGuard(secret: string): RequestHandler {
  return (request, _response, next) => {
    if (request.method === 'GET' || request.method === 'HEAD') {
      next();
      return;
    }
    const visitor = visitorOf(request);
    const whose = isKnown(request) ? `session ${request.sessionID}` : visitor && `visitor ${visitor}`;
    const expected = Buffer.from(whose === null ? '' : tokenFor(secret, whose));
    const came = Buffer.from(request.get('X-CSRF-Token') ?? '');
    if (expected.length === 0 || expected.length !== came.length || !timingSafeEqual(expected, came))
      throw new Problem('csrf', 'This page is out of date; reload it and try again.');
    next();
  };
}
