import { capital, rememberedFor } from '../../base/index.js';
import { findMentions, kindOf } from '../labels.js';
import type { PartKind } from '../model.js';
import { isPersonName } from '../work-line.js';
import { slice, type Piece } from '../text/piece.js';
import { calm } from './headings.js';
import type { Line } from './wrapped.js';

/** The name with which a stretch opens a part. Shape: the text goes on at `after` */
export interface ItemHead {
  readonly label: string;
  readonly kind: PartKind | null;
  readonly after: number;
  /** Whether it counts: "Etude 2" is told from "Etude 1", "Scale" from nothing. */
  readonly isNumbered: boolean;
}

/** What a stretch says behind the name with which it opens a part. */
export function restOf(piece: Piece, head: Pick<ItemHead, 'after'> | null): Piece {
  const after = head?.after ?? 0;
  return slice(piece, after + (/^[\s:.–—|-]*/u.exec(piece.plain.slice(after))?.[0].length ?? 0));
}

const GENERIC =
  /^(?:item|part|requirement|component|element|section|selection)\s+(?:no\.?\s*)?(?:\d{1,2}|[A-H]|[IVX]{1,4}|one|two|three|four)$/iu;
const NAMED =
  /^(?<label>(?!no\b|the\b|all\b|each\b|every\b|any\b|one\b|two\b|three\b|a\b|an\b|everyone\b|everybody\b|students\b|candidates\b|you\b|your\b|from\b|by\b|in\b)[\p{L}'-]+(?:(?:,?\s+(?:and\s+|of\s+)?|\/|-)(?!(?:from|in|by|on|with|at|to|for)\b)[\p{L}\d'-]+){0,4})(?<tail>(?:\s*[[(][^\])]{0,60}[\])])*)\s*(?<sign>[:.]|\s-{1,2}(?=\s)|$|\s*\|)/iu;

/** "Etude      Marchetti-Lowe, …": a kind of part in a column of its own. Shape: null where the line has none */
export const columnHead = rememberedFor(({ plain, text, gap, bullet }: Line): ItemHead | null => {
  const name = plain.slice(0, gap);
  if (gap === 0 || gap > 25 || bullet !== null || /s$/iu.test(name) || name === name.toUpperCase())
    return null;
  const kind = /^[\p{L} \d#-]+$/u.test(name) ? kindOf(name) : null;
  return kind && { label: calm(text.slice(0, gap)), kind, after: gap, isNumbered: true };
});

/** What a stretch of a line opens, where it opens a part by name. */
export function itemHead(piece: Piece, bullet: string | null): ItemHead | null {
  return bullet === null ? bareHead(piece) : bulletHead(piece);
}

const bareHead = rememberedFor((piece: Piece) => headOf(piece, false));
const bulletHead = rememberedFor((piece: Piece) => headOf(piece, true));

function headOf(piece: Piece, hasBullet: boolean): ItemHead | null {
  const [mention] = findMentions(piece.plain, piece.text);
  if (mention?.start === 0) {
    const label = calm(mention.label.replace(/\s+/gu, ' ').replace(/[.:]$/u, ''));
    return {
      label,
      kind: GENERIC.test(label) ? null : kindOf(mention.label),
      after: mention.end,
      isNumbered: mention.isNumbered,
    };
  }
  const generic =
    /^(?<label>(?:item|part|requirement|component|tune|song|chart|track|work)\s+(?:\d{1,2}|[A-H]))\s*[.:-]\s/iu.exec(
      piece.plain,
    );
  if (generic)
    return {
      label: piece.text.slice(0, generic.groups?.label?.length),
      kind: null,
      after: generic[0].length,
      isNumbered: true,
    };
  return ordinal(piece) ?? named(piece, hasBullet);
}

/** "The first excerpt is from …", "The second is …", "For the scale, play …". */
function ordinal({ plain }: Piece): ItemHead | null {
  const counted =
    /^(?:the\s+)?(?<label>(?<nth>first|second|third|fourth)(?:\s+(?<what>excerpt|[eé]tude|study|piece|solo|scale))?)\s+(?:is|comes)\s+/iu.exec(
      plain,
    );
  if (counted?.groups?.label) {
    const { label, what } = counted.groups;
    return {
      label: capital(label),
      kind: what === undefined ? null : kindOf(what),
      after: counted[0].length,
      isNumbered: true,
    };
  }
  const asked =
    /^(?:for|as)\s+(?:the|your|a)\s+(?<label>scale|solo|chromatic scale|[eé]tude|excerpt|sight-reading)\s*,\s*(?:please\s+)?(?:play|prepare|perform)\s+/iu.exec(
      plain,
    );
  if (!asked?.groups?.label) return null;
  const { label } = asked.groups;
  return {
    label: capital(label),
    kind: kindOf(label),
    after: asked[0].length,
    isNumbered: true,
  };
}

function named(piece: Piece, hasBullet: boolean): ItemHead | null {
  const match = NAMED.exec(piece.plain);
  const label = match?.groups?.label;
  if (!match || label === undefined) return null;
  const printed = piece.text.slice(0, label.length);
  const kind = kindOf(label);
  const isLoud = label === label.toUpperCase() && /\p{Lu}{4}/u.test(label);
  const isSentenceEnd = match.groups?.sign === '.' || match.groups?.sign === '';
  if (kind === null && !(isLoud && hasBullet)) return null;
  if (isPersonName(printed) && !isLoud) return null;
  // "Sight reading." is a part, "Etudes are heard first." a sentence; in capitals or after a number both are heads.
  if (isSentenceEnd && !isLoud && label.split(/\s+/u).length > 3) return null;
  return { label: calm(printed), kind: kind ?? 'other', after: label.length, isNumbered: false };
}

/** "Everybody performs the chromatic scale from low B-flat …": a part that is named within a sentence. */
function named2(piece: Piece): { readonly piece: Piece; readonly head: ItemHead } | null {
  const [mention] = findMentions(piece.plain, piece.text);
  if (!mention || mention.start === 0 || !/=|octave|\bnotes?\b|\d/iu.test(piece.plain.slice(mention.end)))
    return null;
  const head = {
    label: calm(mention.label),
    kind: kindOf(mention.label),
    after: mention.end - mention.start,
    isNumbered: false,
  };
  return { piece: slice(piece, mention.start), head };
}

/** A stretch of a sentence with the part that it names. */
interface Mentioned {
  readonly piece: Piece;
  readonly head: ItemHead | null;
}

/** The stretches of a sentence that speak of one numbered part each; the first may speak of none. */
export const byMentions = rememberedFor((piece: Piece): readonly Mentioned[] => {
  const all = findMentions(piece.plain, piece.text).filter(({ isNumbered }) => isNumbered);
  // "Section B: Study 12" is one part, and its music.
  const mentions = all.filter(({ start }, n) => {
    const before = all[n - 1];
    return (
      !before || start - before.end > 3 || !/^(?:option|section|part|item|requirement)\b/iu.test(before.label)
    );
  });
  if (mentions.length === 0) return [named2(piece) ?? { piece, head: itemHead(piece, null) }];
  const cuts = mentions.map(({ start }) => start);
  const before = slice(piece, 0, cuts[0]);
  return [
    ...(before.text === '' ? [] : [{ piece: before, head: null }]),
    ...mentions.map(({ label, start, end }, n) => ({
      piece: slice(piece, start, cuts[n + 1] ?? piece.text.length),
      head: {
        label: calm(label.replace(/\s+/gu, ' ')),
        kind: GENERIC.test(label) ? null : kindOf(label),
        after: end - start,
        isNumbered: true,
      },
    })),
  ];
});
