import { abcToMusicXml } from '../abc/index.js';
import type { Result } from '../base/index.js';
import { compareQuarters, meterText, toNumber, type Quarters } from '../music/index.js';
import { readScore, type Score, type ScoreMeasure } from '../score/index.js';
import type { TypedIssue, TypedPassage } from './paper.js';

/** Keys by their sharps, from seven flats to seven sharps. */
const KEYS = [
  ...['Cb', 'Gb', 'Db', 'Ab', 'Eb', 'Bb', 'F', 'C'],
  ...['G', 'D', 'A', 'E', 'B', 'F#', 'C#'],
] as const;

/**
 * A typed passage as an ABC text of its own, to be read and engraved.
 * Shape:  meter and key of the measure it begins in, eighths as the unit, measures numbered from there
 */
function abcOfTyped({ abc, clef }: TypedPassage, { meter, fifths }: ScoreMeasure): string {
  const body = abc.replace(/\r/gu, '').replace(/^[A-Za-z]:.*$/gmu, '');
  return `X:1\nM:${meterText(meter)}\nL:1/8\nK:${KEYS[fifths + 7] ?? 'C'} clef=${clef}\n${body}\n`;
}

/** A typed passage as MusicXML, to be engraved. Errors: as abcToMusicXml */
export function typedXml(passage: TypedPassage, opening: ScoreMeasure): Result<string> {
  return abcToMusicXml(abcOfTyped(passage, opening));
}

/** What a typed passage gives: the music of some measures, or what is wrong with it. */
export type TypedReading =
  { readonly score: Score; readonly indexes: readonly number[] } | { readonly issues: readonly TypedIssue[] };

/**
 * Reads a typed passage against the measures that it lies over.
 * Shape:  `indexes` are those measures, one for each that was typed
 * Errors: issues where the measures are missing, where the text is no ABC, where a measure holds more or less than its meter
 */
export function readTyped(
  passage: TypedPassage,
  at: number,
  measures: readonly ScoreMeasure[],
): TypedReading {
  const wrong = (where: string, message: string): TypedReading => ({
    issues: [{ code: 'paper-typed', at, where, message }],
  });
  const first = measures.findIndex(({ number }) => number === passage.from.trim());
  const opening = measures[first];
  const where = `measure ${passage.from}`;
  if (!opening) return wrong(where, `There is no measure ${passage.from}; tell it first.`);
  const xml = typedXml(passage, opening);
  if (!xml.ok) return wrong(where, xml.issues[0]?.message ?? 'This passage cannot be read.');
  const read = readScore(new TextEncoder().encode(xml.value));
  if (!read.ok) return wrong(where, read.issues[0]?.message ?? 'This passage cannot be read.');
  const filled = new Set(read.value.notes.map(({ measureIndex }) => measureIndex));
  const typed = read.value.measures.filter(({ index }) => filled.has(index));
  const indexes = typed.map(({ index }) => first + index);
  const last = indexes.at(-1) ?? first;
  if (last >= measures.length)
    return wrong(
      where,
      `${typed.length} measures are typed from ${passage.from} on, but the music ends with ${measures.at(-1)?.number ?? '?'}.`,
    );
  const issues = typed.flatMap(({ index, length }): TypedIssue[] => {
    const over = measures[first + index];
    const isLast = first + index === last;
    // The last measure may still be being typed: what is there of it is read.
    if (!over || compareQuarters(length, over.length) === 0 || (isLast && isShorter(length, over.length)))
      return [];
    const message = `Measure ${over.number} has ${beatsText(length)} as typed; ${meterText(over.meter)} holds ${beatsText(over.length)}.`;
    return [{ code: 'paper-typed', at, where: `measure ${over.number}`, message }];
  });
  return issues.length > 0 ? { issues } : { score: read.value, indexes };
}

function isShorter(a: Quarters, b: Quarters): boolean {
  return compareQuarters(a, b) < 0;
}

function beatsText(length: Quarters): string {
  const count = toNumber(length);
  return `${Number(count.toFixed(2))} quarter note${count === 1 ? '' : 's'}`;
}
