import { once } from 'node:events';
import type { Request, Response } from 'express';
import type { TakeForm } from '@vivid-cue/contract/take-limits';
import { TAKE_LIMITS } from '@vivid-cue/contract';
import type { Studio } from '../db/studio.js';
import { notFound } from '../http/problem.js';
import { chunkOf, formsOf } from './repository.js';

/** Which bytes are asked for, both ends with. */
interface Range {
  readonly from: number;
  readonly to: number;
}

/**
 * The one range that a header asks for.
 * Shape:  null for the whole; 'none' for one that does not lie in it
 * Units:  bytes
 * Source: RFC 9110, 14.1.2; several ranges are answered with the whole, as it allows
 */
export function rangeOf(header: string | undefined, bytes: number): Range | null | 'none' {
  const [, first = '', last = ''] = /^bytes=(\d{0,12})-(\d{0,12})$/u.exec(header?.trim() ?? '') ?? [];
  if (first === '' && last === '') return null;
  const from = first === '' ? Math.max(0, bytes - Number(last)) : Number(first);
  const to = first === '' || last === '' ? bytes - 1 : Math.min(Number(last), bytes - 1);
  return from > to || from >= bytes ? 'none' : { from, to };
}

/**
 * Sends a form of a take, whole or by ranges, piece by piece.
 * Errors: Problem not-found while not all of it has come
 */
export async function sendSound(
  studio: Studio,
  { takeId, form }: { readonly takeId: string; readonly form: TakeForm },
  { request, response }: { readonly request: Request; readonly response: Response },
): Promise<void> {
  const stored = (await formsOf(studio, [takeId])).find((one) => one.form === form);
  if (!stored) throw notFound('take');
  const range = rangeOf(request.get('Range'), stored.bytes);
  response.set({
    'Accept-Ranges': 'bytes',
    'Cache-Control': 'private, max-age=3600',
    'Content-Disposition': `${form === 'sound' ? 'inline' : 'attachment'}; filename="take"`,
    'Content-Security-Policy': "default-src 'none'; sandbox",
    'Content-Type': stored.kind,
  });
  if (range === 'none') {
    response.status(416).set('Content-Range', `bytes */${stored.bytes}`).end();
    return;
  }
  const { from, to } = range ?? { from: 0, to: stored.bytes - 1 };
  if (range) response.status(206).set('Content-Range', `bytes ${from}-${to}/${stored.bytes}`);
  response.set('Content-Length', String(to - from + 1));
  const size = TAKE_LIMITS.chunkBytes;
  for (let n = Math.floor(from / size); n * size <= to; n += 1) {
    const data = await chunkOf(studio, { takeId, form, n });
    if (!data || response.destroyed) {
      response.destroy();
      return;
    }
    const piece = data.subarray(Math.max(0, from - n * size), to - n * size + 1);
    if (!response.write(piece)) await Promise.race([once(response, 'drain'), once(response, 'close')]);
  }
  response.end();
}
