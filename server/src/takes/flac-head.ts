/** What a FLAC stream says of itself. Units: samples a second, seconds */
export interface FlacHead {
  readonly rate: number;
  readonly channels: number;
  readonly bits: number;
  readonly seconds: number;
}

/** "fLaC", the head of a metadata block, and STREAMINFO. Units: bytes */
export const FLAC_HEAD_BYTES = 42;

/**
 * Reads the first block of a FLAC stream.
 * Shape:  null where the bytes are no FLAC stream that tells its length
 * Source: RFC 9639, 8.1 and 8.2: STREAMINFO has 20 bits of rate, 3 of channels less one, 5 of bits less one, 36 of samples
 */
export function flacHead(bytes: Buffer): FlacHead | null {
  if (bytes.length < FLAC_HEAD_BYTES || bytes.toString('latin1', 0, 4) !== 'fLaC') return null;
  // The first block is STREAMINFO, of type 0 and 34 bytes, whether it is the last one or not.
  if (((bytes[4] ?? 0) & 0x7f) !== 0 || bytes.readUIntBE(5, 3) !== 34) return null;
  const packed = bytes.readBigUInt64BE(18);
  const rate = Number(packed >> 44n);
  const samples = Number(packed & 0xfffffffffn);
  if (rate === 0 || samples === 0) return null;
  return {
    rate,
    channels: Number((packed >> 41n) & 7n) + 1,
    bits: Number((packed >> 36n) & 31n) + 1,
    seconds: samples / rate,
  };
}
