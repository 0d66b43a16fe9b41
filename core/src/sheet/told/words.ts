import { askTempo, scanTempoWords } from '../../music/index.js';
import { factsOf } from '../facts/facts-of.js';
import { NO_TEMPO, type PartKind } from '../model.js';
import { partField, readField, type FieldRead } from '../part-fields.js';
import { countOf } from '../span-reader.js';
import { STRENGTH, type Evidence, type Seed } from '../structure/place.js';
import type { Role } from '../structure/role-words.js';
import { joined, type Piece } from '../text/piece.js';
import { readRawLines } from '../text/raw-lines.js';
import {
  LineIndex,
  type Correction,
  type LineAnchor,
  type PartAnchor,
  type Told,
  type WordField,
} from './corrections.js';

/** Fields whose words are read as a column of them would be. */
const AS_COLUMN: ReadonlySet<WordField> = new Set([
  'number',
  'page',
  'edition',
  'composer',
  'measures',
  'tempo',
  'key',
  'octaves',
  'noteValue',
  'range',
  'memory',
  'repeats',
  'points',
]);

/**
 * What words of a text give a field that a person chose for them.
 * Shape:  the value, or a sentence that says why there is none
 * Errors: none
 */
export function valueOfWords(words: string, field: WordField, kind: PartKind): FieldRead {
  const piece = joined([{ text: words, start: 0 }]);
  const known = partField(field);
  if (piece.text === '' || !known) return { issue: 'No words are marked.' };
  if (field === 'tempo') return tempoSaid(piece, kind);
  if (known.type.kind === 'text' && !AS_COLUMN.has(field))
    return readField(known, piece.text.replace(/^["“”'‘’(\s]+|["“”'‘’),;:\s]+$/gu, ''));
  const roles: readonly Role[] = AS_COLUMN.has(field) ? [field as Role, 'text'] : ['text'];
  for (const role of roles) {
    const read = readAs(piece, { role, field, kind });
    if (read !== undefined) return { value: read };
  }
  const [first = ''] = piece.plain.split(/[\s-]/u);
  const counted = known.type.kind === 'number' ? (TENS[first.toLowerCase()] ?? countOf(first)) : Number.NaN;
  return readField(known, Number.isNaN(counted) ? piece.text : String(counted));
}

const TENS: Readonly<Record<string, number>> = { thirty: 30, forty: 40, fifty: 50 };

function readAs(
  piece: Piece,
  { role, field, kind }: { readonly role: Role; readonly field: WordField; readonly kind: PartKind },
): unknown {
  const evidence: Evidence = { piece, role, strength: STRENGTH.told, isHead: false };
  const kinds = new Set<PartKind>([kind, 'scale', 'etude']);
  for (const one of kinds) {
    const fact = factsOf(evidence, one).find((own) => own.field === field && own.value !== null);
    // A page is no remark: words that say more than a number are none.
    if (!fact || (role !== 'text' && typeof fact.value === 'string' && fact.value.length > 120)) continue;
    return field === 'octaves' && Array.isArray(fact.value) ? fact.value[0] : fact.value;
  }
  return undefined;
}

function tempoSaid(piece: Piece, kind: PartKind): FieldRead {
  const found = readAs(piece, { role: 'tempo', field: 'tempo', kind });
  if (found !== undefined) return { value: found };
  const read = askTempo(piece.text);
  if ('mark' in read) return { value: read.mark };
  const isWords = scanTempoWords(piece.plain).length > 0 || !/\d/u.test(piece.plain);
  return isWords ? { value: { ...NO_TEMPO, bound: 'words', words: piece.text } } : { issue: read.question };
}

/** A stretch of a cleaned text by its line, as a correction names it. Shape: null where the text has no lines */
export function wordsAt(
  text: string,
  { start, end }: { readonly start: number; readonly end: number },
): { readonly at: LineAnchor; readonly from: number; readonly to: number } | null {
  const line = new LineIndex(readRawLines(text)).lineAt(start);
  return line && { at: line.at, from: start - line.start, to: end - line.start };
}

/** Where each part begins, by its identifier. */
export function anchorsOf(seeds: readonly Seed[], index: LineIndex): Map<string, PartAnchor> {
  const counts = new Map<string, number>();
  const anchors = new Map<string, PartAnchor>();
  for (const { id, at } of seeds) {
    const line = index.anchorAt(at);
    if (!line) continue;
    const key = anchorKey(line);
    const nth = counts.get(key) ?? 0;
    counts.set(key, nth + 1);
    anchors.set(id, { ...line, index: nth });
  }
  return anchors;
}

function anchorKey({ line, nth }: Pick<PartAnchor, 'line' | 'nth'>): string {
  return `${nth} ${line}`;
}

/** Lays words to the parts that a person gave them to. Shape: the corrections whose part the text no longer has */
export function giveWords(
  seeds: readonly Seed[],
  { words }: Told,
  { text, anchors }: { readonly text: string; readonly anchors: ReadonlyMap<string, PartAnchor> },
): Correction[] {
  const byAnchor = new Map(
    seeds.map((seed) => {
      const anchor = anchors.get(seed.id);
      return [anchor ? `${anchorKey(anchor)} ${anchor.index}` : '', seed];
    }),
  );
  return words.flatMap(({ start, end, part, field, correction }) => {
    const seed = byAnchor.get(`${anchorKey(part)} ${part.index}`);
    const read = seed && valueOfWords(text.slice(start, end), field, seed.kind);
    if (!seed || !read || 'issue' in read) return [correction];
    const piece = joined([{ text: text.slice(start, end), start }]);
    const evidence = { piece, role: 'nothing' as const, strength: STRENGTH.told, isHead: false };
    seed.evidence.push({ ...evidence, field, value: field === 'octaves' ? [read.value] : read.value });
    return [];
  });
}
