/** Recorded pieces as one row of samples. Units: 16-bit samples in, -1 to 1 out */
export function joined(pieces: readonly Int16Array[]): Float32Array<ArrayBuffer> {
  const samples = new Float32Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces)
    for (const one of piece) {
      samples[at] = one / 32_768;
      at += 1;
    }
  return samples;
}
