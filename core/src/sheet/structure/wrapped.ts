import { rememberedFor } from '../../base/index.js';
import { joined, type Piece } from '../text/piece.js';
import { isPersonName } from '../work-line.js';
import { isRoleWord } from './role-words.js';
import type { RawLine } from '../text/raw-lines.js';

/**
 * One line of sense: what was wrapped is joined, the bullet is cut off.
 * Shape:  `gap` is where a wide gap stood behind the first words, as in "Excerpt A   Symphony"; 0 where none
 * Units:  characters of the piece; `indent` in columns of print
 */
export interface Line extends Piece {
  readonly bullet: string | null;
  readonly indent: number;
  readonly isAfterBlank: boolean;
  readonly gap: number;
}

const BULLET =
  /^(?!\p{Lu}\.\s+\p{Lu}\p{Ll}+\s*:)(?:[•●○▪▫◦‣⁃·*►➢✓✔▸▶▷▹◆◇■□★☆➔➜➤→✦✧✶❖☞🎵🎶🎷🎺🎻🥁🎹🎼](?![*])|\d{1,2}[†*‡]?(?=\s{2,}\S)|[-–—]{1,2}(?=\s)|o(?=\s+\p{Lu})|\(?(?:\d{1,2}|[a-zA-Z]|[ivxIVX]{1,4})[.)](?=\s)|\((?:\d{1,2}|[a-z]|[ivx]{1,4})\))\s*/u;
