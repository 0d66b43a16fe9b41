import type { Request } from 'express';
import { ValidationError, type InferType, type Schema } from 'yup';
import {
  fieldIssuesOf,
  idField,
  ROUTE_INPUTS,
  versionSchema,
  type BodyOf,
  type BodyRoute,
  type QueryOf,
  type QueryRoute,
} from '@vivid-cue/contract';
import { notFound, Problem } from './problem.js';

/**
 * The request's JSON body, checked against what the contract says the route takes. Text is trimmed first; nothing else is
 * coerced.
 * Errors: Problem input-invalid with every field's issue
 */
export function bodyOf<Name extends BodyRoute>(request: Request, route: Name): BodyOf<Name> {
  const { body }: { readonly body: Schema } = ROUTE_INPUTS[route];
  return checked(body, trimmed(request.body), true) as BodyOf<Name>;
}

/**
 * The request's query, checked; texts are coerced to what the schema wants.
 * Errors: Problem input-invalid
 */
export function queryOf<Name extends QueryRoute>(request: Request, route: Name): QueryOf<Name> {
  const { query }: { readonly query: Schema } = ROUTE_INPUTS[route];
  return checked(query, { ...request.query }, false) as QueryOf<Name>;
}

function checked<S extends Schema>(schema: S, value: unknown, strict: boolean): InferType<S> {
  try {
    return schema
      .required('The request is empty.')
      .validateSync(value, { strict, abortEarly: false }) as InferType<S>;
  } catch (error) {
    if (!(error instanceof ValidationError))
      // What came has another shape than anything that can be put in words.
      throw new Problem('input-invalid', UNREADABLE, { issues: [{ where: '', message: UNREADABLE }] });
    const list = fieldIssuesOf(error);
    throw new Problem(
      'input-invalid',
      list
        .map(({ message }) => message)
        .slice(0, 3)
        .join(' '),
      { issues: list },
    );
  }
}

/** Spaces at the ends of a password are part of it. */
const PASSWORDS: ReadonlySet<string> = new Set(['password', 'current', 'next']);
const UNREADABLE = 'What was sent has a field that cannot be read; reload the page and try again.';
/** Nothing that is sent is nested so deep. */
const MOST_DEPTH = 24;

/** Signs that no database keeps as they are: the end of a text within it, and halves of letters. */
const UNKEPT = /[\0\p{Cs}]/u;

function kept(text: string): string {
  if (!UNKEPT.test(text)) return text;
  const message = 'A text has characters in it that cannot be kept; type it anew instead of pasting it.';
  throw new Problem('input-invalid', message, { issues: [{ where: '', message }] });
}

function trimmed(value: unknown, depth = 0): unknown {
  if (typeof value === 'string') return kept(value).trim();
  if (depth > MOST_DEPTH)
    throw new Problem(
      'json-broken',
      'The request is nested too deep to be read; reload the page and try again.',
    );
  if (Array.isArray(value)) return value.map((one) => trimmed(one, depth + 1));
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, inner]) => [
      key,
      PASSWORDS.has(key) ? inner : trimmed(inner, depth + 1),
    ]),
  );
}

/**
 * JSON of another shape than a route's body, checked as one.
 * Errors: Problem input-invalid
 */
export function checkedInput<S extends Schema>(schema: S, value: unknown): InferType<S> {
  return checked(schema, trimmed(value), true);
}

/**
 * An identifier from the path; one that is none is answered like one that is not there.
 * Shape:  UUID version 7
 * Errors: Problem not-found
 */
export function idFrom(request: Request, name: string, what: string): string {
  const id = request.params[name];
  if (typeof id !== 'string' || !idField.isValidSync(id, { strict: true })) throw notFound(what);
  return id;
}

/**
 * The version that an edit was made on.
 * Shape:  1 or more
 * Errors: Problem version-missing
 * Source: RFC 9110, If-Match
 */
export function versionOf(request: Request): number {
  const tag = /^"?(\d{1,9})"?$/u.exec(request.get('If-Match') ?? '')?.[1];
  if (tag === undefined || !versionSchema.isValidSync(Number(tag))) {
    throw new Problem(
      'version-missing',
      'The edit does not say which version it changes; reload the page and try again.',
    );
  }
  return Number(tag);
}
