import { remembered } from '../base/index.js';
import { assembleParts, type AssembledPart } from './assemble/assemble.js';
import { choicesOf } from './assemble/choices.js';
import { sheetQuestions } from './assemble/questions.js';
import { withScores } from './assemble/scores.js';
import type { Claims } from './claims/claims.js';
import { claimsOf } from './claims/statements.js';
import { readHeading } from './heading.js';
import { instrumentKey } from './scope.js';
import type { StructuredSheet } from './model.js';
import type { SheetMark, SheetReading } from './reading.js';
import { outlineOf } from './structure/outline.js';
import { secondSheet } from './structure/second-sheet.js';
import type { Outline } from './structure/place.js';
import { withAlternates } from './claims/alternates.js';
import { placeIn } from './text/piece.js';
import { cleanText, readRawLines } from './text/raw-lines.js';
import { tell, type Correction, type Told } from './told/corrections.js';
import { shownBlocks } from './told/shown-blocks.js';
import { anchorsOf, giveWords } from './told/words.js';

/** The longest text that is read. Units: characters (our own limit; a 300-line sheet has about 20,000). */
export const SHEET_TEXT_LIMIT = 400_000;

/**
 * Reads a published sheet: body, dates, parts, choices, notes, and the questions it leaves open.
 * Shape:  what the text does not state is null; nothing is filled in because it is likely; each part gets an
 *         identifier where it is made: counted ones, or those of `newId`; what a person said of the text outweighs it
 * Units:  see StructuredSheet
 * Errors: none; of two sheets in one text the first is read; a text longer than SHEET_TEXT_LIMIT is cut there, which the caller must refuse before
 * Source: docs/formats.md
 */
export function readSheet(
  raw: string,
  newId: () => string = countedIds(),
  corrections: readonly Correction[] = [],
): SheetReading {
  const { text, lines, second, own } = printed(raw.slice(0, SHEET_TEXT_LIMIT));
  const first = readOne(own, newId, tell(lines, corrections));
  if (!second) return first;
  const { sheet } = first;
  const ask = `This text goes on with the sheet of ${second.body}, which was left out. Paste each sheet for itself.`;
  return {
    ...first,
    sheet: {
      ...sheet,
      questions: [{ partId: null, about: 'text', ask, candidates: [] }, ...sheet.questions],
    },
    text,
    unread: [...first.unread, { start: second.start, end: text.trimEnd().length }],
  };
}

/** The printed lines of the first sheet in a text; the same ones as long as somebody corrects that text. */
const printed = remembered(
  (raw: string) => {
    const text = cleanText(raw);
    const all = readRawLines(text);
    const second = secondSheet(all);
    const own = second ? text.slice(0, second.start) : text;
    return { text, second, own, lines: second ? readRawLines(own) : all };
  },
  { most: 4 },
);

/** Reads the text of one sheet. */
function readOne(text: string, newId: () => string, told: Told): SheetReading {
  const outline = withAlternates(outlineOf(text, newId, told), newId);
  const anchors = anchorsOf(outline.seeds, told.index);
  const unlaid = giveWords(outline.seeds, told, { text, anchors });
  const claims = claimsOf(outline, text);
  const bare = assembleParts(outline.seeds, claims);
  const choices = choicesOf(bare, claims, outline);
  const parts = withScores(bare, claims, choices);
  const { body, year, instruments } = headingOf(outline, text);
  const sheet: StructuredSheet = {
    body,
    year,
    instruments,
    division: claims.divisions,
    deadlines: claims.deadlines,
    parts: parts.map(({ part }) => part),
    choices,
    notes: claims.notes,
    questions: distinct(sheetQuestions({ body, year, choices }, parts, { claims, text })),
    program: claims.program[0] ?? null,
    amends: null,
    changes: [],
  };
  const marks = marksOf(parts, claims, { head: outline.head, body });
  const unread = unreadOf(claims, outline, marks);
  return {
    ...{ sheet, text, marks, unread },
    blocks: shownBlocks(outline, claims, { index: told.index, unread }),
    anchors: sheet.parts.map(({ id }) => anchors.get(id) ?? null),
    lost: [...told.lost, ...unlaid],
  };
}

function countedIds(): () => string {
  let last = 0;
  return () => {
    last += 1;
    return `part-${last}`;
  };
}

function headingOf(outline: Outline, text: string): Pick<StructuredSheet, 'body' | 'year' | 'instruments'> {
  const top =
    outline.head.length > 0 ? outline.head : outline.statements.slice(0, 3).map(({ piece }) => piece);
  const { body, year, instruments } = readHeading(top, text);
  const all = [...instruments, ...outline.instruments];
  return {
    body: outline.keyed.body ?? body,
    year: outline.keyed.year ?? year,
    instruments: all.filter(
      (name, n) => all.findIndex((other) => instrumentKey(other) === instrumentKey(name)) === n,
    ),
  };
}

function distinct(questions: StructuredSheet['questions']): StructuredSheet['questions'] {
  return [...new Map(questions.map((one) => [`${one.partId}\n${one.about}\n${one.ask}`, one])).values()];
}

/** What became of which words, by place. */
function marksOf(
  parts: readonly AssembledPart[],
  claims: Claims,
  { head, body }: { readonly head: Outline['head']; readonly body: string | null },
): SheetMark[] {
  const ofHead = head.map((piece) => ({
    ...placeIn(piece, 0, piece.text.length),
    about: body !== null && piece.text.includes(body) ? 'body' : 'heading',
  }));
  const ofParts = parts.flatMap(({ facts }, n) =>
    facts.map(({ field, start, end }) => ({ start, end, about: `parts[${n}]/${field}` })),
  );
  const ofSheet = claims.used.map(({ piece, about }) => ({ ...placeIn(piece, 0, piece.text.length), about }));
  return [...ofHead, ...ofParts, ...ofSheet]
    .filter(({ start, end }) => end > start)
    .sort((a, b) => a.start - b.start || b.end - a.end);
}

/** Sentences that became nothing: of the whole sheet, and of those that stand with a part. */
function unreadOf(
  { unread }: Claims,
  { seeds }: Outline,
  marks: readonly SheetMark[],
): SheetReading['unread'] {
  const ofParts = seeds.flatMap(({ evidence }) =>
    evidence.flatMap(({ role, isHead, piece }) => (role === 'text' && !isHead ? [piece] : [])),
  );
  const places = [...new Set([...unread, ...ofParts])]
    .filter(({ plain }) => /\p{L}{2}/u.test(plain))
    .map((piece) => placeIn(piece, 0, piece.text.length))
    .sort((a, b) => a.start - b.start);
  const isMarked = overlaps(marks);
  return places.filter((place, n) => !isMarked(place) && (places[n - 1]?.end ?? 0) <= place.start);
}

type Stretch = Pick<SheetMark, 'start' | 'end'>;

/** Whether a stretch overlaps one of those given, which are in order of their start. */
function overlaps(all: readonly Stretch[]): (stretch: Stretch) => boolean {
  const reach: number[] = [];
  for (const { end } of all) reach.push(Math.max(end, reach.at(-1) ?? 0));
  return ({ start, end }) => {
    let [low, high] = [0, all.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((all[middle]?.start ?? Infinity) < end) low = middle + 1;
      else high = middle;
    }
    return (reach[low - 1] ?? 0) > start;
  };
}
