import { findMentions, kindOf, labelKey } from './labels.js';
import { cleanText, readLines, type Line } from './lines.js';
import { plainSigns, present } from '../base/index.js';
import { findSpans } from './find-spans.js';
import { CoverableText } from './found.js';
import type {
  Deadline,
  SheetChangeNotice,
  SheetNote,
  SheetPart,
  SheetQuestion,
  StructuredSheet,
} from './model.js';
import { noteKindOf } from './notes.js';
import { PartDraft } from './part-draft.js';
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

/** A stated change before it is laid against a sheet; `old` null where the notice does not say what stood. */
interface Statement {
  readonly part: string;
  readonly field: string;
  readonly old: unknown;
  readonly now: unknown;
}

/**
 * Reads an errata notice. With the sheet it amends, what stood before comes from the sheet.
 * Shape:  as ErrataReading
 * Source: docs/formats.md
 */
export function readErrata(raw: string, base: StructuredSheet | null = null): ErrataReading {
  const text = cleanText(raw);
  const lines = readLines(text);
  const labels = base?.parts.map(({ label }) => label) ?? [];
  const changes: SheetChangeNotice[] = [];
  const notes: SheetNote[] = [];
  const questions: SheetQuestion[] = [];
  const unread: string[] = [];
  let subject: string | null = null;
  for (const line of lines) {
    if (line.bullet === null && line.isAfterBlank) subject = null;
    for (const sentence of sentencesOf(line.plain).flatMap((one) => clausesOf(line.plain, one))) {
      const plain = line.plain.slice(sentence.start, sentence.end);
      const printed = line.text.slice(sentence.start, sentence.end).trim();
      if (UNCHANGED.test(plain)) continue;
      const dates = dateChanges(plain, printed, base);
      const named = subjectOf(plain, printed, labels, base);
      subject = named ?? subject;
      const stated =
        dates.length > 0 ? dates : subject === null ? [] : partChanges(plain, printed, subject, base);
      for (const one of stated) addChange(changes, one, base);
      if (stated.length > 0) continue;
      const kind = noteKindOf(plain);
      const isTitle =
        subject === null &&
        isHead(line, lines) &&
        /^\W*(?:notice\s+of\s+)?(?:errat|correct|corrig|amend|addend|changes|update)/iu.test(plain);
      if (isTitle) continue;
      if (kind !== null) {
        notes.push({ kind, text: printed });
        if (subject !== null) changes.push({ part: subject, field: 'notes', old: null, new: printed });
      } else if (named === null && isHead(line, lines)) continue;
      else if (isRule(plain)) notes.push({ kind: 'other', text: printed });
      else if (!/^[\p{P}\s]*$/u.test(plain)) unread.push(printed);
    }
  }
  return { amends: amendsOf(lines, base), changes, notes, questions, unread };
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

/** The part that a sentence speaks of, as the sheet labels it. */
function subjectOf(
  plain: string,
  printed: string,
  labels: readonly string[],
  base: StructuredSheet | null,
): string | null {
  const mention = findMentions(plain, printed)[0] ?? null;
  const byKey = (key: string): string | undefined => labels.find((label) => labelKey(label) === key);
  if (mention) {
    const known = byKey(labelKey(mention.label));
    if (known !== undefined) return known;
    if (mention.isNumbered || base === null)
      return mention.label.replace(/^\p{Ll}/u, (letter) => letter.toUpperCase());
  }
  const byName = labels.find((label) =>
    new RegExp(
      `(?<![\\p{L}\\d])${labelKey(label).replace(/[^\p{L}\d]+/gu, '[- ]?')}s?(?![\\p{L}\\d])`,
      'iu',
    ).test(plain),
  );
  if (byName !== undefined) return byName;
  const byTitle = base?.parts.find(
    ({ title }) => title !== null && plain.toLowerCase().includes(plainSigns(title).toLowerCase()),
  );
  if (byTitle) return byTitle.label;
  const kind = kindOf(plain);
  const ofKind = base?.parts.filter((part) => part.kind === kind) ?? [];
  return ofKind.length === 1 ? present(ofKind[0]).label : null;
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

function partChanges(
  plain: string,
  printed: string,
  subject: string,
  base: StructuredSheet | null,
): Statement[] {
  const part = base?.parts.find(({ label }) => label === subject) ?? null;
  const kind = part?.kind ?? kindOf(subject) ?? 'other';
  const isMusic = noteKindOf(plain) === 'erratum' && !/=|\bpoints?\b/iu.test(plain);
  if (isMusic) return [];
  const { now, old } = halves(plain);
  const read = (text: string): SheetPart => {
    const draft = new PartDraft(subject, kind);
    const own = text === plain ? printed : text;
    const line = new CoverableText(own, plainSigns(own));
    const mention = findMentions(line.plain, own)[0];
    if (mention) line.cover(mention);
    draft.read(line, 0, false);
    return draft.finish().part;
  };
  const after = read(now);
  const before = old === null ? null : read(old);
  return FIELDS.filter((field) => isStated(after[field]))
    .flatMap((field): Statement[] => {
      if (field === 'title' && part?.title === after.title) return [];
      return [
        {
          part: subject,
          field,
          old: part?.[field] ?? (before && isStated(before[field]) ? before[field] : null),
          now: after[field],
        },
      ];
    })
    .concat(
      (['page', 'edition', 'number', 'book', 'composer'] as const)
        .filter((field) => after.source[field] !== null)
        .map((field) => ({
          part: subject,
          field,
          old: part?.source[field] ?? before?.source[field] ?? null,
          now: after.source[field],
        })),
    );
}

function isStated(value: unknown): boolean {
  if (value === null || value === undefined || value === 'unstated') return false;
  if (Array.isArray(value)) return value.length > 0;
  return !(typeof value === 'object' && (value as { bound?: string }).bound === 'none');
}

function addChange(
  changes: SheetChangeNotice[],
  { part, field, old, now }: Statement,
  base: StructuredSheet | null,
): void {
  const isSame = base !== null && JSON.stringify(old) === JSON.stringify(now);
  if (
    isSame ||
    changes.some(
      (change) =>
        change.part === part && change.field === field && JSON.stringify(change.new) === JSON.stringify(now),
    )
  )
    return;
  changes.push({ part, field, old: isStated(old) ? old : null, new: now });
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
      errata.changes.filter((change) => labelKey(change.part) === labelKey(part.label)),
    ),
  );
  const deadlines = sheet.deadlines.map((deadline) => {
    const own = errata.changes.filter((change) => change.part === `deadlines[${deadline.what}]`);
    return own.reduce<Deadline>((result, { field, new: value }) => ({ ...result, [field]: value }), deadline);
  });
  const answered = new Set(errata.changes.map(({ part, field }) => `${part}/${field}`));
  return {
    ...sheet,
    parts,
    deadlines,
    notes: [...sheet.notes, ...errata.notes],
    questions: [...sheet.questions.filter(({ about }) => !answered.has(about)), ...errata.questions],
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
