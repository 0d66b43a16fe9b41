import type { FieldIssue, ProblemCode } from '@vivid-cue/contract';

/** A refused request: thrown by services, answered by the one error middleware. */
export class Problem extends Error {
  override readonly name = 'Problem';
  constructor(
    readonly code: ProblemCode,
    detail: string,
    readonly more: {
      readonly issues?: readonly FieldIssue[];
      readonly current?: unknown;
      readonly retryAfterSeconds?: number;
    } = {},
  ) {
    super(detail);
  }
}

/** The refusal of a write while the disk is full. Errors: is one */
export function noRoom(retryAfterSeconds: number): Problem {
  return new Problem(
    'storage-full',
    'The server has no room left, so nothing was changed. What you entered is still on this page; whoever runs the server must make room.',
    { retryAfterSeconds },
  );
}

/**
 * The answer for a row that is not there, or is another studio's: the two must look alike.
 * Errors: is one
 */
export function notFound(what: string): Problem {
  return new Problem(
    'not-found',
    `This ${what} is not here; it may have been removed. Go back and open it again from the list.`,
  );
}
