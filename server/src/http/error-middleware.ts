import type { ErrorRequestHandler, RequestHandler } from 'express';
import type { Logger } from 'pino';
import { PROBLEM_TYPE, type ProblemCode, type ProblemDetails } from '@vivid-cue/contract';
import { Problem } from './problem.js';

/** The only table of problem code to status and title. Source: RFC 9110 for the status codes. */
const STATUS: Readonly<Record<ProblemCode, readonly [status: number, title: string]>> = {
  'input-invalid': [422, 'Something in the form needs another look'],
  'json-broken': [400, 'The request could not be read'],
  'signed-out': [401, 'Signed out'],
  'sign-in-wrong': [401, 'Not signed in'],
  csrf: [403, 'The page is out of date'],
  'not-found': [404, 'Not here'],
  'version-stale': [409, 'Changed elsewhere'],
  'version-missing': [428, 'Version missing'],
  'email-taken': [409, 'E-mail address in use'],
  'id-taken': [409, 'Identifier in use'],
  'too-many': [429, 'Too many tries'],
  'too-large': [413, 'Too large'],
  'deadline-past': [422, 'Date in the past'],
  'score-refused': [422, 'Score not read'],
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
  return (error: unknown, _request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const problem = asProblem(error);
    if (problem.code === 'server-fault')
      logger.error({ kind: (error as Error).name, stack: (error as Error).stack }, 'fault');
    const [status, title] = STATUS[problem.code];
    const body: ProblemDetails = {
      type: `urn:vivid-cue:problem:${problem.code}`,
      title,
      status,
      detail: problem.message,
      code: problem.code,
      ...problem.more,
    };
    response.status(status).type(PROBLEM_TYPE).send(JSON.stringify(body));
  };
}

function asProblem(error: unknown): Problem {
  if (error instanceof Problem) return error;
  const type = (error as { type?: unknown }).type;
  if (type === 'entity.too.large')
    return new Problem('too-large', 'What was sent is larger than allowed; a score file has at most 10 MB.');
  if (type === 'entity.parse.failed' || type === 'encoding.unsupported' || type === 'charset.unsupported') {
    return new Problem('json-broken', 'The request is not readable JSON; reload the page and try again.');
  }
  if ((error as { code?: unknown }).code === 'ER_DUP_ENTRY') {
    return new Problem(
      'id-taken',
      'Something with this identifier exists already; reload the page and try again.',
    );
  }
  if (error instanceof URIError || type === 'request.aborted' || type === 'request.size.invalid') {
    return new Problem('json-broken', 'The request arrived broken; try again.');
  }
  return new Problem(
    'server-fault',
    'Something went wrong on our side; what you entered is still on this page. Try again in a moment.',
  );
}
