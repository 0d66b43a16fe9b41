import { fail, ok, type Result } from '../base/index.js';
import { PAGE_LIMITS } from '../page/index.js';
import { pageOf, writtenPage } from './page-file.js';
import { TYPED_CLEFS, type PaperCode, type PaperMusic, type TypedPassage } from './paper.js';

/** What the file of music on paper begins with. */
const FORMAT = 'music on paper 1';
const HEAD = `{"format":"${FORMAT}"`;
/** Our own limits. Units: characters; passages; pages */
const LONGEST_LINE = 20_000;
const MOST_PASSAGES = 60;
const LONGEST_PASSAGE = 10_000;

/** Whether a file is music on paper. */
export function isPaper(bytes: Uint8Array): boolean {
  return new TextDecoder().decode(bytes.subarray(0, HEAD.length)) === HEAD;
}

/** Music on paper as it is kept. */
export function writePaper({ title, line, typed, pages }: PaperMusic): string {
  return JSON.stringify({
    format: FORMAT,
    title,
    line,
    typed,
    pages: pages.map((page) => writtenPage(page)),
  });
}

/**
 * Reads a file of music on paper.
 * Errors: paper-broken
 * Source: docs/formats.md
 */
export function readPaper(bytes: Uint8Array): Result<PaperMusic, PaperCode> {
  const broken = fail<PaperCode>('paper-broken', 'file', 'This is no file of told music; tell it anew.');
  if (!isPaper(bytes)) return broken;
  try {
    const { title, line, typed, pages } = JSON.parse(new TextDecoder().decode(bytes)) as Record<
      string,
      unknown
    >;
    const passages = Array.isArray(typed) ? typed.slice(0, MOST_PASSAGES).map(passageOf) : [];
    const laidOut = Array.isArray(pages) ? pages.slice(0, PAGE_LIMITS.pages).map(pageOf) : [];
    if (typeof line !== 'string' || line.length > LONGEST_LINE) return broken;
    if (passages.includes(null) || laidOut.includes(null)) return broken;
    return ok({
      title: typeof title === 'string' && title.trim() !== '' ? title.trim().slice(0, 200) : null,
      line,
      typed: passages.filter((one) => one !== null),
      pages: laidOut.filter((one) => one !== null),
    });
  } catch {
    return broken;
  }
}

function passageOf(value: unknown): TypedPassage | null {
  const { from, abc, clef } = (value ?? {}) as Record<string, unknown>;
  if (typeof from !== 'string' || from.length > 10 || typeof abc !== 'string' || abc.length > LONGEST_PASSAGE)
    return null;
  return { from, abc, clef: TYPED_CLEFS.find((one) => one === clef) ?? 'treble' };
}
