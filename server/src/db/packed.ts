import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';

/** A file as it is stored: scores are text that says the same again and again. */
export function packed(bytes: Uint8Array): Promise<Buffer> {
  return promisify(gzip)(bytes);
}

/** A stored file as it came; one of before files were packed is as it is. Source: RFC 1952, clause 2.3.1, the first two bytes */
export async function unpacked(stored: Buffer): Promise<Buffer> {
  return stored[0] === 0x1f && stored[1] === 0x8b ? promisify(gunzip)(stored) : stored;
}
