import { plainSigns, remembered } from '../../base/index.js';
import { askTempo, scanTempos, scanTempoWords, type TempoMark } from '../../music/index.js';
import { findKeys, findOctaves, noteName } from '../find-scale.js';
import { readSpanPhrase } from '../find-spans.js';
import { NO_TEMPO, type PartKind } from '../model.js';
import type { Evidence } from '../structure/place.js';
import type { Role } from '../structure/role-words.js';
import { placeIn } from '../text/piece.js';
import { AS_MARKED, textFacts, type Fact, type FactField } from './text-facts.js';

/** Fields that a cell gives as it stands, and how its words become the value. */
const PLAIN: Partial<Record<Role, readonly [FactField, (plain: string, text: string) => unknown]>> = {
  number: ['number', (plain) => plain.replace(/^(?:nos?\.?|#|number|study|[eé]tude)\s*/giu, '')],
  page: ['page', (plain) => plain.replace(/^(?:pages?|pp?\.?)\s*/iu, '')],
  octaves: [
    'octaves',
    (plain) => [...((findOctaves(`${plain} octaves`)[0] ?? findOctaves(plain)[0])?.value ?? [])],
  ],
  points: ['points', (plain) => Number(/\d+(?:\.\d+)?/u.exec(plain)?.[0] ?? Number.NaN) || null],
  articulation: ['articulation', (_, text) => text],
  edition: ['edition', (_, text) => text],
  composer: ['composer', (_, text) => text.replace(/^by\s+/iu, '')],
};
const SAYS_NOTHING: ReadonlySet<Role> = new Set(['publisher', 'nothing', 'instrument', 'division', 'label']);

/** Everything that a stretch of text says of one part of a kind. Shape: in no order */
export const factsOf = remembered(
  (evidence: Evidence, kind: PartKind): readonly Fact[] => readFacts(evidence, kind),
  { keyOf: keyOfEvidence, most: 6000 },
);

/** Words of one place are read once; what a person or the structure gives has nothing to be read. */
function keyOfEvidence(
  { piece, role, strength, isHead, field, value }: Evidence,
  kind: PartKind,
): string | null {
  if (field !== undefined || value !== undefined) return null;
  return [kind, role, strength, isHead, piece.at[0], piece.at.at(-1), piece.text].join('\u0001');
}

function readFacts(evidence: Evidence, kind: PartKind): Fact[] {
  const { piece, role, strength, value, field } = evidence;
  const whole = (field: FactField, own: unknown): Fact[] =>
    own === null ? [] : [{ field, value: own, ...placeIn(piece, 0, piece.text.length), strength }];
  if (field !== undefined) return value === undefined ? [] : whole(field, value);
  const plain = piece.plain.replace(/[*†‡]+$/u, '').trim();
  const isNone = /^none$/iu.test(plain) && role !== 'repeats' && role !== 'memory';
  if (plain === '' || isNone || /^(?:-+|n\/?a)$/iu.test(plain) || SAYS_NOTHING.has(role)) return [];
  if ((role === 'key' || role === 'title') && value !== undefined) return whole(role, value);
  const given = PLAIN[role];
  if (given) return whole(given[0], given[1](plain, piece.text.trim()));
  if (role === 'key') return whole('key', keyOf(plain));
  if (role === 'tempo') return tempoCell(evidence, kind, whole);
  if (role === 'measures') return measureCell(evidence, kind, whole);
  if (role === 'book') return bookFacts(evidence);
  if (role === 'words')
    return kind === 'improvisation'
      ? []
      : whole('tempo', { ...NO_TEMPO, bound: 'words', words: piece.text.trim() } satisfies TempoMark);
  return textFacts(role === 'title' ? { ...evidence, isHead: true } : named(evidence), kind);
}

/** "yes" in a column called memory says "memory: yes"; "30 s" in one of times is a limit. */
function named(evidence: Evidence): Evidence {
  const { piece, role } = evidence;
  const lead = role === 'time' ? 'max ' : role === 'memory' || role === 'repeats' ? `${role}: ` : '';
  const at = Array.from({ length: lead.length }, () => piece.at[0] ?? 0);
  const text = lead + piece.text;
  return { ...evidence, piece: { text, plain: plainSigns(text), at: [...at, ...piece.at] } };
}

function keyOf(plain: string): string | null {
  const [found] = findKeys(plain);
  if (found) return found.value.keys[0] ?? null;
  return /^[A-G](?:[b#]|[- ](?:flat|sharp))?$/iu.test(plain) ? noteName(plain) : null;
}

type Whole = (field: FactField, own: unknown) => Fact[];

function tempoCell(evidence: Evidence, kind: PartKind, whole: Whole): Fact[] {
  const { piece } = evidence;
  const plain = piece.plain.replace(/[*†‡]+$/u, '').trim();
  const found = scanTempos(plain);
  if (found.length > 0) return textFacts(evidence, kind);
  const bpm = /^(?:ca?\.?\s*)?(\d{2,3})(?:\s*(?:-|to)\s*(\d{2,3}))?$/u.exec(plain);
  if (bpm) {
    const [low, high] = [Number(bpm[1]), Number(bpm[2] ?? bpm[1])];
    return whole('tempo', {
      beatUnit: null,
      bpmMin: low,
      bpmMax: high,
      bound: low === high ? 'exact' : 'range',
      words: null,
    });
  }
  if (AS_MARKED.test(plain)) return whole('asMarked', true);
  const read = askTempo(plain);
  if ('mark' in read) return whole('tempo', read.mark);
  return scanTempoWords(plain).length > 0
    ? whole('tempo', { ...NO_TEMPO, bound: 'words', words: piece.text })
    : whole('tempo-open', read);
}

function measureCell(evidence: Evidence, kind: PartKind, whole: Whole): Fact[] {
  const { piece } = evidence;
  if (/^\d+\s+chorus/iu.test(piece.plain)) return [];
  const all = /^(?:all|complete|entire|whole)\b/iu.exec(piece.plain);
  if (all)
    return [
      ...whole('measures', [{ from: 'start', to: 'end', anchorText: piece.text }]),
      ...textFacts(evidence, kind).filter(({ field }) => field !== 'measures'),
    ];
  // "1–24, omit the repeat": the span, and a word on repeats.
  const rest = /\s*[,;(]\s*(?:omit|without|with|no|take|play|observe)\b[^,;]*\brepeats?\b[^,;]*$/iu.exec(
    piece.text,
  );
  const read = readSpanPhrase(rest ? piece.text.slice(0, rest.index) : piece.text);
  return 'measures' in read
    ? [
        ...whole('measures', read.measures),
        ...textFacts(evidence, kind).filter(({ field }) => field === 'repeats'),
      ]
    : textFacts(evidence, kind);
}

function bookFacts(evidence: Evidence): Fact[] {
  const { piece, strength } = evidence;
  const fact = (field: FactField, value: unknown): Fact[] =>
    value === null ? [] : [{ field, value, ...placeIn(piece, 0, piece.text.length), strength }];
  const paren = /\s*\((?<in>[^()]+)\)$/u.exec(piece.text);
  const name = paren ? piece.text.slice(0, paren.index) : piece.text;
  const before = /^(?<name>(?:\p{Lu}[\p{L}.'’-]*\s*){1,4}),\s*["“](?<book>[^"”]+)["”]?[.,]?$/u.exec(
    piece.text,
  );
  if (before?.groups)
    return [
      ...fact('book', before.groups.book?.replace(/[.,]$/u, '') ?? null),
      ...fact('composer', before.groups.name?.trim() ?? null),
    ];
  const by = /^(?<book>.+?)\s+by\s+(?<name>\p{Lu}.+)$/u.exec(name);
  return [
    ...fact('book', (by?.groups?.book ?? name).replace(/^["“]|["”]$/gu, '').trim()),
    ...fact(
      'composer',
      by?.groups?.name ??
        (paren && /^\p{Lu}[\p{L}.'’-]+(?:\s+\p{Lu}[\p{L}.'’-]+)+$/u.test(paren.groups?.in ?? '')
          ? (paren.groups?.in ?? null)
          : null),
    ),
  ];
}
