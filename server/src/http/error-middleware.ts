import type { ErrorRequestHandler, Request, RequestHandler } from 'express';
import type { Logger } from 'pino';
import {
  PROBLEM_TYPE,
  RECORD_BYTES,
  RECORD_TOO_LARGE,
  type ProblemCode,
  type ProblemDetails,
} from '@vivid-cue/contract';
import { SCORE_LIMITS } from '@vivid-cue/core/score';
import { databaseTrouble, type DatabaseTrouble } from '../db/trouble.js';
import { noRoom, Problem } from './problem.js';

/** The only table of problem code to status and title. Source: RFC 9110 for the status codes. */
const STATUS: Readonly<Record<ProblemCode, readonly [status: number, title: string]>> = {
  'input-invalid': [422, 'Something in the form needs another look'],
  'json-broken': [400, 'The request could not be read'],
  'signed-out': [401, 'Signed out'],
  'sign-in-wrong': [401, 'Not signed in'],
  'link-wrong': [401, 'Not the code'],
  'link-gone': [401, 'Link taken back'],
  csrf: [403, 'The page is out of date'],
  'not-found': [404, 'Not here'],
  'version-stale': [409, 'Changed elsewhere'],
  'version-missing': [428, 'Version missing'],
  'account-refused': [422, 'Not opened'],
  'studio-removed': [409, 'Studio removed'],
  unavailable: [503, 'Not now'],
  'storage-full': [503, 'No room'],
  'proxy-silent': [500, 'Set up wrongly'],
  'id-taken': [409, 'Identifier in use'],
  'too-many': [429, 'Too many tries'],
  'too-large': [413, 'Too large'],
  'score-refused': [422, 'Score not read'],
  'page-refused': [422, 'Page not kept'],
  'take-refused': [422, 'Take not kept'],
  'score-missing': [409, 'No score yet'],
  'span-refused': [422, 'Span not in the piece'],
  'target-missing': [409, 'No target tempo yet'],
  'server-fault': [500, 'A fault on our side'],
};

/** Answers requests that no route took. */
export const noSuchRoute: RequestHandler = () => {
  throw new Problem('not-found', 'There is nothing at this address.');
};

/**
 * Turns every error into an RFC 9457 answer; anything unexpected is logged without request data and told as a fault.
 * Source: RFC 9457
 */
export function problemAnswers(logger: Logger): ErrorRequestHandler {
  // Express knows what answers errors by its four parameters.
  // eslint-disable-next-line max-params
  return (error: unknown, request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const problem = asProblem(error);
    const [status, title] = STATUS[problem.code];
    if (status >= 500) logger.error(factsOf(error, problem, request), 'fault');
    const { retryAfterSeconds, ...more } = problem.more;
    if (retryAfterSeconds !== undefined) response.set('Retry-After', String(retryAfterSeconds));
    const body: ProblemDetails = {
      type: `urn:vivid-cue:problem:${problem.code}`,
      title,
      status,
      detail: problem.message,
      code: problem.code,
      ...more,
    };
    response.status(status).type(PROBLEM_TYPE).send(JSON.stringify(body));
  };
}

/** What is logged of a fault: never what was sent, and never the text of an error, which may carry it. */
function factsOf(error: unknown, problem: Problem, request: Request): Readonly<Record<string, unknown>> {
  const { name, code, stack } = error as { name?: unknown; code?: unknown; stack?: unknown };
  const frames = typeof stack === 'string' ? stack.split('\n').filter((line) => /^\s+at /u.test(line)) : [];
  const route = request.route as { readonly path?: unknown } | undefined;
  return {
    problem: problem.code,
    kind: typeof name === 'string' ? name : typeof error,
    ...(typeof code === 'string' && { code }),
    method: request.method,
    route: route?.path ?? 'none',
    frames: frames.slice(0, 12).map((line) => line.trim()),
  };
}

/** A try again makes sense after so long. Units: seconds (our own) */
const AGAIN_SECONDS = 5;

const NOT_NOW: Readonly<Record<Exclude<DatabaseTrouble, 'full'>, string>> = {
  away: 'The database does not answer just now. What you entered is still on this page; try again in a moment.',
  busy: 'Too much is asked of the server just now. What you entered is still on this page; try again in a moment.',
};

/** What the database says of a value that no column takes. Source: MariaDB error codes */
const UNSTORABLE: ReadonlySet<string> = new Set([
  'ER_DATA_TOO_LONG',
  'ER_WARN_DATA_OUT_OF_RANGE',
  'ER_DATA_OUT_OF_RANGE',
  'ER_TRUNCATED_WRONG_VALUE',
  'ER_TRUNCATED_WRONG_VALUE_FOR_FIELD',
  'ER_NET_PACKET_TOO_LARGE',
]);

/** What is too large, by the limit that it went over. */
function tooLarge(limit: unknown): string {
  if (limit === SCORE_LIMITS.fileBytes)
    return `This file is too large; a score has at most ${SCORE_LIMITS.fileBytes / 1_048_576} MB.`;
  if (limit === RECORD_BYTES) return RECORD_TOO_LARGE;
  return 'What was sent is too large; a sheet with its published text has at most 1 MB. Leave out what holds for no student.';
}

function asProblem(error: unknown): Problem {
  if (error instanceof Problem) return error;
  const trouble = databaseTrouble(error);
  if (trouble === 'full') return noRoom(AGAIN_SECONDS);
  if (trouble) return new Problem('unavailable', NOT_NOW[trouble], { retryAfterSeconds: AGAIN_SECONDS });
  const type = (error as { type?: unknown }).type;
  if (type === 'entity.too.large')
    return new Problem('too-large', tooLarge((error as { limit?: unknown }).limit));
  if (type === 'entity.parse.failed' || type === 'encoding.unsupported' || type === 'charset.unsupported') {
    return new Problem('json-broken', 'The request is not readable JSON; reload the page and try again.');
  }
  if ((error as { code?: unknown }).code === 'ER_DUP_ENTRY') {
    return new Problem(
      'id-taken',
      'Something with this identifier exists already; reload the page and try again.',
    );
  }
  if (UNSTORABLE.has(String((error as { code?: unknown }).code)))
    return new Problem(
      'input-invalid',
      'Something that was sent is longer or larger than can be kept; shorten it and try again.',
    );
  const { status, expose } = error as { status?: unknown; expose?: unknown };
  const isSenders = typeof status === 'number' && status >= 400 && status < 500 && expose === true;
  if (
    isSenders ||
    error instanceof URIError ||
    type === 'request.aborted' ||
    type === 'request.size.invalid'
  ) {
    return new Problem('json-broken', 'The request arrived broken; try again.');
  }
  return new Problem(
    'server-fault',
    'Something went wrong on our side; what you entered is still on this page. Try again in a moment.',
  );
}
