/**
 * Now, and later than the reps before: an instant is never the same twice, so that the order of reps is that of playing.
 * Shape:  ISO 8601 in UTC
 * Units:  milliseconds since 1970
 */
export function instantAfter(lastAtMs: number | null, waiting: readonly { readonly at: string }[]): string {
  const lastMs = Math.max(lastAtMs ?? 0, ...waiting.map(({ at }) => Date.parse(at)));
  return new Date(Math.max(Date.now(), lastMs + 1)).toISOString();
}
