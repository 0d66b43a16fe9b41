import { plainSigns, present } from '../base/index.js';

/** A cell of a table row. Units: characters of the sheet's text. */
export interface Cell {
  readonly text: string;
  readonly start: number;
  readonly column: number;
}

/**
 * One line of sense: wrapped lines are joined, bullets cut off, every kind of space collapsed.
 * Shape:  `at[n]` is the place in the sheet's text of the n-th character; `cells` for rows of a table, else null
 * Units:  characters
 */
export interface Line {
  readonly text: string;
  readonly plain: string;
  readonly at: readonly number[];
  readonly bullet: string | null;
  readonly indent: number;
  readonly isAfterBlank: boolean;
  readonly cells: readonly Cell[] | null;
}

interface RawLine {
  readonly start: number;
  readonly text: string;
  readonly indent: number;
  readonly isAfterBlank: boolean;
}

const INVISIBLE = /[\u00ad\u200b-\u200f\u202a-\u202e\u2060-\u2064\u2066-\u2069\ufeff]/gu;
const BULLET =
  /^(?!\p{Lu}\.\s+\p{Lu}\p{Ll}+\s*:)(?:[•●○▪▫◦‣⁃·*►➢✓✔]|\d{1,2}(?=\s{2,}\S)|[-–—]{1,2}(?=\s)|o(?=\s+\p{Lu})|\(?(?:\d{1,2}|[a-zA-Z]|[ivxIVX]{1,4})[.)](?=\s)|\((?:\d{1,2}|[a-z]|[ivx]{1,4})\))\s*/u;
