import { plainSigns } from '../../base/index.js';
import { scanTempos, type BeatUnit } from '../../music/index.js';
import { readChoice, type ChoiceRead } from '../choices.js';
import { factsOf } from '../facts/facts-of.js';
import type { Fact } from '../facts/text-facts.js';
import { findDivisions } from '../find-divisions.js';
import { findDurations, findPoints } from '../find-terms.js';
import { kindOf } from '../labels.js';
import type { Deadline, Division, PartKind, SheetNote, SheetQuestion } from '../model.js';
import { instrumentNames } from '../heading.js';
import { instrumentKey } from '../scope.js';
import { isRule, noteKindOf } from '../notes.js';
import { readDeadlines, whatOf } from '../read-deadlines.js';
import { clausesOf } from '../sentences.js';
import { countOf } from '../span-reader.js';
import {
  STRENGTH,
  type Evidence,
  type Outline,
  type Place,
  type Seed,
  type Statement,
} from '../structure/place.js';
import { isProgram, isUniversal } from '../structure/prose.js';
import { slice, type Piece } from '../text/piece.js';
import { dateByWeekday } from './years.js';

/** A claim on several parts: those of some kinds, in a place, or with a mark of a footnote. Shape: `kinds` null for all */
export interface ScopeClaim {
  readonly kinds: ReadonlySet<PartKind> | null;
  readonly place: Place;
  /** Whether it holds only under its own heading. */
  readonly isLocal: boolean;
  readonly mark: string | null;
  readonly facts: readonly Fact[];
  readonly piece: Piece;
}

/** Points of a kind or of named parts, as a list of them states. */
export interface ScoreLine {
  readonly name: string;
  readonly points: number;
  readonly isEach: boolean;
}

/** What the sentences of a sheet claim beside what stands with each part. */
export interface Claims {
  readonly deadlines: Deadline[];
  readonly divisions: Division[];
  readonly notes: SheetNote[];
  readonly questions: SheetQuestion[];
  readonly scopes: ScopeClaim[];
  readonly choices: { readonly read: ChoiceRead; readonly place: Place }[];
  readonly scores: ScoreLine[];
  readonly program: { minSeconds: number | null; maxSeconds: number | null }[];
  total: number | null;
  /** Points that several parts share. */
  readonly shared: number[];
  /** What scales are where only their letters are printed, and which note gets the beat where only numbers are. */
  mode: string | null;
  beat: BeatUnit | null;
  /** Letters that stand for books. */
  readonly books: { readonly name: string; readonly book: string; readonly composer: string | null }[];
  readonly used: { readonly piece: Piece; readonly about: string }[];
  readonly unread: Piece[];
}

const SCORING = /^(?:scoring|marks|points|marking|weighting)\s*[:.-]\s*/iu;
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

function noClaims(): Claims {
  return {
    deadlines: [],
    divisions: [],
    notes: [],
    questions: [],
    scopes: [],
    choices: [],
    scores: [],
    program: [],
    total: null,
    shared: [],
    mode: null,
    beat: null,
    books: [],
    used: [],
    unread: [],
  };
}

/** Of a text that is read for itself. */
export const NO_CLAIMS: Claims = Object.freeze(noClaims());

/** Reads the sentences that belong to no one part. */
export function claimsOf(outline: Outline, text: string): Claims {
  const claims = noClaims();
  readConventions(claims, plainSigns(text).replace(/\s+/gu, ' '));
  for (const division of outline.divisions) addDivision(claims, division);
  for (const statement of outline.statements) readStatement(claims, statement);
  dateByWeekday(claims, outline);
  for (const { piece, role } of outline.seeds.flatMap(({ evidence }) => evidence)) {
    const kind = role === 'text' ? noteKindOf(piece.plain) : null;
    if (kind !== null && !/=/u.test(piece.plain)) claims.notes.push({ kind, text: piece.text });
  }
  return claims;
}

