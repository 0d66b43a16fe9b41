import { factsOf } from '../facts/facts-of.js';
import type { Fact } from '../facts/text-facts.js';
import { instrumentNames } from '../heading.js';
import { kindOf } from '../labels.js';
import type { PartKind } from '../model.js';
import { noteKindOf } from '../notes.js';
import { instrumentKey } from '../scope.js';
import { clausesOf, type Stretch } from '../sentences.js';
import { STRENGTH, type Evidence, type Place, type Seed, type Statement } from '../structure/place.js';
import { isUniversal } from '../structure/prose.js';
import { slice, type Piece } from '../text/piece.js';
import { keepNote, use, type Claims, type ScopeClaim } from './claims.js';

/** Fields that a sentence about several parts may give. */
const SHARED: ReadonlySet<string> = new Set([
  'memory',
  'repeats',
  'accompaniment',
  'noteValue',
  'articulation',
  'octaves',
  'book',
  'composer',
  'edition',
  'points',
  'points each',
  'maxSeconds',
  'minSeconds',
  'tempo',
]);

/** A sentence about all parts of a kind, or about all under its heading. Shape: whether it claims anything */
export function readScope(
  claims: Claims,
  { piece, place: standing, seed, said }: Statement,
  seeds: readonly Seed[],
): boolean {
  const place = widened(standing, piece.plain, seeds);
  const isTold = said === 'rule';
  const isForAll =
    isTold ||
    isUniversal(piece.plain) ||
    /^(?:no\s+)?(?:by\s+heart|from\s+memory|by\s+memory)\.?$/iu.test(piece.plain);
  const isLocal = place.section?.kind != null && !/\bunless\b|\bthroughout\b/iu.test(piece.plain);
  if (!isForAll && (!isLocal || seed !== null)) return false;
  const made: ScopeClaim[] = [];
  for (const stretch of clausesOf(piece.plain, { start: 0, end: piece.plain.length }).flatMap((one) =>
    byEach(piece.plain, one),
  ))
    made.push(
      ...claimsOfClause(piece, stretch, { place, isLocal, isTold, before: made.at(-1)?.facts ?? [] }),
    );
  claims.scopes.push(...made);
  if (made.length === 0) return false;
  use(claims, piece, 'parts');
  if (noteKindOf(piece.plain)) keepNote(claims, piece);
  return true;
}

/** "Each etude …" below the one etude of an instrument speaks of those of all of them. */
function widened(place: Place, plain: string, seeds: readonly Seed[]): Place {
  const { instruments } = place.scope;
  const kinds = /^(?:each|every|both|all)\b/iu.test(plain) ? kindsNamed(plain) : null;
  if (kinds === null || instruments.length === 0) return place;
  const own = seeds.filter(
    ({ kind, place: { scope } }) => kinds.has(kind) && scope.instruments.join() === instruments.join(),
  );
  return own.length > 1 ? place : { section: null, scope: { ...place.scope, instruments: [] } };
}

/** What a clause stands in: its place, and what the clause before it claimed. */
interface Setting {
  readonly place: Place;
  readonly isLocal: boolean;
  /** Whether a person said that it holds for all. */
  readonly isTold: boolean;
  readonly before: readonly Fact[];
}

function claimsOfClause(
  piece: Piece,
  { start, end }: Stretch,
  { place, isLocal, isTold, before }: Setting,
): ScopeClaim[] {
  const isBook = /^books?\b/iu.test(piece.plain);
  const unless = /^\s*(?:unless|except\s+where|where\s+not)\b[^,:;]{0,60},\s+/iu.exec(
    piece.plain.slice(start, end),
  );
  const lead =
    unless?.[0].length ??
    /^\s*books?\s*(?:for\s+[^:]{3,20})?:/iu.exec(piece.plain.slice(start, end))?.[0].length ??
    0;
  const clause = slice(piece, start + lead, end);
  const named = isBook ? new Set<PartKind>(['etude']) : (allBut(clause.plain) ?? kindsNamed(clause.plain));
  const kinds = named ?? (isLocal && place.section?.kind ? withKin(place.section.kind) : null);
  const scoped = byInstrument(clause, { kinds, place });
  if (scoped.length > 0) return scoped;
  const isDefault = unless !== null;
  const all = sharedFacts(clause, kinds, { before, isNamed: isBook, isTold, isDefault });
  const mark = /\bmarked\s+(?:with\s+)?(?:an?\s+)?(?<mark>[*†‡]+)/u.exec(clause.plain)?.groups?.mark ?? null;
  // Points at the head of several parts are of them together.
  const isEach =
    /\b(?:each|every|all|both)\s+(?:the\s+)?(?:[eé]tude|stud|excerpt|scale|arpeggio|song|movement|piece|solo|work)/iu.test(
      clause.plain,
    );
  const isShared = isLocal && !isEach && place.section?.isPlural === true;
  const facts = isShared ? all.filter(({ field }) => field !== 'points') : all;
  if (facts.length === 0) return [];
  const strong = mark === null ? facts : facts.map((fact) => ({ ...fact, strength: STRENGTH.footnote }));
  return [{ kinds, place, isLocal: isLocal && named === null, mark, facts: strong, piece: clause }];
}

