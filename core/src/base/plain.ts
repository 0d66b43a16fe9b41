const PLAIN: Readonly<Record<string, string>> = {
  ...Object.fromEntries([...'‘’‚‛′`´'].map((sign) => [sign, "'"])),
  ...Object.fromEntries([...'“”„‟″«»'].map((sign) => [sign, '"'])),
  ...Object.fromEntries([...'‐‑‒–—―−'].map((sign) => [sign, '-'])),
  ...Object.fromEntries(
    [...'\u00a0\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u202f\u205f\u3000\t'].map(
      (sign) => [sign, ' '],
    ),
  ),
  '♯': '#',
  '♭': 'b',
};
const PRINTED = new RegExp(`[${Object.keys(PLAIN).join('')}]`, 'gu');

/**
 * A text with every printed dash, quotation mark, accidental and space as its plain one, to be searched.
 * Shape:  as long as the text, sign for sign, so that places in one are places in the other
 * @example plainSigns('“B♭”') // '"Bb"'
 */
export function plainSigns(text: string): string {
  return text.replace(PRINTED, (sign) => PLAIN[sign] ?? sign);
}
