import { findMentions, kindOf, labelKey } from './labels.js';
import { partSaid } from './assemble/one-part.js';
import { wrapped, type Line } from './structure/wrapped.js';
import { cleanText, readRawLines } from './text/raw-lines.js';
import { plainSigns, present } from '../base/index.js';
import { findSpans } from './find-spans.js';
import type {
  Deadline,
  SheetChangeNotice,
  SheetNote,
  SheetPart,
  SheetQuestion,
  StructuredSheet,
} from './model.js';
import { noteKindOf } from './notes.js';
import { partName } from './identity.js';
import { scopeNames, WHOLE_SCOPE } from './scope.js';
import { readDeadlines, whatOf } from './read-deadlines.js';
import { clausesOf, sentencesOf } from './sentences.js';
import { isRule } from './notes.js';

const UNCHANGED =
  /\b(?:remains?|is|are|stays?)\s+(?:unchanged|the\s+same|as\s+(?:printed|published|before))|\b(?:no|not)\s+changes?\b|\b(?:has|have)\s+not\s+(?:been\s+)?changed|\bunchanged\b|\ball\s+other\b/iu;
const OLD_BEHIND =
  /\s*,?\s*\(?\s*(?:instead\s+of|rather\s+than|in\s+place\s+of|replac(?:es|ing)|not(?!\s+(?:to\s+exceed|faster|slower|less|more|from|required|including))|was|previously|formerly|and\s+not)\s*:?\s+(?<old>.+)$/iu;
const FROM_TO =
  /\b(?:chang(?:es|ed?)|moved?|moves|corrected?|extended|shortened|increased?|reduced?|raised|lowered|amended|revised|postponed|brought\s+forward)\b.*?\bfrom\s+(?<old>.+?)\s+to\s+(?<now>.+)$/iu;
const READS =
  /(?<old>.+?)\s+(?:should\s+(?:be|read)|(?:is|are)\s+(?:changed|corrected|extended|moved|now)\s+to|now\s+reads?|becomes?|is\s+replaced\s+(?:by|with)|->|=>)\s+(?<now>.+)$/iu;
const FIELDS: readonly (keyof SheetPart)[] = [
  'tempo',
  'measures',
  'key',
  'octaves',
  'noteValue',
  'range',
  'articulation',
  'memory',
  'repeats',
  'accompaniment',
  'maxSeconds',
  'minSeconds',
  'points',
  'title',
];

/**
 * A notice that amends a sheet.
 * Shape:  `changes` name each field with what stood and what stands now; what is said to be unchanged is no change
 * Units:  as StructuredSheet
 * Source: docs/formats.md
 */
export interface ErrataReading {
  readonly amends: string | null;
  readonly changes: readonly SheetChangeNotice[];
  readonly notes: readonly SheetNote[];
  readonly questions: readonly SheetQuestion[];
  readonly unread: readonly string[];
}

/** What a sentence speaks of: a part of the sheet, or the name of one that no sheet is there for. */
interface Subject {
  readonly label: string;
  readonly part: SheetPart | null;
}

/** A stated change before it is laid against a sheet; `old` null where the notice does not say what stood. */
interface Statement {
  readonly partId: string | null;
  readonly part: string;
  readonly field: string;
  readonly old: unknown;
  readonly now: unknown;
}

const TITLE = /^\W*(?:notice\s+of\s+)?(?:errat|correct|corrig|amend|addend|changes|update)/iu;

/**
 * Reads an errata notice. With the sheet it amends, what stood before comes from the sheet.
 * Shape:  as ErrataReading
 * Source: docs/formats.md
 */
export function readErrata(raw: string, base: StructuredSheet | null = null): ErrataReading {
  const text = cleanText(raw);
  const lines = wrapped(readRawLines(text));
  const changes: SheetChangeNotice[] = [];
  const notes: SheetNote[] = [];
  const questions: SheetQuestion[] = [];
  const unread: string[] = [];
  let subject: Subject | null = null;
  for (const line of lines) {
    if (line.bullet === null && line.isAfterBlank) subject = null;
    for (const sentence of sentencesOf(line.plain).flatMap((one) => clausesOf(line.plain, one))) {
      const plain = line.plain.slice(sentence.start, sentence.end);
      const printed = line.text.slice(sentence.start, sentence.end).trim();
      if (UNCHANGED.test(plain)) continue;
      const dates = dateChanges(plain, printed, base);
      const near = narrowed(subjectsOf(plain, printed, base), headsAbove(lines, line), plain);
      const named = near.length === 1 ? present(near[0]) : null;
      if (near.length > 1) {
        questions.push(whichPart(printed, near, base));
        unread.push(printed);
        subject = null;
        continue;
      }
      subject = named ?? subject;
      const stated = dates.length > 0 ? dates : subject === null ? [] : partChanges(plain, printed, subject);
      for (const one of stated) addChange(changes, one, base);
      if (stated.length > 0) continue;
      const kind = noteKindOf(plain);
      if (subject === null && isHead(line, lines) && TITLE.test(plain)) continue;
      if (kind !== null) {
        notes.push({ kind, text: printed });
        if (subject !== null) changes.push(noteChange(subject, printed));
      } else if (named === null && isHead(line, lines)) continue;
      else if (isRule(plain)) notes.push({ kind: 'other', text: printed });
      else if (!/^[\p{P}\s]*$/u.test(plain)) unread.push(printed);
    }
  }
  return { amends: amendsOf(lines, base), changes, notes, questions, unread };
}

/** A change in the music itself. */
function noteChange({ label, part }: Subject, text: string): SheetChangeNotice {
  return { partId: part?.id ?? null, part: label, field: 'notes', old: null, new: text };
}

function isHead(line: Line, lines: readonly Line[]): boolean {
  return lines.indexOf(line) < 3 || /^(?:erratum|errata|correction|notice|changes?)/iu.test(line.plain);
}

/** The sheet that a notice names in its first lines: "Errata to the 2027 clarinet requirements". */
function amendsOf(lines: readonly Line[], base: StructuredSheet | null): string | null {
  if (base?.body) return [base.body, base.year].filter((part) => part !== null).join(' ');
  const head = lines.slice(0, 4).map(({ text }) => text);
  const match = head
    .map(
      (text) =>
        /\b(?:errat(?:um|a)|corrections?|changes?|amendments?|notice|update)\b.*?\b(?:to|for|concerning|of|in)\s+(?:the\s+)?(.+)$/iu.exec(
          text,
        )?.[1],
    )
    .find((found) => found !== undefined);
  const named =
    match ??
    head.find(
      (text) =>
        !/^(?:errat(?:um|a)|corrections?|notice)\b.{0,12}$/iu.test(text) &&
        /20\d\d/u.test(text) &&
        text.length < 90,
    );
  return named?.replace(/[.:]$/u, '').trim() ?? null;
}

/** The parts that a sentence may speak of: several where more than one carries the name. */
function subjectsOf(plain: string, printed: string, base: StructuredSheet | null): Subject[] {
  const parts = base?.parts ?? [];
  const known = (found: readonly SheetPart[]): Subject[] =>
    found.map((part) => ({ label: part.label, part }));
  const mention = findMentions(plain, printed)[0] ?? null;
  if (mention) {
    const named = parts.filter(({ label }) => labelKey(label) === labelKey(mention.label));
    if (named.length > 0) return known(named);
    if (mention.isNumbered || base === null)
      return [{ label: mention.label.replace(/^\p{Ll}/u, (letter) => letter.toUpperCase()), part: null }];
  }
  const first = parts.find(({ label }) =>
    new RegExp(
      `(?<![\\p{L}\\d])${labelKey(label).replace(/[^\p{L}\d]+/gu, '[- ]?')}s?(?![\\p{L}\\d])`,
      'iu',
    ).test(plain),
  );
  if (first) return known(parts.filter(({ label }) => labelKey(label) === labelKey(first.label)));
  const byTitle = parts.filter(
    ({ title }) => title !== null && plain.toLowerCase().includes(plainSigns(title).toLowerCase()),
  );
  if (byTitle.length > 0) return known(byTitle);
  const kind = kindOf(plain);
  const ofKind = parts.filter((part) => part.kind === kind);
  return ofKind.length === 1 ? known(ofKind) : [];
}

/** Lines above that name no part: headings such as "Clarinet". */
function headsAbove(lines: readonly Line[], line: Line): string[] {
  return lines
    .slice(0, lines.indexOf(line))
    .map(({ plain }) => plain)
    .filter((plain) => plain.length < 60 && findMentions(plain, plain).length === 0)
    .reverse();
}

/** Of parts of one name, those whose instrument, division or list the sentence names, or else the nearest line above. */
function narrowed(subjects: readonly Subject[], heads: readonly string[], plain: string): readonly Subject[] {
  if (subjects.length < 2) return subjects;
  for (const text of [plain, ...heads]) {
    const named = subjects.filter(({ part }) =>
      scopeNames(part?.scope ?? WHOLE_SCOPE).some((name) =>
        new RegExp(`(?<!\\p{L})${name.replace(/[^\p{L}\d]+/gu, '[^\\p{L}]*')}s?(?!\\p{L})`, 'iu').test(text),
      ),
    );
    if (named.length > 0 && named.length < subjects.length) return named;
  }
  return subjects;
}

function whichPart(
  printed: string,
  subjects: readonly Subject[],
  base: StructuredSheet | null,
): SheetQuestion {
  const names = subjects.flatMap(({ part }) => (part ? [partName(part, base?.parts ?? [])] : []));
  return {
    partId: null,
    about: 'changes',
    ask: `"${printed}" Which one is meant: ${names.join(' or ')}?`,
    candidates: names,
  };
}

function dateChanges(plain: string, printed: string, base: StructuredSheet | null): Statement[] {
  const what = whatOf(plain);
  const { now, old } = halves(plain);
  const read = (text: string): readonly Deadline[] =>
    readDeadlines(text, text).map(({ deadline }) => deadline);
  const dates = read(now);
  const last = dates.at(-1);
  if (!last) return [];
  const kind = last.what !== 'other' ? last.what : (what ?? 'other');
  // "Issued October 3" dates the notice, not the audition.
  if (kind === 'other' && !(base?.deadlines ?? []).some((deadline) => deadline.what === 'other')) return [];
  const before = base?.deadlines.find((deadline) => deadline.what === kind) ?? null;
  const stood = (old === null ? (dates.length > 1 ? dates[0] : undefined) : read(old)[0]) ?? null;
  const fields = (['date', 'time', 'zone'] as const).filter((field) => last[field] !== null);
  return fields.map((field) => ({
    partId: null,
    part: `deadlines[${kind}]`,
    field,
    old: before?.[field] ?? stood?.[field] ?? null,
    now: last[field],
    printed,
  }));
}

/** What a sentence says stands now, and what it says stood before. */
function halves(plain: string): { readonly now: string; readonly old: string | null } {
  const runs = measureRuns(plain);
  if (runs) return runs;
  const fromTo = FROM_TO.exec(plain);
  if (fromTo?.groups)
    return { now: `${plain.slice(0, fromTo.index)}${fromTo.groups.now}`, old: fromTo.groups.old ?? null };
  const behind = OLD_BEHIND.exec(plain);
  if (behind?.groups && /\d|memory|repeat|major|minor|octave/iu.test(behind.groups.old ?? ''))
    return { now: plain.slice(0, behind.index), old: (behind.groups.old ?? '').replace(/\)?[.;]*$/u, '') };
  const reads = READS.exec(plain);
  if (reads?.groups) return { now: reads.groups.now ?? '', old: reads.groups.old ?? null };
  return { now: plain, old: null };
}