const OPEN_END =
  /(?:[,(&=+/–]|\b(?:and|or|to|of|the|a|an|in|at|by|from|for|with|on|no|nos|without|least|than|through|not|nor|p|pp|mm?|bars?|measures?|No|major|minor|either|is|are|as|must|may)\.?)$/u;
const LABELLED = /^(?!\p{Ll})[\p{L}][\p{L}\d .'’#&/()-]{0,38}?\s*(?::|\s[–—]\s|\t)/u;
const PART_START =
  /^(?:(?:slow|fast|lyrical|technical|major|minor|chromatic|required|prepared|orchestral|solo|two-mallet|snare drum)\s+)*(?:[eé]tudes?|stud(?:y|ies)|excerpts?|et\.|exc\.|chrom\b|solos?|scales?|arpeggios?|chromatic|sight|aural|rudiments?|improvisation|option|bundle|section|list|group|set|selection|requirement|item|[A-D]\d{1,2}|registration|auditions?|deadline|results|issued|dated|posted|updated|revised|note|erratum|errata|marks|points|entries|q\.|a\.)(?![\p{L}])/iu;

/** Whether a printed line begins with a bullet, a number or a letter that counts items. */
export function bulletOf(text: string): string | null {
  return BULLET.exec(text)?.[0] ?? null;
}

/** A short line in capitals, or one that ends in a colon. */
export function isHeading(text: string): boolean {
  const letters = text.replace(/[^\p{L}]/gu, '');
  const isCapitals =
    letters.length >= 3 && letters === letters.toUpperCase() && letters !== letters.toLowerCase();
  return text.length <= 80 && (isCapitals || /:$/u.test(text));
}

/** Lines of sense out of printed lines that belong to no table. Shape: in order */
export function wrapped(raw: readonly RawLine[]): Line[] {
  const width = Math.max(...raw.map(({ text, indent }) => text.length + indent), 0);
  const lines: Line[] = [];
  let open: RawLine[] = [];
  const close = (): void => {
    const [first, ...rest] = open;
    if (first) lines.push(lineOf([first, ...rest]));
    open = [];
  };
  for (const line of raw) {
    const [first] = open;
    const last = open.at(-1);
    if (!first || !last || open.length > 40 || !goesOn(last, line, { first, width })) close();
    open.push(line);
  }
  close();
  return lines;
}

/** What tells of a printed line whether it goes on from the line before, and into the next. */
const signsOf = rememberedFor(({ text }: RawLine) => {
  const bullet = bulletOf(text);
  const name = bare(text, bullet);
  const key = /^(?<key>[\p{L}.]+(?: [\p{L}.]+)?)\s*:\s/u.exec(text)?.groups?.key;
  const isOpenEnd = OPEN_END.test(text);
  return {
    bullet,
    isKeyed: key !== undefined && isRoleWord(key),
    isClosedHeading: isHeading(name) && !isOpenEnd,
    isCapitals: isHeading(name) && !/\p{Ll}/u.test(name),
    isOpenEnd: isOpenEnd || /\p{L}-$/u.test(text),
    isInQuotes: /“[^”]*$/u.test(text),
    startsLow: /^\p{Ll}/u.test(text) && !/^(?:mm?|pp?|bars?|measures?)\.?\s*\d/u.test(text),
    startsPart: PART_START.test(text),
    startsItself: LABELLED.test(text) || PART_START.test(text) || isHeading(text),
    isKeyOfPlayer:
      /^\p{Lu}[\p{L}. ]{2,20}\s+-\s+[A-G](?:[b#♭♯]|[- ](?:flat|sharp))?\s+(?:major|minor)\b/u.test(text),
    isLedByPerson: isPersonName(/^([^:,]{3,40})[:,]\s/u.exec(text)?.[1] ?? ''),
    firstWord: /^\S+/u.exec(text)?.[0].length ?? 0,
  };
});

function goesOn(
  last: RawLine,
  line: RawLine,
  { first, width }: { readonly first: RawLine; readonly width: number },
): boolean {
  const [own, before] = [signsOf(line), signsOf(last)];
  if (line.isAfterBlank || own.bullet !== null || own.isKeyed || before.isClosedHeading) return false;
  if (own.startsLow) return true;
  if (
    /\d$/u.test(last.text) &&
    /^(?:jan(?:uary)?|feb(?:ruary)?|mar(?:ch)?|apr(?:il)?|may|june?|july?|aug(?:ust)?|sept?(?:ember)?|oct(?:ober)?|nov(?:ember)?|dec(?:ember)?)\b/iu.test(
      line.text,
    )
  )
    return true;
  if (before.isInQuotes) return true;
  const isKeyThenPart = /\b(?:major|minor)$/iu.test(last.text) && own.startsPart;
  if (isKeyThenPart || own.isKeyOfPlayer) return false;
  if (before.isOpenEnd) return true;
  const isDeeper = line.indent > first.indent;
  if (own.isCapitals) return false;
  const isFull = last.indent + last.text.length + own.firstWord >= width * 0.84;
  if (own.isLedByPerson || own.startsItself) return false;
  if (signsOf(first).bullet !== null && isDeeper) return isFull || !/[.!?:;]$/u.test(last.text);
  if (line.indent < first.indent || width < 40 || last.text.length < 34) return false;
  return isFull && (line.indent === last.indent || isDeeper || open(last));
}

/** A heading without its number and brackets. */
function bare(text: string, bullet: string | null): string {
  return text
    .slice(bullet?.length ?? 0)
    .replace(/\s{2,}\d{1,4}\s*(?:points?|pts|marks?)(?:\s+\p{L}+){0,2}$/iu, '')
    .replace(/\s*[[(][^\])]*[\])][.:]?$/u, '');
}

function open({ text }: RawLine): boolean {
  return !/[.!?:]$/u.test(text);
}

/** The line of sense that begins at a printed line; the same one where it is made of the same. */
function lineOf(raw: readonly [RawLine, ...RawLine[]]): Line {
  const [first] = raw;
  const known = madeOf.get(first);
  if (known?.raw.length === raw.length && known.raw.every((line, n) => line === raw[n])) return known.line;
  const line = makeLine(raw);
  madeOf.set(first, { raw, line });
  return line;
}

const madeOf = new WeakMap<RawLine, { readonly raw: readonly RawLine[]; readonly line: Line }>();

function makeLine(raw: readonly [RawLine, ...RawLine[]]): Line {
  const [first] = raw;
  const { bullet } = signsOf(first);
  const cut = bullet?.length ?? 0;
  const own = first.text.slice(cut);
  const gap = /^\S(?:.{0,36}?\S)?(?= {2,}\S|\t+\S)/u.exec(own)?.[0] ?? '';
  const piece = joined([
    { text: own, start: first.start + cut },
    ...raw.slice(1).map(({ text, start }) => ({ text, start })),
  ]);
  return {
    ...piece,
    bullet: bullet?.trim() ?? null,
    indent: first.indent,
    isAfterBlank: first.isAfterBlank,
    gap: gap.replace(/\s+/gu, ' ').length,
  };
}