/** What holds wherever less is printed: the mode of scales, the note of the beat, letters for books. */
function readConventions(claims: Claims, plain: string): void {
  const modes = new Set(
    [...plain.matchAll(/\b(major|minor)\s+scales\b/giu)].map(([, mode]) => mode?.toLowerCase() ?? ''),
  );
  if (modes.size === 1) claims.mode = [...modes][0] ?? null;
  const beat =
    /\b(?<unit>(?:dotted[- ])?(?:quarter|eighth|half|crotchet|quaver|minim))(?:[- ]note)?\s+gets\s+the\s+beat\b/iu.exec(
      plain,
    )?.groups?.unit;
  const [mark] = beat === undefined ? [] : scanTempos(`${beat} = 60`);
  claims.beat = mark?.mark.beatUnit ?? null;
  for (const { groups } of plain.matchAll(
    /(?<![\p{L}])(?<name>[A-Z]{1,4})\s*=\s*"(?<book>[^"]+?)[,.]?"(?:\s+by\s+(?<composer>(?:\p{Lu}[\p{L}.'-]*\s*){1,4}))?/gu,
  ))
    claims.books.push({
      name: groups?.name ?? '',
      book: groups?.book ?? '',
      composer: groups?.composer?.trim() ?? null,
    });
}

function readStatement(claims: Claims, statement: Statement): void {
  const { piece } = statement;
  if (piece.text === '') return;
  const isRead =
    readAges(claims, statement) ||
    readDates(claims, piece, statement.asked) ||
    readZone(claims, piece) ||
    readAnswer(claims, statement) ||
    readDivisionsOf(claims, statement) ||
    readProgram(claims, piece) ||
    readScores(claims, statement);
  if (isRead) return;
  const isClaim = readScope(claims, statement);
  const choice = readChoice(piece.plain, piece.text);
  if (choice && !choice.follows) {
    claims.choices.push({ read: choice, place: statement.place });
    use(claims, piece, 'choices');
  } else if (!choice && !isClaim) keepNote(claims, piece);
  else if (choice) use(claims, piece, 'choices');
}

function use(claims: Claims, piece: Piece, about: string): true {
  claims.used.push({ piece, about });
  return true;
}

function keepNote(claims: Claims, piece: Piece): void {
  const kind = noteKindOf(piece.plain) ?? (isRule(piece.plain) || piece.plain.length > 24 ? 'other' : null);
  if (kind === null) {
    claims.unread.push(piece);
    return;
  }
  claims.notes.push({ kind, text: piece.text });
  use(claims, piece, `notes[${claims.notes.length - 1}]`);
}

/** A rule of ages names a day, which is no deadline. */
function readAges(claims: Claims, statement: Statement): boolean {
  const { piece } = statement;
  if (statement.place.section?.topic === 'divisions') return readDivisionsOf(claims, statement);
  const found = findDivisions(piece.plain, piece.text).filter(
    ({ value }) => value.ageMin !== null || value.ageMax !== null,
  );
  const isRule =
    found.length > 0 && /\b(?:old|age|aged|ages|under|over|not yet|younger|older)\b/iu.test(piece.plain);
  if (!isRule) return false;
  for (const { value } of found) addDivision(claims, value);
  return use(claims, piece, 'division');
}

/** "All times are local": the zone of every date that names none. */
function readZone(claims: Claims, piece: Piece): boolean {
  const zone = /^all\s+times\s+(?:are|in)\s+(?:in\s+)?(?<zone>.+?)\.?$/iu.exec(piece.text)?.groups?.zone;
  if (zone === undefined) return false;
  const named = /^local$/iu.test(zone) ? 'local time' : zone;
  claims.deadlines.splice(
    0,
    claims.deadlines.length,
    ...claims.deadlines.map((one) => ({ ...one, zone: one.zone ?? named })),
  );
  return use(claims, piece, 'deadlines');
}

function readDates(claims: Claims, piece: Piece, asked: Piece | null): boolean {
  const found = readDeadlines(piece.plain, piece.text);
  for (const { deadline: read, question: day, timeQuestion: hour } of found) {
    const what = asked ? (whatOf(asked.plain) ?? read.what) : read.what;
    const deadline = { ...read, what };
    const about = (one: SheetQuestion | null): SheetQuestion | null =>
      one && { ...one, about: one.about.replace(/\[[^\]]*\]/u, `[${what}]`) };
    const [question, timeQuestion] = [about(day), about(hour)];
    claims.deadlines.push(deadline);
    if (question) claims.questions.push(question);
    if (timeQuestion) claims.questions.push(timeQuestion);
    use(claims, piece, `deadlines[${claims.deadlines.length - 1}]`);
  }
  return found.length > 0;
}

