/**
 * A programmer's mistake: a promise between two pieces of our code was broken.
 * Shape:  none
 * Units:  none
 * Errors: is one
 * Source: none
 */
export class InvariantError extends Error {
  override readonly name = 'InvariantError';
}

/**
 * An outside failure: file, network or database. Keeps its cause.
 * Shape:  none
 * Units:  none
 * Errors: is one
 * Source: none
 */
export class ExternalError extends Error {
  override readonly name = 'ExternalError';
}
