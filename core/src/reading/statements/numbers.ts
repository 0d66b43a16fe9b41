import { COUNT_WORDS } from '../../base/index.js';

/** Larger counts are read faster as figures. */
const LARGEST_WORD = 16;

/** A count as a word up to sixteen: "ten", "17"; "no" for none. */
export function spelledNumber(count: number): string {
  if (count === 0) return 'no';
  return (count <= LARGEST_WORD ? COUNT_WORDS[count - 1] : undefined) ?? String(count);
}
