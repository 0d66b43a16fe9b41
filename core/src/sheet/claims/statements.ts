import { plainSigns } from '../../base/index.js';
import { scanTempos } from '../../music/index.js';
import { readChoice } from '../choices.js';
import { factsOf } from '../facts/facts-of.js';
import { findDurations, findPoints } from '../find-terms.js';
import type { SheetQuestion } from '../model.js';
import { noteKindOf } from '../notes.js';
import { readDeadlines, whatOf } from '../read-deadlines.js';
import { countOf } from '../span-reader.js';
import { STRENGTH, type Evidence, type Outline, type Seed, type Statement } from '../structure/place.js';
import { isProgram, isScoreList, isUniversal } from '../structure/prose.js';
import type { Piece } from '../text/piece.js';
import { keepNote, noClaims, use, type Claims } from './claims.js';
import { addDivision, readAges, readDivisionsOf } from './divisions.js';
import { kindsNamed, readScope } from './scope-claims.js';
import { dateByWeekday } from './years.js';

/** Reads the sentences that belong to no one part. */
export function claimsOf(outline: Outline, text: string): Claims {
  const claims = noClaims();
  readConventions(claims, plainSigns(text).replace(/\s+/gu, ' '));
  for (const division of outline.divisions) addDivision(claims, division);
  for (const statement of outline.statements) readStatement(claims, statement, outline.seeds);
  dateByWeekday(claims, outline);
  for (const { piece, role } of outline.seeds.flatMap(({ evidence }) => evidence)) {
    const kind = role === 'text' ? noteKindOf(piece.plain) : null;
    if (kind === null || /=/u.test(piece.plain)) continue;
    claims.notes.push({ kind, text: piece.text });
    use(claims, piece, `notes[${claims.notes.length - 1}]`);
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

function readStatement(claims: Claims, statement: Statement, seeds: readonly Seed[]): void {
  const { piece } = statement;
  if (piece.text === '') return;
  const isRead =
    (statement.said !== 'rule' && readAges(claims, statement)) ||
    readDates(claims, piece, statement.asked) ||
    readZone(claims, piece) ||
    readAnswer(claims, statement) ||
    readDivisionsOf(claims, statement) ||
    readProgram(claims, piece) ||
    readScores(claims, statement);
  if (isRead) return;
  if (statement.said === 'dates') return keepUndated(claims, piece);
  const isClaim = readScope(claims, statement, seeds);
  const choice = readChoice(piece.plain, piece.text);
  if (choice && !choice.follows) {
    claims.choices.push({ read: choice, place: statement.place });
    use(claims, piece, 'choices');
  } else if (!choice && !isClaim) keepNote(claims, piece);
  else if (choice) use(claims, piece, 'choices');
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

/** A line that a person said is a date, and that names no day: the day is asked. */
function keepUndated(claims: Claims, piece: Piece): void {
  const what = whatOf(piece.plain) ?? 'other';
  claims.deadlines.push({ what, date: null, time: null, zone: null, text: piece.text });
  claims.questions.push({
    partId: null,
    about: `deadlines[${what}]/date`,
    ask: `Which day is meant by "${piece.text}"?`,
    candidates: [],
  });
  use(claims, piece, `deadlines[${claims.deadlines.length - 1}]`);
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

function readProgram(claims: Claims, piece: Piece): boolean {
  if (!isProgram(piece.plain)) return false;
  const found = findDurations(piece.plain);
  for (const { value } of found) claims.program.push(value);
  if (found.length === 0) return false;
  claims.notes.push({ kind: 'other', text: piece.text });
  return use(claims, piece, 'program');
}

const SCORING = /^(?:scoring|marks|points|marking|weighting)\s*[:.-]\s*/iu;

/** "Studies 1 and 2 carry 35 marks each, sight-reading 30". */
function readManyScores(claims: Claims, piece: Piece, match: RegExpExecArray): boolean {
  const { kind = '', list = '', points = '' } = match.groups ?? {};
  const one = kind.replace(/ies$/iu, 'y').replace(/s$/iu, '');
  for (const name of list.match(/[\dA-H]/gu) ?? [])
    claims.scores.push({ name: `${one} ${name}`, points: Number(points), isEach: true });
  for (const rest of piece.plain
    .slice(match[0].length)
    .matchAll(/(?<name>\p{L}[\p{L} -]*?)\s+(?<points>\d{1,3})(?=\s*(?:[,;.]|marks|points|$))/gu))
    claims.scores.push({
      name: rest.groups?.name?.replace(/^and\s+/iu, '') ?? '',
      points: Number(rest.groups?.points),
      isEach: false,
    });
  return use(claims, piece, 'points');
}

/** "Scoring: scales 30, chromatic 10"; "Items 1 to 4, twenty marks each". */
function readScores(claims: Claims, { piece, place }: Statement): boolean {
  const total = findPoints(piece.plain).find(({ value }) => value.isTotal);
  if (total) claims.total = total.value.points;
  const lead = SCORING.exec(piece.plain);
  const many =
    /^(?<kind>studies|[eé]tudes|excerpts|items|pieces)\s+(?<list>[\dA-H](?:\s*(?:,|and|&|to|-)\s*[\dA-H])*)\s+(?:carry|are\s+worth|count)\s+(?<points>\d{1,3})\s*(?:marks|points)?\s*(?:each)?/iu.exec(
      piece.plain,
    );
  if (many?.groups) return readManyScores(claims, piece, many);
  if (!lead && place.section?.topic !== 'scoring' && !isScoreList(piece.plain))
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