/** "from mm. 9 to the end to mm. 1 to the end": cut where both halves are runs of measures. */
function measureRuns(plain: string): { readonly now: string; readonly old: string } | null {
  const from = /\bfrom\s+/iu.exec(plain);
  if (!from || !FROM_TO.test(plain)) return null;
  const rest = plain.slice(from.index + from[0].length);
  for (const { index, 0: joint } of rest.matchAll(/\s+to\s+/giu)) {
    const [old, now] = [rest.slice(0, index), rest.slice(index + joint.length)];
    const isRun = (text: string): boolean =>
      findSpans(text, text).some(
        ({ start, value }) => start === 0 && value.some((span) => span.from !== span.to),
      );
    if (isRun(old) && isRun(now)) return { now: `${plain.slice(0, from.index)}${now}`, old };
  }
  return null;
}

const SOURCE_FIELDS = ['page', 'edition', 'number', 'book', 'composer'] as const;

function partChanges(plain: string, printed: string, { label, part }: Subject): Statement[] {
  const kind = part?.kind ?? kindOf(label) ?? 'other';
  const partId = part?.id ?? null;
  const isMusic = noteKindOf(plain) === 'erratum' && !/=|\bpoints?\b/iu.test(plain);
  if (isMusic) return [];
  const { now, old } = halves(plain);
  const read = (text: string): SheetPart => {
    const own = text === plain ? printed : text;
    const [mention] = findMentions(plainSigns(own), own);
    const rest = mention ? `${own.slice(0, mention.start)} ${own.slice(mention.end)}` : own;
    return partSaid(rest.trim(), kind);
  };
  const after = read(now);
  const before = old === null ? null : read(old);
  const own = FIELDS.filter(
    (field) => isStated(after[field]) && !(field === 'title' && part?.title === after.title),
  ).map((field): Statement => ({
    partId,
    part: label,
    field,
    old: part?.[field] ?? (before && isStated(before[field]) ? before[field] : null),
    now: after[field],
  }));
  const ofTheSource = SOURCE_FIELDS.filter((field) => after.source[field] !== null).map(
    (field): Statement => ({
      partId,
      part: label,
      field,
      old: part?.source[field] ?? before?.source[field] ?? null,
      now: after.source[field],
    }),
  );
  return [...own, ...ofTheSource];
}

