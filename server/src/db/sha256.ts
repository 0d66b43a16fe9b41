import { createHash } from 'node:crypto';

/** The mark under which a secret is found again, or a file known. Shape: 64 hexadecimal digits. Source: FIPS 180-4 */
export function sha256(of: string | Uint8Array): string {
  return createHash('sha256').update(of).digest('hex');
}
