/** The magnitude of a bin of a spectrum. Shape: real and imaginary parts in turn; magnitudes of sound, far from overflow */
export function magnitudeAt(spectrum: Float64Array, bin: number): number {
  const [re, im] = [spectrum[2 * bin] ?? 0, spectrum[2 * bin + 1] ?? 0];
  return Math.sqrt(re * re + im * im);
}
