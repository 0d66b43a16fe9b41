/**
 * What one thing that is wrong with a person's input says: where, which closed code, one sentence.
 * Shape:  `where` is a path or place a person recognises ("measure 12", "tempo"); "" for the whole input
 */
export interface Issue<Code extends string = string> {
  readonly code: Code;
  readonly where: string;
  readonly message: string;
}

/**
 * A value, or the issues that prevent it: never a silent default.
 * Shape:  `ok` decides which side is present; `issues` has at least one member
 */
export type Result<Value, Code extends string = string> =
  | { readonly ok: true; readonly value: Value }
  | { readonly ok: false; readonly issues: readonly Issue<Code>[] };

/** Wraps a value as a success. */
export function ok<Value>(value: Value): { readonly ok: true; readonly value: Value } {
  return { ok: true, value };
}

/** Wraps one issue as a failure. */
export function fail<Code extends string>(
  code: Code,
  where: string,
  message: string,
): { readonly ok: false; readonly issues: readonly Issue<Code>[] } {
  return { ok: false, issues: [{ code, where, message }] };
}
