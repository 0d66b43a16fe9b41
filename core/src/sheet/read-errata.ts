import { scanTempos, type BeatUnit, type TempoMark } from '../music/index.js';
import { findMentions, kindOf, labelKey } from './labels.js';
import { fieldOf, PART_FIELDS } from './part-fields.js';
import { readPoint } from './span-reader.js';
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
  SheetSpan,
  StructuredSheet,
} from './model.js';
import { readHeading } from './heading.js';
import { noteKindOf } from './notes.js';
import { partName } from './identity.js';
import { scopeNames, WHOLE_SCOPE } from './scope.js';
import { readDeadlines, whatOf } from './read-deadlines.js';
import { clausesOf, sentencesOf } from './sentences.js';
import { isRule } from './notes.js';

const UNCHANGED =
  /\bstill\s+(?:starts?|begins?|ends?|holds?)\b|\bstays?\s+(?:where|as)\b|\b(?:is|are)\s+(?:correct|right)\s+as\s+printed\b|\b(?:remains?|is|are|stays?)\s+(?:unchanged|the\s+same|as\s+(?:printed|published|before))|\b(?:no|not)\s+changes?\b|\b(?:has|have)\s+not\s+(?:been\s+)?changed|\bunchanged\b|\ball\s+other\b/iu;
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
      if (stated.length > 0) {
        notes.push({ kind: 'erratum', text: printed });
        continue;
      }
      const kind = noteKindOf(plain);
      if (subject === null && isHead(line, lines) && TITLE.test(plain)) continue;
      if (kind !== null) {
        notes.push({ kind: 'erratum', text: printed });
        if (subject !== null) changes.push(noteChange(subject, printed));
      } else if (named === null && isHead(line, lines)) continue;
      else if (isRule(plain) || /^new rule\b|\beverybody\b|\beveryone\b/iu.test(plain))
        notes.push({ kind: 'erratum', text: printed });
      else if (!/^[\p{P}\s]*$/u.test(plain)) unread.push(printed);
    }
  }
  const stranger = otherSheet(lines, base);
  if (stranger !== null)
    return {
      amends: stranger,
      changes: [],
      notes: [],
      questions: [
        {
          partId: null,
          about: 'amends',
          ask: `This notice is for “${stranger}”, not for this sheet; nothing was changed. Paste it where it belongs.`,
          candidates: [],
        },
      ],
      unread: [],
    };
  return { amends: amendsOf(lines, base), changes, notes, questions, unread };
}

/** A change in the music itself. */
function noteChange({ label, part }: Subject, text: string): SheetChangeNotice {
  return { partId: part?.id ?? null, part: label, field: 'notes', old: null, new: text };
}

function isHead(line: Line, lines: readonly Line[]): boolean {
  return lines.indexOf(line) < 3 || /^(?:erratum|errata|correction|notice|changes?)/iu.test(line.plain);
}

/** The body that a notice names, where it is another than the sheet's. Shape: null where it is the same or not said */
function otherSheet(lines: readonly Line[], base: StructuredSheet | null): string | null {
  const { body } = readHeading(lines.slice(0, 5), '');
  if (!base?.body || body === null) return null;
  const words = (text: string): Set<string> => new Set(text.toLowerCase().match(/\p{L}{4,}/gu) ?? []);
  const own = words(base.body);
  const whole = words(
    lines
      .slice(0, 8)
      .map(({ text }) => text)
      .join(' '),
  );
  return own.size >= 2 && [...own].filter((word) => whole.has(word)).length === 0 ? body : null;
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
  // "Etude 1 (Study No. 14)": by the number in its book.
  const number = /\b(?:study|[eé]tude|no\.?)\s*(?:no\.?\s*)?(?<n>\d{1,3}[a-z]?)\)/iu.exec(plain)?.groups?.n;
  const byNumber = parts.filter(({ source }) => number !== undefined && source.number === number);
  if (byNumber.length > 0) return known(byNumber);
  const mention = findMentions(plain, printed)[0] ?? null;
  if (mention) {
    const named = parts.filter(({ label }) => labelKey(label) === labelKey(mention.label));
    if (named.length > 0) return known(named);
    // "Etude 2" of a sheet that names its etudes otherwise is the second of them.
    const nth = Number(/\s(\d{1,2})$/u.exec(mention.label)?.[1] ?? Number.NaN);
    const ofKind = parts.filter(({ kind }) => kind === kindOf(mention.label));
    const counted = ofKind[nth - 1];
    if (counted && new Set(ofKind.map(({ scope }) => JSON.stringify(scope))).size === 1)
      return known([counted]);
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
    now: field === 'date' ? inYearOf(last.date, before?.date ?? null) : last[field],
    printed,
  }));
}

