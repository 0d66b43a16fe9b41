import { readScalePhrase } from './scale-phrase.js';

/** The name of a scale on its own line: "B♭ major", "E♭ major arpeggio". */
export function scaleLabel(plainText: string, printed: string): string | null {
  const match =
    /^(?:concert\s+)?[A-Ga-g](?:\s?-?\s?(?:flat|sharp)|[b#])?\s+(?:(?:natural|harmonic|melodic)\s+)?(?:major|minor)(?:\s+\(?(?:natural|harmonic|melodic)\)?)?(?:\s+(?:arpeggio|scale))?/iu.exec(
      plainText,
    );
  return match && 'key' in readScalePhrase(match[0]) ? printed.slice(0, match[0].length) : null;
}
