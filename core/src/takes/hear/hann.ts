/** A window that fades at both ends. Shape: 0 at its first sample, 1 in the middle. Source: Hann's, periodic (from memory) */
export function hannWindow(length: number): Float64Array {
  return Float64Array.from({ length }, (_, n) => 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / length));
}
