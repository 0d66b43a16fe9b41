import { plainSigns, rememberedFor } from '../../base/index.js';
import { sentencesOf } from '../sentences.js';

/**
 * A stretch of a sheet as it reads: wrapped lines are joined, every kind of space collapsed.
 * Shape:  `at[n]` is the place in the sheet's text of the n-th character; `plain` has plain dashes, quotes and signs
 * Units:  characters
 */
export interface Piece {
  readonly text: string;
  readonly plain: string;
  readonly at: readonly number[];
}

/** A part of a printed line. Units: characters of the sheet's text */
export interface Fragment {
  readonly text: string;
  readonly start: number;
}

/** Nothing. */
export const NO_PIECE: Piece = Object.freeze({ text: '', plain: '', at: [] });

/** Fragments as they read one after the other: a word cut at the end of one loses its hyphen. */
export function joined(fragments: readonly Fragment[]): Piece {
  let text = '';
  const at: number[] = [];
  for (const { text: own, start } of fragments) {
    if (isCutWord(text, own)) {
      text = text.slice(0, -1);
      at.pop();
    } else if (text !== '' && !text.endsWith(' ') && !/\p{L}-$/u.test(text)) {
      text += ' ';
      at.push(start);
    }
    for (let n = 0; n < own.length; n += 1) {
      const sign = own[n] ?? '';
      if (!/\s/u.test(sign)) text += sign;
      else if (text === '' || text.endsWith(' ')) continue;
      else text += ' ';
      at.push(start + n);
    }
  }
  const printed = text.trimEnd();
  return { text: printed, plain: plainSigns(printed), at: at.slice(0, printed.length) };
}

/** A word cut at the line's end loses its hyphen; "double-" or "B-" keeps it. */
function isCutWord(before: string, after: string): boolean {
  return (
    /\p{Ll}{2,}-$/u.test(before) &&
    /^\p{Ll}{2,}/u.test(after) &&
    !/(?:^|[\s(-])(?:sight|double|two|three|four|half|well|non|self|pre|own|play|ear)-$/iu.test(before)
  );
}

/** Pieces one after the other with signs between, which stand nowhere in the text. */
export function chained(pieces: readonly Piece[], sign: string): Piece {
  return pieces.reduce(
    (before, { text, plain, at }) =>
      before.text === ''
        ? { text, plain, at }
        : {
            text: before.text + sign + text,
            plain: before.plain + sign + plain,
            at: [...before.at, ...Array.from({ length: sign.length }, () => at[0] ?? 0), ...at],
          },
    NO_PIECE,
  );
}

/** A part of a piece, without the spaces around it. */
export function slice({ text, plain, at }: Piece, start: number, end = text.length): Piece {
  const own = text.slice(start, end);
  const from = start + own.length - own.trimStart().length;
  const to = Math.max(from, start + own.trimEnd().length);
  return { text: text.slice(from, to), plain: plain.slice(from, to), at: at.slice(from, to) };
}

/** The sentences of a piece, in order. */
export const sentencesIn = rememberedFor((piece: Piece): readonly Piece[] =>
  sentencesOf(piece.plain).map(({ start, end }) => slice(piece, start, end)),
);

/** Where a stretch of a piece stands in the sheet's text. Units: characters; `start` to before `end` */
export function placeIn(
  { at }: Piece,
  start: number,
  end: number,
): { readonly start: number; readonly end: number } {
  const from = at[Math.min(start, at.length - 1)] ?? 0;
  return { start: from, end: (at[Math.min(Math.max(start, end - 1), at.length - 1)] ?? from) + 1 };
}
