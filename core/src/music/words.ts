import { NOTE_VALUES } from './tempo.data.js';
import type { BeatUnit } from './tempo.js';

/** The two vocabularies a studio can choose: measure and quarter note, or bar and crotchet. */
export type Vocabulary = 'us' | 'uk';

/**
 * The beat unit as a note glyph, with its dot.
 * Shape:  one or two characters
 * Source: Unicode, Musical Symbols
 */
export function unitGlyph(unit: BeatUnit): string {
  const value = NOTE_VALUES.find(({ name }) => unit.endsWith(name));
  const dots = unit.startsWith('double-') ? '..' : unit.startsWith('dotted-') ? '.' : '';
  return `${value?.glyph ?? ''}${dots}`;
}

/**
 * The beat unit in words of the studio's vocabulary.
 * Shape:  "dotted quarter note", "dotted crotchet"
 * Source: common practice
 */
export function unitWords(unit: BeatUnit, vocabulary: Vocabulary): string {
  const value = NOTE_VALUES.find(({ name }) => unit === name || unit.endsWith(`dotted-${name}`));
  const dots = unit.startsWith('double-') ? 'double-dotted ' : unit.startsWith('dotted-') ? 'dotted ' : '';
  return `${dots}${value?.[vocabulary] ?? unit}`;
}

/** What stands before printed numbers: "m." or "mm.", "bar" or "bars". Source: common practice */
export function measureSign(count: number, vocabulary: Vocabulary): string {
  if (vocabulary === 'us') return count === 1 ? 'm.' : 'mm.';
  return count === 1 ? 'bar' : 'bars';
}

/**
 * "m. 9" or "bar 9", "mm. 9–12" or "bars 9–12".
 * Shape:  one number or a first and a last
 * Units:  printed numbers
 * Source: common practice
 */
export function measuresText(from: string, to: string, vocabulary: Vocabulary): string {
  if (from === to) return `${measureSign(1, vocabulary)} ${from}`;
  return `${measureSign(2, vocabulary)} ${from}–${to}`;
}

/**
 * The printed word for a measure in the studio's vocabulary.
 * Shape:  lower case
 * Source: common practice
 */
export function measureWord(count: number, vocabulary: Vocabulary): string {
  const word = vocabulary === 'us' ? 'measure' : 'bar';
  return count === 1 ? word : `${word}s`;
}

const VALUE_WORDS: readonly (readonly [RegExp, string])[] = [
  [/\bsixty-fourth(?: note)?/gu, 'hemidemisemiquaver'],
  [/\bthirty-second(?: note)?/gu, 'demisemiquaver'],
  [/\bsixteenth(?: note)?/gu, 'semiquaver'],
  [/\beighth(?: note)?/gu, 'quaver'],
  [/\bquarter(?: note)?/gu, 'crotchet'],
  [/\bhalf(?: note|(?= rest|,|$))/gu, 'minim'],
  [/\bhalves\b/gu, 'minims'],
  [/\bwhole(?: note|(?= rest|,|$))/gu, 'semibreve'],
];

/**
 * A sentence of our own in the studio's vocabulary: measures become bars, quarters crotchets.
 * Shape:  the sentence, letter case kept
 * Source: common practice
 */
export function inVocabulary(text: string, vocabulary: Vocabulary): string {
  if (vocabulary === 'us') return text;
  const barred = text
    .replace(/\bMeasure/gu, 'Bar')
    .replace(/\bmeasure/gu, 'bar')
    .replace(/\bmm\. (?=\d)/gu, 'bars ')
    .replace(/\bm\. (?=\d)/gu, 'bar ');
  return VALUE_WORDS.reduce((sentence, [american, british]) => sentence.replace(american, british), barred);
}

const ASCII_SIGNS: Readonly<Record<string, string>> = { '##': '𝄪', bb: '𝄫', '#': '♯', b: '♭' };

/**
 * Pitch names within a sentence with their signs as printed: "F#4" becomes "F♯4".
 * Shape:  the sentence
 * Source: Unicode, Musical Symbols
 */
export function withSigns(text: string): string {
  return text.replace(
    /\b([A-G])(##|bb|#|b)(?!\p{L})/gu,
    (_, letter: string, sign: string) => `${letter}${ASCII_SIGNS[sign] ?? sign}`,
  );
}
