import { addQuarters, quarters, scaleQuarters, ZERO, type Quarters } from '../music/index.js';

/** What a piece of an ABC line is. */
export type AbcKind = 'note' | 'rest' | 'chord' | 'bar' | 'tuplet' | 'mark' | 'space' | 'field' | 'wrong';

/** A piece of an ABC line. Units: characters, `start` to before `end`; `length` in quarters where it sounds or rests */
export interface AbcToken {
  readonly kind: AbcKind;
  readonly start: number;
  readonly end: number;
  readonly text: string;
  readonly length: Quarters | null;
}

const ACCIDENTAL = '(?:\\^\\^?|__?|=)?';
const LENGTH = '(?:\\d+)?(?:\\/+\\d*)?';
const NOTE = `${ACCIDENTAL}[A-Ga-g][,']*${LENGTH}`;

const PATTERNS: readonly (readonly [AbcKind, RegExp])[] = [
  ['space', /[\s`]+|%.*$/muy],
  ['field', /\[[A-Za-z]:[^\]]*\]/uy],
  ['mark', /"[^"\n]*"|![^!\n]*!|\{[^}\n]*\}/uy],
  ['bar', /:*\|[|\]:]*(?:\d(?:,\d)*)?|::|\[\d/uy],
  ['chord', new RegExp(`\\[(?:${NOTE}-?)+\\]${LENGTH}-?`, 'uy')],
  ['tuplet', /\(\d(?::\d?){0,2}/uy],
  ['note', new RegExp(`${NOTE}-?`, 'uy')],
  ['rest', new RegExp(`[zxZ]${LENGTH}`, 'uy')],
  ['mark', /[()]|[.~HLMOPSTuv]|<{1,3}|>{1,3}|[yJ$\\-]/uy],
];

/**
 * The pieces of an ABC line, one after the other; what is none of ABC's is wrong.
 * Shape:  all characters in order
 * Source: the ABC notation standard 2.1, clauses 4.1 to 4.20
 */
export function abcTokens(text: string): AbcToken[] {
  const tokens: AbcToken[] = [];
  let tuplet: { factor: readonly [number, number]; left: number } | null = null;
  for (let start = 0; start < text.length;) {
    const [kind, own] = pieceAt(text, start);
    const token = { kind, start, end: start + own.length, text: own };
    if (kind === 'tuplet') tuplet = tupletOf(own);
    let length = kind === 'note' || kind === 'rest' || kind === 'chord' ? lengthOf(kind, own) : null;
    if (length && tuplet) {
      length = scaleQuarters(length, ...tuplet.factor);
      tuplet = tuplet.left > 1 ? { ...tuplet, left: tuplet.left - 1 } : null;
    }
    tokens.push({ ...token, length });
    start = token.end;
  }
  return withBroken(tokens);
}

function pieceAt(text: string, start: number): readonly [AbcKind, string] {
  for (const [kind, pattern] of PATTERNS) {
    pattern.lastIndex = start;
    const own = pattern.exec(text)?.[0];
    if (own) return [kind, own];
  }
  return ['wrong', [...text.slice(start)][0] ?? ''];
}

/** p notes in the time of q. Source: the ABC notation standard 2.1, clause 4.13, without a compound meter */
const IN_TIME_OF: Readonly<Record<number, number>> = { 2: 3, 3: 2, 4: 3, 5: 2, 6: 2, 7: 2, 8: 3, 9: 2 };

function tupletOf(text: string): { factor: readonly [number, number]; left: number } {
  const [p = 3, q, r] = text
    .slice(1)
    .split(':')
    .map((one) => (one === '' ? undefined : Number(one)));
  return { factor: [q ?? IN_TIME_OF[p] ?? 2, p], left: r ?? p };
}

/** The length of a note or a rest, the eighth being the unit. */
function lengthOf(kind: AbcKind, text: string): Quarters {
  const own = kind === 'chord' ? text.slice(text.lastIndexOf(']')) : text;
  const inner = kind === 'chord' ? (/[A-Ga-g][,']*([\d/]+)/u.exec(text)?.[1] ?? '') : '';
  const [, num = '', slashes = '', den = ''] = /(\d*)(\/*)(\d*)-?$/u.exec(own) ?? [];
  const below = slashes === '' ? 1 : den === '' ? 2 ** slashes.length : Number(den);
  const length = quarters(num === '' ? 1 : Number(num), 2 * Math.max(1, below));
  if (inner === '') return length;
  const [, innerNum = '', innerSlash = '', innerDen = ''] = /^(\d*)(\/*)(\d*)$/u.exec(inner) ?? [];
  return scaleQuarters(
    length,
    innerNum === '' ? 1 : Number(innerNum),
    innerSlash === '' ? 1 : Number(innerDen || 2),
  );
}

/** Broken rhythm: a dot on one side, half of the other. Source: the ABC notation standard 2.1, clause 4.4 */
function withBroken(tokens: readonly AbcToken[]): AbcToken[] {
  const all = [...tokens];
  tokens.forEach(({ kind, text }, n) => {
    if (kind !== 'mark' || !/^[<>]/u.test(text)) return;
    const before = all.slice(0, n).findLastIndex(({ length }) => length !== null);
    const after = all.findIndex(({ length }, k) => k > n && length !== null);
    const short = 2 ** text.length;
    const [first, second] = text.startsWith('>') ? [2 * short - 1, 1] : [1, 2 * short - 1];
    scale(all, before, [first, short]);
    scale(all, after, [second, short]);
  });
  return all;
}

function scale(all: AbcToken[], at: number, [num, den]: readonly [number, number]): void {
  const token = all[at];
  if (token?.length) all[at] = { ...token, length: scaleQuarters(token.length, num, den) };
}

/** A measure of an ABC line. Units: characters; quarters */
export interface AbcMeasure {
  readonly start: number;
  readonly end: number;
  readonly length: Quarters;
}

/** The measures of an ABC line: what stands between bar lines and sounds or rests. */
export function abcMeasures(tokens: readonly AbcToken[]): AbcMeasure[] {
  const measures: AbcMeasure[] = [];
  let isOpen = false;
  for (const { kind, start, end, length } of tokens) {
    if (kind === 'bar') isOpen = false;
    if (!length) continue;
    const before = isOpen ? measures.pop() : undefined;
    measures.push({
      start: before?.start ?? start,
      end,
      length: addQuarters(before?.length ?? ZERO, length),
    });
    isOpen = true;
  }
  return measures;
}