/** A day without its year is in the year of the day that it takes the place of. */
function inYearOf(date: string | null, before: string | null): string | null {
  const year = /^\d{4}/u.exec(before ?? '')?.[0];
  return date?.startsWith('--') && year !== undefined ? date.replace(/^--/u, `${year}-`) : date;
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

type Change = Pick<Statement, 'field' | 'old' | 'now'>;

/** "For “A” read “B”", "change “A” to “B”": what the two say differently. */
function quoted(plain: string, printed: string, { label, part }: Subject): Change[] | null {
  const match =
    /(?:\bfor|\bchange|\breplace|\binstead\s+of)\s+"(?<old>[^"]+)"\s*,?\s*(?:please\s+)?(?:read|to|with|by|put|play)\s+"(?<now>[^"]+)"/iu.exec(
      plain,
    );
  if (!match?.groups?.old || !match.groups.now) return null;
  const at = (text: string): string => {
    const start = plain.indexOf(text, match.index);
    return printed.slice(start, start + text.length).replace(/[.,]$/u, '');
  };
  const kind = part?.kind ?? kindOf(label) ?? 'other';
  const [before, after] = [
    partSaid(at(match.groups.old), kind, true),
    partSaid(at(match.groups.now), kind, true),
  ];
  const fields = PART_FIELDS.map(({ name }) => name).filter(
    (name) => JSON.stringify(fieldOf(before, name)) !== JSON.stringify(fieldOf(after, name)),
  );
  return fields.map((name) => {
    const stood = part ? fieldOf(part, name) : fieldOf(before, name);
    const now =
      name === 'measures'
        ? movedSpans(part?.measures ?? [], before.measures, after.measures)
        : fieldOf(after, name);
    return { field: name, old: stood, now: name === 'tempo' ? withWords(now as TempoMark, part) : now };
  });
}

/** Runs of which only the end moved keep their beginning. */
function movedSpans(
  stood: readonly SheetSpan[],
  before: readonly SheetSpan[],
  after: readonly SheetSpan[],
): readonly SheetSpan[] {
  if (stood.length === 0 || before.length !== 1 || after.length !== 1) return after;
  const [old, now] = [before[0], after[0]];
  return stood.map((span) =>
    String(span.to) === String(old?.to) && now
      ? {
          ...span,
          to: now.to,
          from: String(span.from) === String(old?.from) ? now.from : span.from,
          anchorText: now.anchorText,
        }
      : span,
  );
}

/** A number for a heading of words: the words stay. */
function withWords(mark: TempoMark, part: SheetPart | null): TempoMark {
  return { ...mark, words: mark.words ?? part?.tempo.words ?? null };
}

/** "Should end on the downbeat of Q", "now starts at m. 5": one end of a run. */
function edges(plain: string, part: SheetPart | null): Change[] | null {
  const match =
    /\b(?:should|must|now|will|to)\s+(?:now\s+)?(?<way>end|stop|finish|start|begin)s?\s+(?:on|at|with|in)\s+/iu.exec(
      plain,
    );
  if (!match || !part || part.measures.length === 0) return null;
  const point = readPoint(plain, match.index + match[0].length);
  if (!point) return null;
  const isEnd = /^(?:end|stop|finish)/iu.test(match.groups?.way ?? '');
  const last = part.measures.length - 1;
  const now = part.measures.map((span, n) => {
    if (isEnd ? n !== last : n !== 0) return span;
    return isEnd ? { ...span, to: point.point } : { ...span, from: point.point };
  });
  return [{ field: 'measures', old: part.measures, now }];
}

/** "It is the quarter note, not the half note, that goes at 88." */
function otherNote(plain: string, part: SheetPart | null): Change[] | null {
  const match =
    /\bthe\s+(?<now>(?:dotted\s+)?\p{L}+)(?:\s+note)?,?\s+(?:and\s+)?not\s+the\s+(?<old>(?:dotted\s+)?\p{L}+)/iu.exec(
      plain,
    );
  if (!match?.groups || !part) return null;
  const unit = (text: string | undefined): BeatUnit | null =>
    scanTempos(`${text ?? ''} = 60`)[0]?.mark.beatUnit ?? null;
  const [now, old] = [unit(match.groups.now), unit(match.groups.old)];
  if (now === null || old === null) return null;
  return [{ field: 'tempo', old: part.tempo, now: { ...part.tempo, beatUnit: now } }];
}

const SOURCE_FIELDS = ['page', 'edition', 'number', 'book', 'composer'] as const;

function partChanges(plain: string, printed: string, { label, part }: Subject): Statement[] {
  const kind = part?.kind ?? kindOf(label) ?? 'other';
  const partId = part?.id ?? null;
  const isMusic = noteKindOf(plain) === 'erratum' && !/=|\bpoints?\b/iu.test(plain);
  if (isMusic) return [];
  const special = quoted(plain, printed, { label, part }) ?? edges(plain, part) ?? otherNote(plain, part);
  if (special) return special.map((one) => ({ ...one, partId, part: label }));
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
    now: field === 'tempo' ? withWords(after.tempo, part) : after[field],
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
    notes: [
      ...sheet.notes,
      ...errata.notes.filter(({ text }) => !sheet.notes.some((known) => known.text === text)),
    ],
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
