import { readChoice } from './choices.js';
import { findDates } from './find-dates.js';
import { finalMarks, finish } from './finish-sheet.js';
import { KIND_HEADING, LIST_HEADING } from './heading-patterns.js';
import { findMentions } from './labels.js';
import type { Line } from './lines.js';
import { readKeyed, readRow } from './named-fields.js';
import { whatOf } from './read-deadlines.js';
import { readHeadLine, readSectionHeading } from './read-headings.js';
import { endsChoice, readSentences } from './read-sentence.js';
import type { SheetReading } from './reading.js';
import { closeChoice, type SheetState } from './sheet-state.js';

/** Reads the whole sheet. */
export function readAll(state: SheetState): Omit<SheetReading, 'text'> {
  state.headLines = countHead(state);
  state.lines.forEach((line, n) => readLine(state, line, n));
  closeChoice(state);
  return { sheet: finish(state), marks: finalMarks(state), unread: state.unread };
}

function countHead(state: SheetState): number {
  const isContent = (line: Line): boolean =>
    line.bullet !== null ||
    line.cells !== null ||
    findMentions(line.plain, line.text).some(
      ({ start, end }) => start === 0 && !/^\s*(?:auditions?|requirements)/iu.test(line.plain.slice(end)),
    ) ||
    LIST_HEADING.test(line.plain) ||
    KIND_HEADING.test(line.plain) ||
    (findDates(line.plain).length > 0 && whatOf(line.plain) !== null) ||
    readChoice(line.plain, line.text) !== null;
  const first = state.lines.findIndex((line, n) => n >= 8 || isContent(line));
  return first < 0 ? Math.min(state.lines.length, 8) : first;
}

function readLine(state: SheetState, line: Line, n: number): void {
  if (line.cells) return readRow(state, line, n);
  if (n < state.headLines && readHeadLine(state, line)) return;
  if (endsChoice(state, line)) closeChoice(state);
  if (readKeyed(state, line) || readSectionHeading(state, line, n)) return;
  readSentences(state, line, n);
}
