/** Letters and digits of a code: none that is taken for another. */
export const CODE_LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';
/** So many of them make a code. */
export const CODE_LENGTH = 8;

/** A code as it is compared: lower case, without spaces and dashes. */
export function plainCode(code: string): string {
  return code.toLowerCase().replace(/[^a-z0-9]/gu, '');
}