/** "… from Quillan, “Reed Etudes” (oboe, bassoon) and Osterhagen, “Hand in the Bell” (horn)": each for its own. */
function byInstrument(
  clause: Piece,
  { kinds, place }: { readonly kinds: ReadonlySet<PartKind> | null; readonly place: Place },
): ScopeClaim[] {
  const ends = [...clause.plain.matchAll(/"\s*\((?<who>[^)]+)\)(?:\s*(?:,|;|and)\s+)*/gu)].filter(
    ({ groups }) => instrumentNames(groups?.who ?? '').length > 0,
  );
  if (ends.length < 2) return [];
  let from = 0;
  return ends.map((end): ScopeClaim => {
    const to = end.index + 1;
    const piece = slice(clause, from, to);
    from = end.index + end[0].length;
    const scope = { ...place.scope, instruments: instrumentNames(end.groups?.who ?? '') };
    return {
      kinds,
      place: { ...place, scope },
      isLocal: false,
      mark: null,
      facts: sharedFacts(piece, kinds, { before: [], isNamed: true, isTold: false, isDefault: false }),
      piece,
    };
  });
}

/** "Scales carry 20 points and each etude carries 40": two clauses. */
function byEach(
  plain: string,
  { start, end }: { readonly start: number; readonly end: number },
): { readonly start: number; readonly end: number }[] {
  const joint = /\s+and\s+(?=(?:each|every|all)\s+\p{L}+\s+(?:carr|is|are|must|count))/iu.exec(
    plain.slice(start, end),
  );
  if (!joint) return [{ start, end }];
  return [
    { start, end: start + joint.index },
    { start: start + joint.index + joint[0].length, end },
  ];
}

function sharedFacts(
  clause: Piece,
  kinds: ReadonlySet<PartKind> | null,
  {
    before,
    isNamed,
    isTold,
    isDefault: isUnless,
  }: Pick<Setting, 'before' | 'isTold'> & { readonly isNamed: boolean; readonly isDefault: boolean },
): readonly Fact[] {
  const [only] = before;
  // "Movements need not be from memory; the scales do."
  const isTurned = /^(?:the\s+)?\p{L}+\s+(?:do|must|are|is|should)\.?$/iu.test(clause.plain);
  if (isTurned && only && typeof only.value === 'boolean') return [{ ...only, value: !only.value }];
  const kind = kinds?.has('scale') ? 'scale' : ([...(kinds ?? [])][0] ?? 'etude');
  const isDefault = isUnless || /\bunless\b|\botherwise\b/iu.test(clause.plain);
  const strength = isDefault ? STRENGTH.document : STRENGTH.section;
  const lead =
    /^(?:(?:all|every|each|both|the)\s+)?(?:[eé]tudes?|studies|excerpts|pieces)\s+(?:is|are)\s+(?:taken\s+)?(?=(?:from|by|in)\s)/iu.exec(
      clause.plain,
    );
  const evidence: Evidence = {
    piece: slice(clause, lead?.[0].length ?? 0),
    role: 'text',
    strength,
    isHead: true,
  };
  const facts = factsOf(evidence, kind);
  const hasComposer = facts.some(({ field }) => field === 'composer');
  const isBook = isNamed || (kind === 'etude' && hasComposer && !/["“]/u.test(clause.text));
  return facts.flatMap((fact): Fact[] => {
    if (fact.field === 'title') return bookOfTitle(fact, clause, isBook);
    const isOpen = fact.field !== 'tempo' || kind === 'scale' || isDefault || isTold;
    return isOpen && SHARED.has(fact.field) ? [fact] : [];
  });
}

/** What is named for several parts is their book. */
function bookOfTitle(fact: Fact, clause: Piece, isBook: boolean): Fact[] {
  const name = String(fact.value);
  if (/^(?:[eé]tudes|studies|all|every|both)\b/iu.test(name) && !/["“]/u.test(name)) return [];
  if (isBook) return [{ ...fact, field: 'book' }];
  const isSaid = /\b(?:from|in|book|by)\b/iu.test(clause.plain) && /["“]|book/iu.test(clause.text);
  return isSaid ? [{ ...fact, field: 'book', value: quotedIn(name) }] : [];
}

/** The book in "every etude is from “Lantern Studies”". */
function quotedIn(text: string): string {
  return (
    /["“]([^"”]+)["”]/u.exec(text)?.[1]?.replace(/[,.]$/u, '') ??
    text.replace(/^.*\b(?:from|in)\s+(?=\p{Lu})/u, '')
  );
}

const NOUNS: readonly (readonly [RegExp, readonly PartKind[]])[] = [
  [/\b(?:[eé]tudes?|studies|study|books?)\b/iu, ['etude']],
  [/\bexcerpts?\b/iu, ['excerpt']],
  [/\b(?:scales?|arpeggios?)\b/iu, ['scale', 'chromatic']],
  [/\b(?:songs?|movements?|pieces?|solos?|set works?)\b/iu, ['solo']],
];

/** "All but the excerpts": every other kind. */
function allBut(plain: string): ReadonlySet<PartKind> | null {
  const left = /^all\s+(?:but|except)\s+(?:the\s+)?(?<rest>[^.;]*?)\s+(?:are|is|must|should|have)\b/iu.exec(
    plain,
  )?.groups?.rest;
  const kinds = left === undefined ? null : kindsNamed(left);
  if (!kinds) return null;
  return new Set(
    (['etude', 'excerpt', 'solo', 'scale', 'chromatic'] as const).filter((kind) => !kinds.has(kind)),
  );
}

/** The kinds of part that a sentence speaks of; null where it names none. */
export function kindsNamed(plain: string): ReadonlySet<PartKind> | null {
  const bare = plain.replace(/["“][^"”]*["”]/gu, ' ').replace(/\banother book\b/giu, ' ');
  const kinds = NOUNS.flatMap(([pattern, own]) => (pattern.test(bare) ? own : []));
  return kinds.length === 0 ? null : new Set(kinds);
}

function withKin(kind: PartKind): ReadonlySet<PartKind> {
  return new Set(kind === 'scale' ? ['scale', 'chromatic'] : kind === 'solo' ? ['solo', 'etude'] : [kind]);
}

/** Whether a claim reaches a part. */
export function reaches({ kinds, place, isLocal, mark, facts }: ScopeClaim, seed: Seed): boolean {
  const { instruments, divisions, options } = place.scope;
  const own = seed.place.scope;
  const within = (names: readonly string[], ownNames: readonly string[]): boolean =>
    names.length === 0 ||
    names.some((name) => ownNames.some((one) => one === name || instrumentKey(one) === instrumentKey(name)));
  if (
    !within(instruments, own.instruments) ||
    !within(divisions, own.divisions) ||
    !within(options, own.options)
  )
    return false;
  if (mark !== null && !seed.evidence.some(({ piece }) => piece.text.includes(mark))) return false;
  if (isLocal && seed.place.section?.id !== place.section?.id) return false;
  if (kinds !== null)
    return (
      kinds.has(seed.kind) ||
      kinds.has(kindOf(seed.label) ?? 'other') ||
      (kinds.has('solo') && seed.place.section?.list != null) ||
      (isLocal && seed.place.section?.id === place.section?.id && kindOf(place.section?.label ?? '') === null)
    );
  return facts.length > 0 && seed.kind !== 'sight-reading' && seed.kind !== 'aural';
}