/** Dots that lead from a label to its points. */
const LEADER = /(?<=\S)\s*(?:\.{4,}|(?:\. ){3,}\.?|_{4,}|…{2,})\s*(?=\S)/gu;
/** Units: characters (our own limit). */
const LONGEST_LINE = 2000;
const LABELLED = /^[\p{L}][\p{L}\d .'’#&/()-]{0,38}?\s*[:–—\t]/u;
const OPEN_END =
  /(?:[,(&=+/]|\b(?:and|or|to|of|the|a|an|in|at|by|from|for|with|on|no|without|least|than|through|not|nor|p|mm?|pp|No)\.?)$/u;
const PART_START =
  /^(?:(?:slow|fast|lyrical|technical|major|minor|chromatic|required|prepared|orchestral|solo)\s+)?(?:[eé]tudes?|stud(?:y|ies)|excerpts?|solos?|scales?|arpeggios?|chromatic|sight|aural|rudiments?|improvisation|option|section|list|set|selection|requirement|[A-D]\d{1,2}|registration|auditions?|deadline|results|issued|dated|posted|updated|revised|note|erratum|errata)\b/iu;

/**
 * Cleans a pasted text: one kind of line end, no invisible signs.
 * Shape:  every place in a reading is a place in this text
 * Source: Unicode, general category Cf
 */
export function cleanText(raw: string): string {
  return raw
    .replace(/\r\n?/gu, '\n')
    .replace(/[\u2028\u2029\f\v]/gu, '\n')
    .replace(INVISIBLE, '');
}

/**
 * Cuts a sheet's text into lines of sense.
 * Shape:  empty lines are gone; a row of a table is a line with cells
 * Units:  characters of the cleaned text
 */
export function readLines(text: string): Line[] {
  const raw = rawLines(text);
  const tables = tableRows(raw);
  const lines: Line[] = [];
  let open: RawLine[] = [];
  const width = Math.max(...raw.map(({ text: line }) => line.length), 0);
  const close = (): void => {
    if (open.length > 0) lines.push(joinLines(open));
    open = [];
  };
  raw.forEach((line, n) => {
    const cells = tables.get(n);
    const last = open.at(-1);
    if (cells) {
      close();
      lines.push({ ...joinLines([line]), cells });
    } else if (
      last &&
      line.start + line.text.length - present(open[0]).start < LONGEST_LINE &&
      goesOn(last, line, { first: present(open[0]), width })
    )
      open.push(line);
    else {
      close();
      open = [line];
    }
  });
  close();
  return lines;
}

function rawLines(text: string): RawLine[] {
  const lines: RawLine[] = [];
  let start = 0;
  let isAfterBlank = true;
  for (const line of text.split('\n').flatMap((whole) => piecesOf(whole))) {
    const indent = line.length - line.trimStart().length;
    if (line.trim() === '') isAfterBlank = true;
    else {
      const text = gapped(line.trim()).replace(LEADER, (dots) => `:${' '.repeat(dots.length - 1)}`);
      lines.push({ start: start + indent, text, indent: widthOf(line.slice(0, indent)), isAfterBlank });
      isAfterBlank = false;
    }
    start += line.length + (text.charAt(start + line.length) === '\n' ? 1 : 0);
  }
  return lines;
}

/** A line longer than any sheet prints is read in pieces, so that the time stays linear whatever is pasted. */
function piecesOf(line: string): string[] {
  return line.length <= LONGEST_LINE
    ? [line]
    : (line.match(new RegExp(`[^]{1,${LONGEST_LINE}}(?=\\s|$)|[^]{1,${LONGEST_LINE}}`, 'gu')) ?? []);
}

/** "A1  P. Sorrel  Gavotte": wide gaps behind the number of an item stand for a colon. */
function gapped(line: string): string {
  const lead = /^(?:\d{1,2}|[A-D]\d{1,2})\s{2,}/u.exec(line);
  if (!lead || line.includes('\t')) return line;
  const rest = line.slice(lead[0].length);
  return lead[0] + rest.replace(/(?<=[\p{L}.]) {2,}(?=\p{Lu})/gu, (gap) => `:${' '.repeat(gap.length - 1)}`);
}

function widthOf(indent: string): number {
  return [...indent].reduce((sum, sign) => sum + (sign === '\t' ? 4 : 1), 0);
}

/** Whether a line only goes on where the one before broke off. */
function goesOn(
  last: RawLine,
  line: RawLine,
  { first, width }: { readonly first: RawLine; readonly width: number },
): boolean {
  if (line.isAfterBlank || BULLET.test(line.text) || isHeading(last.text.replace(/\s*\([^)]*\)$/u, '')))
    return false;
  if (/^[\p{Ll}]/u.test(line.text) && !/^(?:mm?|pp?|bars?|measures?)\.?\s*\d/iu.test(line.text)) return true;
  if (
    /\d$/u.test(last.text) &&
    /^(?:jan|feb|mar|apr|may|june?|july?|aug|sept?|oct|nov|dec)[a-z]*\b/iu.test(line.text)
  )
    return true;
  if (OPEN_END.test(last.text) || /\p{Ll}-$/u.test(last.text)) return true;
  if (LABELLED.test(line.text) || PART_START.test(line.text) || isHeading(line.text)) return false;
  const isHanging = BULLET.test(first.text) && line.indent > first.indent;
  if (isHanging && !/[.!?:;]$/u.test(last.text)) return true;
  // A full line that ends no sentence was wrapped.
  const isFull =
    width >= 40 &&
    last.text.length + (/^\S+/u.exec(line.text)?.[0].length ?? 0) >= Math.min(width, 110) * 0.8 &&
    last.text.length >= (/^\p{Lu}/u.test(line.text) ? 45 : 34);
  return (
    isFull &&
    line.indent >= first.indent &&
    (/^[\p{Ll}\d(“"♩♪=]/u.test(line.text) || !/[.!?:]$/u.test(last.text))
  );
}

/** A short line in capitals, or one that ends in a colon. */
export function isHeading(text: string): boolean {
  const letters = text.replace(/[^\p{L}]/gu, '');
  const isCapitals =
    letters.length >= 3 && letters === letters.toUpperCase() && letters !== letters.toLowerCase();
  return text.length <= 80 && (isCapitals || /:$/u.test(text));
}

function joinLines(raw: readonly RawLine[]): Line {
  const [first] = raw as [RawLine, ...RawLine[]];
  const bullet = BULLET.exec(first.text);
  let text = '';
  const at: number[] = [];
  const add = (sign: string, place: number): void => {
    if (/\s/u.test(sign)) {
      if (text === '' || text.endsWith(' ')) return;
      text += ' ';
    } else text += sign;
    for (let n = 0; n < sign.length; n += 1) at.push(place + n);
  };
  raw.forEach((line, n) => {
    let place = line.start + (n === 0 ? (bullet?.[0].length ?? 0) : 0);
    const own = n === 0 ? line.text.slice(bullet?.[0].length ?? 0) : line.text;
    if (n > 0) {
      if (isCutWord(text, own)) {
        text = text.slice(0, -1);
        at.pop();
      } else if (!text.endsWith('-')) add(' ', place);
    }
    for (const sign of own) {
      add(sign, place);
      place += sign.length;
    }
  });
  const printed = text.trimEnd();
  return {
    text: printed,
    plain: plainSigns(printed),
    at,
    bullet: bullet ? bullet[0].trim() : null,
    indent: first.indent,
    isAfterBlank: first.isAfterBlank,
    cells: null,
  };
}

/** A word cut at the line's end loses its hyphen; "double-" or "B-" keeps it. */
function isCutWord(before: string, after: string): boolean {
  return (
    /\p{Ll}{3,}-$/u.test(before) &&
    /^\p{Ll}{2,}/u.test(after) &&
    !/\b(?:sight|double|two|three|half|well|non|self|pre)-$/iu.test(before)
  );
}

/** Rows of tables by line number: runs of lines with as many cells, or under a header whose columns they keep. */
function tableRows(lines: readonly RawLine[]): ReadonlyMap<number, readonly Cell[]> {
  const rows = new Map<number, readonly Cell[]>();
  let n = 0;
  while (n < lines.length) {
    const header = cellsOf(present(lines[n]));
    let end = n + 1;
    if (header.length >= 3)
      while (
        end < lines.length &&
        !present(lines[end]).isAfterBlank &&
        cellsOf(present(lines[end])).length >= 2
      )
        end += 1;
    const isTable = end - n >= 2 && (isHeader(header) || end - n >= 3);
    if (isTable)
      for (let row = n; row < end; row += 1)
        rows.set(
          row,
          inColumns(cellsOf(present(lines[row])), header, present(lines[row]).text.includes('\t')),
        );
    n = isTable ? end : n + 1;
  }
  return rows;
}

function cellsOf(line: RawLine): Cell[] {
  const cells: Cell[] = [];
  const isTabbed = line.text.includes('\t');
  const isPiped = /^\|?.*\|.*\|/u.test(line.text);
  const cut = isTabbed ? /\t/gu : isPiped ? /\|/gu : /[ \u00a0]{3,}/gu;
  let from = 0;
  const push = (end: number): void => {
    const own = line.text.slice(from, end);
    const lead = own.length - own.trimStart().length;
    if (!isPiped || own.trim() !== '' || (from > 0 && end < line.text.length))
      cells.push({ text: own.trim(), start: line.start + from + lead, column: cells.length });
  };
  for (const match of line.text.matchAll(cut)) {
    push(match.index);
    from = match.index + match[0].length;
  }
  push(line.text.length);
  return cells;
}

/** Cells of a row that was spaced out go to the column of the header that begins nearest. */
function inColumns(cells: readonly Cell[], header: readonly Cell[], isTabbed: boolean): readonly Cell[] {
  if (isTabbed || cells.length === header.length) return cells;
  const zero = present(cells[0]).start - present(header[0]).start;
  return cells.map((cell) => {
    const place = cell.start - zero;
    const nearest = header.reduce((best, column) =>
      Math.abs(column.start - place) < Math.abs(best.start - place) ? column : best,
    );
    return { ...cell, column: nearest.column };
  });
}

const COLUMN_WORDS =
  /^(?:part|item|requirement|component|work|title|piece|etude|étude|study|excerpt|pages?|pp?\.?|measures?|bars?|mm\.?|tempo|speed|metronome|points?|marks?|weight|max(?:imum)? (?:points|marks)|key|octaves?|range|composer|book|source|repeats?|memory|time|duration|articulation|notes?|rhythm|no\.?|number|#)$/iu;

/** Whether a row names columns. */
export function isHeader(cells: readonly Cell[]): boolean {
  return cells.filter(({ text }) => COLUMN_WORDS.test(text)).length >= Math.min(3, cells.length);
}
