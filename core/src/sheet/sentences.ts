import { ZONE } from './find-dates.js';

const ZONED = new RegExp(`^\\s+\\(?${ZONE}`, 'u');

/** A stretch of a line. Units: characters of the line. */
export interface Stretch {
  readonly start: number;
  readonly end: number;
}

const ABBREVIATION =
  /(?:^|[\s("'“‘-])(?:no|nos|p|pp|m|mm|op|vol|bk|ed|max|min|approx|ca|c|mr|mrs|ms|dr|st|sr|jr|reh|fig|vs|etc|incl|et|exc|sc|jan|feb|mar|apr|jun|jul|aug|sept?|oct|nov|dec|mon|tues?|wed|thu(?:rs)?|fri|sat|sun|mvt|mvmt|meas|bb?|oct|pts?|q|h|e|w|s|\p{L})\.$/iu;

/**
 * Cuts a line into sentences: at full stops that end one.
 * Shape:  in order, without the space between; "No. 7", "5 p.m. on" and "L. Osk" are not cut
 * Units:  characters of the line
 */
export function sentencesOf(plain: string): Stretch[] {
  return cutAt(plain, /[.!?](?=["')\]]?\s+["'([]?[\p{Lu}\d\u2669\u266a])["')\]]?/gu);
}

/**
 * Cuts a sentence into clauses at semicolons.
 * Shape:  in order
 * Units:  characters of the line
 */
export function clausesOf(plain: string, { start, end }: Stretch): Stretch[] {
  return cutAt(plain.slice(start, end), /;(?=\s)/gu).map((clause) => ({
    start: start + clause.start,
    end: start + clause.end,
  }));
}

function cutAt(plain: string, pattern: RegExp): Stretch[] {
  const found: Stretch[] = [];
  let start = 0;
  for (const match of plain.matchAll(pattern)) {
    const end = match.index + match[0].length;
    // "Ends on the downbeat of Q. It still starts at N."
    const isLetter =
      /\s\p{Lu}\.$/u.test(plain.slice(0, match.index + 1)) &&
      /^["')\]]?\s+(?:It|The|This|That|These|Then|Play|Please|All|No|You|We|In)\b/u.test(plain.slice(end));
    const isTrailing = isLetter || /\d\s+(?:ca|circa|approx)\.$/iu.test(plain.slice(0, match.index + 1));
    const isAbbreviation =
      !isTrailing && match[0] === '.' && ABBREVIATION.test(plain.slice(start, match.index + 1));
    const isHalfDay = /[ap]\.?m\.$/iu.test(plain.slice(0, end)) && ZONED.test(plain.slice(end));
    if (isAbbreviation || isHalfDay) continue;
    found.push({ start, end });
    start = end + (/^\s*/u.exec(plain.slice(end))?.[0].length ?? 0);
  }
  if (start < plain.length) found.push({ start, end: plain.length });
  return found;
}