function isStated(value: unknown): boolean {
  if (value === null || value === undefined || value === 'unstated') return false;
  if (Array.isArray(value)) return value.length > 0;
  return !(typeof value === 'object' && (value as { bound?: string }).bound === 'none');
}

function addChange(
  changes: SheetChangeNotice[],
  { partId, part, field, old, now }: Statement,
  base: StructuredSheet | null,
): void {
  const isSame = base !== null && JSON.stringify(old) === JSON.stringify(now);
  if (
    isSame ||
    changes.some(
      (change) =>
        change.partId === partId &&
        change.part === part &&
        change.field === field &&
        JSON.stringify(change.new) === JSON.stringify(now),
    )
  )
    return;
  changes.push({ partId, part, field, old: isStated(old) ? old : null, new: now });
}

/**
 * The sheet as a notice leaves it.
 * Shape:  parts and dates carry the new values; notes and questions of the notice are added; a question that a change
 *         answers is gone
 * Units:  as StructuredSheet
 * Source: docs/formats.md
 */
export function amendSheet(sheet: StructuredSheet, errata: ErrataReading): StructuredSheet {
  const parts = sheet.parts.map((part) =>
    amendPart(
      part,
      errata.changes.filter(({ partId }) => partId === part.id),
    ),
  );
  const deadlines = sheet.deadlines.map((deadline) => {
    const own = errata.changes.filter((change) => change.part === `deadlines[${deadline.what}]`);
    return own.reduce<Deadline>((result, { field, new: value }) => ({ ...result, [field]: value }), deadline);
  });
  const answered = new Set(errata.changes.map(({ partId, part, field }) => `${partId ?? part}/${field}`));
  const isAnswered = ({ partId, about }: SheetQuestion): boolean =>
    answered.has(partId === null ? about : `${partId}/${about.replace(/^.*\//u, '')}`);
  return {
    ...sheet,
    parts,
    deadlines,
    notes: [...sheet.notes, ...errata.notes],
    questions: [...sheet.questions.filter((question) => !isAnswered(question)), ...errata.questions],
    amends: errata.amends,
    changes: errata.changes,
  };
}

function amendPart(part: SheetPart, changes: readonly SheetChangeNotice[]): SheetPart {
  return changes.reduce<SheetPart>((result, { field, new: value }) => {
    if (field in result.source) return { ...result, source: { ...result.source, [field]: value } };
    return field in result ? { ...result, [field]: value } : result;
  }, part);
}

/**
 * Whether a text is a notice that amends a sheet and not a sheet.
 * Shape:  one of its first lines says so
 * Source: common practice, no source
 */
export function isErrataNotice(raw: string): boolean {
  const head = cleanText(raw)
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '')
    .slice(0, 3);
  return head.some(
    (line) =>
      /^(?:notice\s+of\s+)?(?:errat(?:um|a)|corrections?|corrigend(?:um|a)|amendments?|addend(?:um|a)|changes\s+to|update\s+to)\b/iu.test(
        line,
      ) ||
      /\b(?:errat(?:um|a)|corrections?|amendments?)\s*(?:notice|sheet|to\s+the|for\s+the|[-–—:]|$|\()/iu.test(
        line,
      ),
  );
}
