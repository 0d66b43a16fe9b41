/**
 * A short mark of a text: equal texts have equal marks, and different ones almost always different.
 * Shape:  16 hexadecimal digits
 * Source: FNV-1a of Fowler, Noll and Vo (IETF draft-eastlake-fnv), two 32-bit runs with different starts
 */
export function hashText(text: string): string {
  let [first, second] = [0x811c9dc5, 0x01234567];
  for (let n = 0; n < text.length; n += 1) {
    const code = text.charCodeAt(n);
    first = Math.imul(first ^ code, 0x01000193);
    second = Math.imul(second ^ code, 0x01000193);
  }
  return [first, second].map((half) => (half >>> 0).toString(16).padStart(8, '0')).join('');
}
