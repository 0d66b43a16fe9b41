/**
 * A programmer's mistake: a promise between two pieces of our code was broken.
 * Errors: is one
 */
export class InvariantError extends Error {
  override readonly name = 'InvariantError';
}

/**
 * An outside failure: file, network or database. Keeps its cause.
 * Errors: is one
 */
export class ExternalError extends Error {
  override readonly name = 'ExternalError';
}

/**
 * A value that cannot be missing here, or a programmer's mistake.
 * Shape:  the value itself
 * Errors: InvariantError for null or undefined
 */
export function present<Value>(value: Value | null | undefined): Value {
  if (value === null || value === undefined)
    throw new InvariantError('A value that must be there is missing.');
  return value;
}