/** The answer to a question of the page's own: of the part that the question names, or of what it asks about. */
function readAnswer(claims: Claims, { piece, seed, asked, place }: Statement): boolean {
  if (!asked) return false;
  const evidence: Evidence = { piece, role: 'text', strength: STRENGTH.own, isHead: false };
  if (seed) {
    seed.evidence.push(evidence);
    return true;
  }
  const kinds = kindsNamed(`${asked.plain} ${piece.plain}`);
  const facts = factsOf(evidence, 'etude').filter(
    ({ field }) => field === 'repeats' || field === 'memory' || field === 'accompaniment',
  );
  if (facts.length > 0) claims.scopes.push({ kinds, place, isLocal: false, mark: null, facts, piece });
  keepNote(claims, piece);
  return true;
}

function readDivisionsOf(claims: Claims, { piece, place }: Statement): boolean {
  const found = findDivisions(piece.plain, piece.text).filter(
    ({ value }) =>
      place.section?.topic === 'divisions' ||
      value.gradeMin !== null ||
      value.ageMin !== null ||
      value.ageMax !== null,
  );
  const lead =
    place.section?.topic === 'divisions'
      ? (/^(?<name>\p{Lu}[\p{L} ]{2,24}?)\s*(?:-|:|\()/u.exec(piece.plain)?.groups?.name ?? null)
      : null;
  for (const { value } of found) addDivision(claims, { ...value, name: value.name ?? lead });
  if (found.length > 0) use(claims, piece, 'division');
  return found.length > 0;
}

/** A division that says more of one that is known completes it. */
function addDivision({ divisions }: Claims, next: Division): void {
  const isAlone = divisions.length === 1 && (next.name === null || divisions[0]?.name === null);
  const at = isAlone ? 0 : divisions.findIndex(({ name }) => name === next.name);
  const known = divisions[at];
  const isSaid = divisions.some(
    ({ gradeMin, gradeMax }) =>
      next.gradeMin !== null && gradeMin === next.gradeMin && gradeMax === next.gradeMax,
  );
  if (!known && next.name === null && isSaid) return;
  if (!known) {
    divisions.push(next);
    return;
  }
  divisions[at] = {
    name: known.name ?? next.name,
    gradeMin: known.gradeMin ?? next.gradeMin,
    gradeMax: known.gradeMax ?? next.gradeMax,
    ageMin: known.ageMin ?? next.ageMin,
    ageMax: known.ageMax ?? next.ageMax,
    asOf: known.asOf ?? next.asOf,
    text: known.text,
  };
}

function readProgram(claims: Claims, piece: Piece): boolean {
  if (!isProgram(piece.plain)) return false;
  const found = findDurations(piece.plain);
  for (const { value } of found) claims.program.push(value);
  if (found.length === 0) return false;
  claims.notes.push({ kind: 'other', text: piece.text });
  return use(claims, piece, 'program');
}

/** "Scoring: scales 30, chromatic 10"; "Items 1 to 4, twenty marks each". */
function readScores(claims: Claims, { piece, place }: Statement): boolean {
  const total = findPoints(piece.plain).find(({ value }) => value.isTotal);
  if (total) claims.total = total.value.points;
  const lead = SCORING.exec(piece.plain);
  if (!lead && place.section?.topic !== 'scoring')
    return total !== undefined && !isUniversal(piece.plain) && use(claims, piece, 'points');
  const own = piece.plain.slice(lead?.[0].length ?? 0);
  for (const line of own.split(own.includes(';') ? /;/u : /,|\band\b/u)) {
    const match =
      /^\s*(?:and\s+)?(?<name>\p{L}[\p{L}\d -]*?)\s*(?:,|:|=|-|\bfor\b)?\s+(?<points>\d{1,3}|ten|fifteen|twenty|thirty|forty|fifty)(?:\s*(?:marks?|points?|pts|%))?(?<each>\s+each)?\s*[.]?\s*$/iu.exec(
        line,
      );
    const { name = '', points = '', each } = match?.groups ?? {};
    if (!match) continue;
    const number = /\d/u.test(points) ? Number(points) : (WORDS[points.toLowerCase()] ?? countOf(points));
    claims.scores.push({ name: name.trim(), points: number, isEach: each !== undefined });
  }
  claims.notes.push({ kind: 'other', text: piece.text });
  return use(claims, piece, 'points');
}

const WORDS: Readonly<Record<string, number>> = { thirty: 30, forty: 40, fifty: 50 };

/** A sentence about all parts of a kind, or about all under its heading. */
function readScope(claims: Claims, { piece, place, seed }: Statement): boolean {
  const universal =
    isUniversal(piece.plain) || /^(?:no\s+)?(?:by\s+heart|from\s+memory|by\s+memory)\.?$/iu.test(piece.plain);
  const isLocal = place.section?.kind != null && !/\bunless\b|\bthroughout\b/iu.test(piece.plain);
  if (!universal && (!isLocal || seed !== null)) return false;
  let before: readonly Fact[] = [];
  let isAny = false;
  for (const { start, end } of clausesOf(piece.plain, { start: 0, end: piece.plain.length }).flatMap((one) =>
    byEach(piece.plain, one),
  )) {
    const clause = slice(
      piece,
      start + (/^\s*books?\s*(?:for\s+[^:]{3,20})?:/iu.exec(piece.plain.slice(start, end))?.[0].length ?? 0),
      end,
    );
    const kinds =
      (/^books?\b/iu.test(piece.plain) ? new Set<PartKind>(['etude']) : kindsNamed(clause.plain)) ??
      (isLocal && place.section?.kind ? withKin(place.section.kind) : null);
    const facts = sharedFacts(clause, kinds, { before, isNamed: /^books?\b/iu.test(piece.plain) });
    const mark =
      /\bmarked\s+(?:with\s+)?(?:an?\s+)?(?<mark>[*†‡]+)/u.exec(clause.plain)?.groups?.mark ?? null;
    if (facts.length === 0) continue;
    const scoped = byInstrument(clause, { kinds, place });
    if (scoped.length > 0) {
      claims.scopes.push(...scoped);
      isAny = true;
      continue;
    }
    claims.scopes.push({
      kinds,
      place,
      isLocal: isLocal && kindsNamed(clause.plain) === null,
      mark,
      facts: mark === null ? facts : facts.map((fact) => ({ ...fact, strength: STRENGTH.footnote })),
      piece: clause,
    });
    before = facts;
    isAny = true;
  }
  if (isAny) use(claims, piece, 'parts');
  if (isAny && noteKindOf(piece.plain)) keepNote(claims, piece);
  return isAny;
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
      facts: sharedFacts(piece, kinds, { before: [], isNamed: true }),
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
  { before, isNamed }: { readonly before: readonly Fact[]; readonly isNamed: boolean },
): readonly Fact[] {
  const kind = kinds?.has('scale') ? 'scale' : ([...(kinds ?? [])][0] ?? 'etude');
  const isDefault = /\bunless\b|\botherwise\b/iu.test(clause.plain);
  const strength = isDefault ? STRENGTH.document : STRENGTH.section;
  const lead =
    /^(?:(?:all|every|each|both|the)\s+)?(?:[eé]tudes?|studies|excerpts|pieces)\s+(?:is|are)\s+(?:taken\s+)?(?=(?:from|by|in)\s)/iu.exec(
      clause.plain,
    )?.[0].length ?? 0;
  const evidence: Evidence = { piece: slice(clause, lead), role: 'text', strength, isHead: true };
  // "Movements need not be from memory; the scales do."
  const [only] = before;
  if (
    /^(?:the\s+)?\p{L}+\s+(?:do|must|are|is|should)\.?$/iu.test(clause.plain) &&
    only &&
    typeof only.value === 'boolean'
  )
    return [{ ...only, value: !only.value }];
  const facts = factsOf(evidence, kind);
  const isBook = /\b(?:from|in|book|by)\b/iu.test(clause.plain);
  return facts.flatMap((fact): Fact[] => {
    const hasComposer = facts.some(({ field }) => field === 'composer');
    if (
      fact.field === 'title' &&
      /^(?:[eé]tudes|studies|all|every|both)\b/iu.test(String(fact.value)) &&
      !/["“]/u.test(String(fact.value))
    )
      return [];
    if (fact.field === 'title')
      return isNamed || (kind === 'etude' && hasComposer && !/["“]/u.test(clause.text))
        ? [{ ...fact, field: 'book' }]
        : isBook && /["“]|book/iu.test(clause.text)
          ? [{ ...fact, field: 'book', value: quotedIn(String(fact.value)) }]
          : [];
    if (fact.field === 'number' || fact.field === 'page' || fact.field === 'measures') return [];
    if (fact.field === 'tempo' && kind !== 'scale' && !isDefault) return [];
    return SHARED.has(fact.field) ? [fact] : [];
  });
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
      (isLocal && seed.place.section?.id === place.section?.id && kindOf(place.section?.label ?? '') === null)
    );
  return facts.length > 0 && seed.kind !== 'sight-reading' && seed.kind !== 'aural';
}
