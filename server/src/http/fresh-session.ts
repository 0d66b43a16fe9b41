import type { Request } from 'express';
import { SESSION_MS } from './session-store.js';

/**
 * A fresh session identifier for who comes by a link, so that a planted one is worth nothing; whoever else is here in this
 * browser stays.
 * Units:  milliseconds since 1970
 */
export async function freshSession(request: Request, nowMs: number): Promise<void> {
  const { userId, studioId, desk, listener, endsAtMs } = request.session;
  await new Promise<void>((done, failed) => {
    request.session.regenerate((error: unknown) => (error ? failed(error as Error) : done()));
  });
  if (userId !== undefined && studioId !== undefined) Object.assign(request.session, { userId, studioId });
  if (desk !== undefined) request.session.desk = desk;
  if (listener !== undefined) request.session.listener = listener;
  request.session.endsAtMs = endsAtMs ?? nowMs + SESSION_MS;
}
