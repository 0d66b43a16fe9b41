import { readHeading } from '../heading.js';
import type { StructuredSheet } from '../model.js';
import type { Line } from '../structure/wrapped.js';
import { cleanText } from '../text/raw-lines.js';

/** Words at the head of a notice that name nobody. */
const NAMELESS =
  /^(?:errat(?:um|a)|corrections?|corrigend(?:um|a)|amendments?|addend(?:um|a)|changes?|changed|updates?|updated|notices?|notes?|please|revised|revision|issued|dated?|dear|teachers?|directors?|students?|colleagues|audition|auditions|requirements?|list|sheet|materials?|music|[eé]tudes?|stud(?:y|ies)|excerpts?|scales?|solos?|pieces?|measures?|bars?|page|pages|number|with|from|this|that|these|following|january|february|march|april|june|july|august|september|october|november|december)$/u;

/** The body that a notice names, where it is another than the sheet's. Shape: null where it is the same or not said */
export function otherSheet(lines: readonly Line[], base: StructuredSheet | null): string | null {
  const { body } = readHeading(lines.slice(0, 5), '');
  if (!base?.body || body === null) return null;
  const words = (text: string): Set<string> =>
    new Set((text.toLowerCase().match(/\p{L}{4,}/gu) ?? []).filter((word) => !NAMELESS.test(word)));
  // A greeting or a sentence is no body: a body has a name, and its words are capitals.
  if (words((body.match(/\p{Lu}\p{L}*/gu) ?? []).join(' ')).size < 2) return null;
  const own = words(base.body);
  const whole = words(
    lines
      .slice(0, 8)
      .map(({ text }) => text)
      .join(' '),
  );
  return own.size >= 2 && [...own].filter((word) => whole.has(word)).length === 0 ? body : null;
}

/** The sheet that a notice names in its first lines: "Errata to the 2027 clarinet requirements". */
export function amendsOf(lines: readonly Line[], base: StructuredSheet | null): string | null {
  if (base?.body) return [base.body, base.year].filter((part) => part !== null).join(' ');
  const head = lines.slice(0, 4).map(({ text }) => text);
  const match = head
    .map(
      (text) =>
        /\b(?:errat(?:um|a)|corrections?|changes?|amendments?|notice|update)\b.*?\b(?:to|for|concerning|of|in)\s+(?:the\s+)?(.+)$/iu.exec(
          text,
        )?.[1],
    )
    .find((found) => found !== undefined);
  const named =
    match ??
    head.find(
      (text) =>
        !/^(?:errat(?:um|a)|corrections?|notice)\b.{0,12}$/iu.test(text) &&
        /20\d\d/u.test(text) &&
        text.length < 90,
    );
  return named?.replace(/[.:]$/u, '').trim() ?? null;
}

/**
 * Whether a text is a notice that amends a sheet and not a sheet.
 * Shape:  one of its first lines says so
 * Source: common practice, no source
 */
export function isErrataNotice(raw: string): boolean {
  const head = cleanText(raw)
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '')
    .slice(0, 3);
  return head.some(
    (line) =>
      /^(?:notice\s+of\s+)?(?:errat(?:um|a)|corrections?|corrigend(?:um|a)|amendments?|addend(?:um|a)|changes\s+to|update\s+to)\b/iu.test(
        line,
      ) ||
      /\b(?:errat(?:um|a)|corrections?|amendments?)\s*(?:notice|sheet|to\s+the|for\s+the|[-–—:]|$|\()/iu.test(
        line,
      ),
  );
}

/** Whether a line stands at the head of a notice. */
export function isHead(line: Line, lines: readonly Line[]): boolean {
  return lines.indexOf(line) < 3 || /^(?:erratum|errata|correction|notice|changes?)/iu.test(line.plain);
}
