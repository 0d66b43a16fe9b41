import { createHmac, randomInt, timingSafeEqual } from 'node:crypto';
import { CODE_LENGTH, CODE_LETTERS, plainCode } from '@vivid-cue/contract';

/** What a code is for, so that the hash of one is never that of another. */
export type CodePurpose = 'desk' | 'listening';

/** A code beside the link that it opens. */
export interface LinkCode {
  readonly purpose: CodePurpose;
  readonly linkId: string;
  readonly code: string;
}

/** A fresh code. Shape: letters and digits without a dash */
export function freshCode(): string {
  return Array.from({ length: CODE_LENGTH }, () => CODE_LETTERS[randomInt(CODE_LETTERS.length)]).join('');
}

/** A code as it is shown: in two halves. */
export function shownCode(code: string): string {
  return `${code.slice(0, 4)}-${code.slice(4)}`;
}

/** What is stored of a code. Shape: 64 hexadecimal letters, keyed with the server's secret */
export function codeHash(secret: string, { purpose, linkId, code }: LinkCode): string {
  return createHmac('sha256', secret)
    .update(`${purpose} ${linkId} ${plainCode(code)}`)
    .digest('hex');
}

/** Whether a code is the one that is stored; one that is not there takes as long. */
export function isCode(secret: string, stored: string | undefined, code: LinkCode): boolean {
  const none = { purpose: code.purpose, linkId: 'none', code: 'none' };
  const expected = Buffer.from(stored ?? codeHash(secret, none));
  const isSame = timingSafeEqual(expected, Buffer.from(codeHash(secret, code)));
  return isSame && stored !== undefined;
}
