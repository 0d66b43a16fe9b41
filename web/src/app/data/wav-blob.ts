const HEAD_BYTES = 44;

/**
 * Recorded pieces as a WAV file, without copying them.
 * Units:  16-bit samples of one channel; samples a second
 * Source: Microsoft and IBM, Multimedia Programming Interface 1.0, WAVE form (from memory)
 */
export function wavBlob(pieces: readonly Int16Array<ArrayBuffer>[], rate: number): Blob {
  const bytes = pieces.reduce((sum, piece) => sum + piece.byteLength, 0);
  const head = new DataView(new ArrayBuffer(HEAD_BYTES));
  const text = (at: number, letters: string): void =>
    [...letters].forEach((letter, n) => head.setUint8(at + n, letter.charCodeAt(0)));
  text(0, 'RIFF');
  head.setUint32(4, HEAD_BYTES - 8 + bytes, true);
  text(8, 'WAVEfmt ');
  head.setUint32(16, 16, true);
  head.setUint16(20, 1, true);
  head.setUint16(22, 1, true);
  head.setUint32(24, rate, true);
  head.setUint32(28, rate * 2, true);
  head.setUint16(32, 2, true);
  head.setUint16(34, 16, true);
  text(36, 'data');
  head.setUint32(40, bytes, true);
  return new Blob([head, ...pieces], { type: 'audio/wav' });
}
