import { ValidationError } from 'yup';

/** Every code a problem answer can carry; closed, so that a misspelt one does not compile. */
export type ProblemCode =
  | 'input-invalid'
  | 'json-broken'
  | 'signed-out'
  | 'sign-in-wrong'
  | 'link-wrong'
  | 'link-gone'
  | 'csrf'
  | 'not-found'
  | 'version-stale'
  | 'version-missing'
  | 'account-refused'
  | 'studio-removed'
  | 'unavailable'
  | 'storage-full'
  | 'proxy-silent'
  | 'too-many'
  | 'too-large'
  | 'score-refused'
  | 'score-missing'
  | 'page-refused'
  | 'take-refused'
  | 'span-refused'
  | 'target-missing'
  | 'id-taken'
  | 'server-fault';

/**
 * What is wrong with one field.
 * Shape:  `where` is the field's path, such as deadlines[0].date
 */
export interface FieldIssue {
  readonly where: string;
  readonly message: string;
}

/**
 * The body of every refused request.
 * Shape:  `detail` is a sentence a person can act on; `current` is the row as it stands, for a stale edit
 * Source: RFC 9457, problem details for HTTP APIs
 */
export interface ProblemDetails {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail: string;
  readonly code: ProblemCode;
  readonly issues?: readonly FieldIssue[];
  readonly current?: unknown;
}

/** Media type of a problem answer. Source: RFC 9457, clause 3. */
export const PROBLEM_TYPE = 'application/problem+json';

/**
 * What a failed validation says of each field: the same on both sides of the wire.
 * Shape:  at least one issue
 * Errors: throws on anything that is no ValidationError of Yup
 */
export function fieldIssuesOf(error: unknown): readonly FieldIssue[] {
  if (!(error instanceof ValidationError)) throw error;
  const all = error.inner.length > 0 ? error.inner : [error];
  return all.map((issue) => ({ where: issue.path ?? '', message: issue.errors[0] ?? 'This is not right.' }));
}
