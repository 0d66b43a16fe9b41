import { capital } from '../../base/index.js';
import { findKeys, noteName } from '../find-scale.js';
import type { PartKind } from '../model.js';
import { clausesOf } from '../sentences.js';
import { slice, type Piece } from '../text/piece.js';

/** A scale that a sentence asks for. Shape: `key` null where it leaves the key open; `pieces` speak of it alone */
export interface ScalePart {
  readonly label: string;
  readonly kind: PartKind;
  readonly key: string | null;
  readonly name: Piece;
  readonly title: string | null;
  readonly pieces: readonly Piece[];
}

/** The scales of a sentence, and what it says of all of them. */
export interface ScaleSplit {
  readonly parts: readonly ScalePart[];
  readonly shared: readonly Piece[];
}

interface Context {
  readonly mode: string | null;
  readonly label: string;
  /** Whether the sentence is known to ask for one scale, which then carries the label. */
  readonly isOne: boolean;
}

const NOTE = '[A-G](?:\\s?-?\\s?(?:flat|sharp)|[b#])?';
const ONE_NOTE = new RegExp(`(?<!\\p{L})${NOTE}(?!\\p{L})`, 'gu');
const BARE_KEYS = new RegExp(`^${NOTE}(?:\\s*(?:,|and|&|,\\s*and)\\s*${NOTE})*$`, 'iu');
const OPEN_KEY =
  /\b(?:(?:one|another|a|an|any|two)\s+(?:other\s+)?(?:(?:harmonic|melodic|natural)\s+)?(?:major|minor)\s+scale(?:(?!\s+with\s+its)[^,;.])*|its\s+relative\s+(?:(?:harmonic|melodic|natural)\s+)?minor)/giu;
const OWN_FACTS = /\d\s*oct|octave|twelfth|=|\bslur|\btongu/iu;

/** Cuts a sentence about scales into the scales it asks for. */
export function scaleClauses(piece: Piece, context: Context): ScaleSplit {
  const parts: ScalePart[] = [];
  const shared: Piece[] = [];
  let isArpeggio = false;
  for (const { start, end } of clausesOf(piece.plain, { start: 0, end: piece.plain.length })) {
    let clause = slice(piece, start, end);
    const lead = leadOf(clause, context);
    if (lead) {
      isArpeggio = /arpeggio/iu.test(lead.plain) && !/scale/iu.test(lead.plain);
      shared.push(lead);
      clause = slice(clause, lead.plain.length + 1);
    }
    const own = partsOfClause(clause, context, isArpeggio || /^arpeggios?$/iu.test(context.label));
    if (own.length === 0) shared.push(clause);
    parts.push(...own);
  }
  const [only] = parts;
  if (only && parts.length === 1 && context.isOne && only.kind === 'scale' && only.title === null)
    return { parts: [{ ...only, label: context.label }], shared };
  return { parts, shared };
}

/** "Scales, in quavers, crotchet = 84:" speaks of what follows. */
function leadOf(clause: Piece, { mode }: Context): Piece | null {
  const at = clause.plain.indexOf(':');
  if (at < 3) return null;
  const lead = slice(clause, 0, at);
  const rest = clause.plain.slice(at + 1).trim();
  if (findKeys(lead.plain).length > 0 || /chromatic/iu.test(lead.plain)) return null;
  return findKeys(rest).length > 0 || (mode !== null && BARE_KEYS.test(rest)) ? lead : null;
}

function partsOfClause(clause: Piece, context: Context, isArpeggio: boolean): ScalePart[] {
  const title =
    isArpeggio || (/\barpeggios?\b/iu.test(clause.plain) && !/arpeggio-free/iu.test(clause.plain))
      ? 'arpeggio'
      : null;
  const word = title === null ? '' : 'Arpeggio ';
  if (/\bchrom(?:atic)?\b/iu.test(clause.plain))
    return [
      { label: 'Chromatic scale', kind: 'chromatic', key: null, name: clause, title: null, pieces: [clause] },
    ];
  if (context.mode !== null && BARE_KEYS.test(clause.plain.replace(/[.]$/u, '')))
    return moded(clause, { word, title, mode: context.mode });
  const bare = bareKeys(clause, context);
  if (bare.length > 0) return bare.map((note) => ({ ...note, title, pieces: [clause] }));
  const offers = openKeys(clause);
  const found = findKeys(clause.plain);
  const between = found.slice(0, -1).map(({ end }, n) => clause.plain.slice(end, found[n + 1]?.start));
  const isOwn = between.some((text) => OWN_FACTS.test(text));
  const keyed = found.flatMap(({ value, start, end }, n): ScalePart[] => {
    const pieces = isOwn ? [slice(clause, end, found[n + 1]?.start ?? clause.plain.length)] : [clause];
    const edge = offers[0] ? clause.plain.indexOf(offers[0].name.plain) : -1;
    const own = edge > end && !isOwn ? [slice(clause, 0, edge)] : pieces;
    return value.keys.map((key) => ({
      label: `${word}${key}`,
      kind: 'scale',
      key,
      name: slice(clause, start, end),
      title,
      pieces: own,
    }));
  });
  return [...keyed, ...offers.map((offer) => (keyed.length > 0 ? { ...offer, pieces: [] } : offer))];
}

/** Letters under a heading that says their mode. */
function moded(
  clause: Piece,
  { word, title, mode }: Pick<ScalePart, 'title'> & { readonly word: string; readonly mode: string },
): ScalePart[] {
  return [...clause.plain.matchAll(ONE_NOTE)].map((note) => ({
    label: `${word}${noteName(note[0])} ${mode}`,
    kind: 'scale',
    key: `${noteName(note[0])} ${mode}`,
    name: slice(clause, note.index, note.index + note[0].length),
    title,
    pieces: [],
  }));
}

/** "Scales: Concert F, Bb, Eb, 2 octaves": letters without major or minor, which is then asked. */
function bareKeys(clause: Piece, { label, mode }: Context): Omit<ScalePart, 'title' | 'pieces'>[] {
  const list = new RegExp(
    `^(?<concert>concert\\s+)?(?<notes>${NOTE}(?:\\s*,\\s*(?:and\\s+)?${NOTE}(?!\\p{L}))+)(?=\\s*[,;.(]|$)`,
    'iu',
  ).exec(clause.plain);
  if (!list?.groups?.notes || mode !== null || !/scales/iu.test(label) || findKeys(clause.plain).length > 0)
    return [];
  const from = list[0].length - list.groups.notes.length;
  const concert = list.groups.concert === undefined ? '' : 'concert ';
  return [...list.groups.notes.matchAll(ONE_NOTE)].map((note) => {
    const key = `${concert}${noteName(note[0])}`;
    const name = slice(clause, from + note.index, from + note.index + note[0].length);
    return { label: capital(key), kind: 'scale', key, name };
  });
}

/** "another major scale of your choice", "its relative melodic minor": scales whose key is left open. */
function openKeys(clause: Piece): ScalePart[] {
  return [...clause.plain.matchAll(OPEN_KEY)].map((match) => {
    const name = slice(clause, match.index, match.index + match[0].length);
    const title = name.text.replace(/\s+(?:with|in|at|over|each)\b.*$/iu, '');
    return { label: title, kind: 'scale', key: null, name, title, pieces: [clause] };
  });
}
