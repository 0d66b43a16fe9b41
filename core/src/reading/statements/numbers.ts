const SMALL = [
  'no',
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
  'thirteen',
  'fourteen',
  'fifteen',
  'sixteen',
] as const;

/** A count as a word up to sixteen: "ten", "17". */
export function spelledNumber(count: number): string {
  return SMALL[count] ?? String(count);
}
