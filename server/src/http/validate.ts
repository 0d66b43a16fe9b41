import type { Request } from 'express';
import type { InferType, Schema } from 'yup';
import { fieldIssuesOf, idField, versionSchema } from '@vivid-cue/contract';
import { notFound, Problem } from './problem.js';

/**
 * The request's JSON body, checked against a schema of the contract. Text is trimmed first; nothing else is coerced.
 * Shape:  as the schema
 * Errors: Problem input-invalid with every field's issue
 */
export function bodyOf<S extends Schema>(request: Request, schema: S): InferType<S> {
  return checked(schema, trimmed(request.body), true);
}

/**
 * The request's query, checked; texts are coerced to what the schema wants.
 * Shape:  as the schema
 * Errors: Problem input-invalid
 */
export function queryOf<S extends Schema>(request: Request, schema: S): InferType<S> {
  return checked(schema, { ...request.query }, false);
}

function checked<S extends Schema>(schema: S, value: unknown, strict: boolean): InferType<S> {
  try {
    return schema
      .required('The request is empty.')
      .validateSync(value, { strict, abortEarly: false }) as InferType<S>;
  } catch (error) {
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

function trimmed(value: unknown): unknown {
  if (typeof value === 'string') return value.trim();
  if (Array.isArray(value)) return value.map(trimmed);
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, inner]) => [key, key === 'password' ? inner : trimmed(inner)]),
  );
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
