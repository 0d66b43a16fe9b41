import type { Quarters } from '../music/index.js';
import { scaleInstrument } from '../scale/index.js';
import type { ScoreMeasure } from '../score/index.js';
import { abcMeasures, abcTokens } from './abc-tokens.js';
import type { PaperMusic, TypedClef, TypedPassage } from './paper.js';
import { scoreOfPaper } from './paper-score.js';
import type { ToldIssue } from './told.js';
import { readTyped, typedXml } from './typed.js';

/**
 * A passage while it is typed.
 * Shape:  `musicXml` null where nothing of it can be engraved; `numbers` of the measures that are typed; issues by their
 *         place in the text; `lengths` of the measures from its first on, for bar lines that come by themselves
 * Units:  characters; quarters
 */
export interface TypedWork {
  readonly musicXml: string | null;
  readonly numbers: readonly string[];
  readonly issues: readonly ToldIssue[];
  readonly lengths: readonly Quarters[];
  /** Of the measure it begins in. */
  readonly fifths: number;
}

/** So many measures are looked ahead for their lengths. */
const AHEAD = 64;

/** The clef that an instrument's parts are printed in. Shape: treble where nothing is known of it */
export function usualClef(instrument: string): TypedClef {
  if (/snare|drum|cymbal|percussion|tambourine|triangle/iu.test(instrument)) return 'perc';
  const known = scaleInstrument(instrument);
  return known.ok ? ({ G: 'treble', F: 'bass', C: 'alto' } as const)[known.value.clef] : 'treble';
}

/** Reads a passage as far as it is typed, over the measures of its music. */
export function typedWork(paper: PaperMusic, passage: TypedPassage): TypedWork {
  const score = scoreOfPaper({ ...paper, typed: [] });
  const measures = score.ok ? score.value.measures : [];
  const first = measures.findIndex(({ number }) => number === passage.from.trim());
  const opening = measures[first];
  const end = passage.abc.length;
  const none = { musicXml: null, numbers: [], lengths: [], fifths: 0 };
  if (!opening)
    return {
      ...none,
      issues: [{ start: 0, end, message: `There is no measure ${passage.from}; tell it first.` }],
    };
  const tokens = abcTokens(passage.abc);
  const typed = abcMeasures(tokens);
  const known = {
    numbers: typed.map((_, n) => measures[first + n]?.number ?? String(Number(passage.from) + n)),
    lengths: measures.slice(first, first + AHEAD).map(({ length }) => length),
    fifths: opening.fifths,
  };
  const wrong = tokens.filter(({ kind }) => kind === 'wrong');
  if (typed.length === 0 && wrong.length === 0) return { ...known, musicXml: null, issues: [] };
  const xml = typedXml(passage, opening);
  return {
    ...known,
    musicXml: xml.ok ? xml.value : null,
    issues:
      wrong.length > 0
        ? wrong.map(({ start, end: to, text }) => ({ start, end: to, message: oddSign(text) }))
        : lengthIssues(passage, measures, { typed, first }),
  };
}

function oddSign(text: string): string {
  return `“${text}” is nothing that is played: letters A to G are notes, z is a rest, | a bar line.`;
}

/** What is wrong with the measures, where they stand in the text. */
function lengthIssues(
  passage: TypedPassage,
  measures: readonly ScoreMeasure[],
  { typed, first }: { readonly typed: readonly { start: number; end: number }[]; readonly first: number },
): ToldIssue[] {
  const read = readTyped(passage, 0, measures);
  if (!('issues' in read)) return [];
  return read.issues.map(({ where, message }) => {
    const at = measures.findIndex(({ number }) => `measure ${number}` === where) - first;
    const place = typed[at] ?? { start: 0, end: passage.abc.length };
    return { start: place.start, end: place.end, message };
  });
}

/** Music with a typed passage, in the place of one that begins at the same measure. */
export function withTyped(paper: PaperMusic, passage: TypedPassage): PaperMusic {
  return { ...paper, typed: [...withoutTyped(paper, passage.from).typed, passage] };
}

/** Music without the typed passage that begins at a measure. Units: printed number */
export function withoutTyped(paper: PaperMusic, from: string): PaperMusic {
  return { ...paper, typed: paper.typed.filter((one) => one.from !== from) };
}

/** The typed passage that a measure belongs to; of overlapping ones the later. Shape: null where none. Units: printed number */
export function typedAt({ typed }: PaperMusic, number: string): TypedPassage | null {
  return (
    typed.findLast(({ from, abc }) => {
      const off = Number(number) - Number(from);
      return off >= 0 && off < abcMeasures(abcTokens(abc)).length;
    }) ?? null
  );
}
