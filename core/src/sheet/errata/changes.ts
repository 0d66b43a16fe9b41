import { plainSigns } from '../../base/index.js';
import { partSaid } from '../assemble/one-part.js';
import { findSpans } from '../find-spans.js';
import { findMentions, kindOf } from '../labels.js';
import type { Deadline, SheetPart, StructuredSheet } from '../model.js';
import { noteKindOf } from '../notes.js';
import { readDeadlines, whatOf } from '../read-deadlines.js';
import type { Subject } from './subjects.js';
import { withWords, worded } from './worded.js';

const OLD_BEHIND =
  /\s*,?\s*\(?\s*(?:instead\s+of|rather\s+than|in\s+place\s+of|replac(?:es|ing)|not(?!\s+(?:to\s+exceed|faster|slower|less|more|from|required|including))|was|previously|formerly|and\s+not)\s*:?\s+(?<old>.+)$/iu;

const FROM_TO =
  /\b(?:chang(?:es|ed?)|moved?|moves|corrected?|extended|shortened|increased?|reduced?|raised|lowered|amended|revised|postponed|brought\s+forward)\b.*?\bfrom\s+(?<old>.+?)\s+to\s+(?<now>.+)$/iu;

const READS =
  /(?<old>.+?)\s+(?:should\s+(?:be|read)|(?:is|are)\s+(?:changed|corrected|extended|moved|now)\s+to|(?:is|are)\s+now|now\s+reads?|becomes?|is\s+replaced\s+(?:by|with)|->|=>)\s+(?<now>.+)$/iu;

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

/** A stated change before it is laid against a sheet; `old` null where the notice does not say what stood. */
export interface StatedChange {
  readonly partId: string | null;
  readonly part: string;
  readonly field: string;
  readonly old: unknown;
  readonly now: unknown;
  /** What the notice itself says that stood; null where it does not say. */
  readonly said?: unknown;
}

export function dateChanges(plain: string, base: StructuredSheet | null): StatedChange[] {
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
    said: field === 'date' ? inYearOf(stood?.date ?? null, before?.date ?? null) : (stood?.[field] ?? null),
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
  if (behind?.groups && /\d|memory|repeat|major|minor|octave/iu.test(behind.groups.old ?? '')) {
    const front = plain.slice(0, behind.index);
    const old = (behind.groups.old ?? '').replace(/\)?[.;]*$/u, '');
    return { now: READS.exec(front)?.groups?.now ?? front, old };
  }
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

/** What a bare number behind "should be" is of: "measures should be 1–8", "page 12 should read 14". */
function nounOf(plain: string, now: string): string | null {
  const before = plain.slice(0, Math.max(0, plain.indexOf(now)));
  return (
    /(?<noun>measures?|bars?|mm?\.|pages?(?:\s+numbers?)?|pp?\.|numbers?|no\.|tempo)\s*(?:[\d\s–-]+)?(?:,?\s*(?:should|is|are|now|to|becomes?|reads?|be|not|changed|corrected|->|=>)\s*)+$/iu
      .exec(before)
      ?.groups?.noun?.replace(/\s+numbers?$/iu, '') ?? null
  );
}

const SOURCE_FIELDS = ['page', 'edition', 'number', 'book', 'composer'] as const;

export function partChanges(plain: string, printed: string, { label, part }: Subject): StatedChange[] {
  const kind = part?.kind ?? kindOf(label) ?? 'other';
  const partId = part?.id ?? null;
  const isMusic = noteKindOf(plain) === 'erratum' && !/=|\bpoints?\b/iu.test(plain);
  if (isMusic) return [];
  const special = worded(plain, printed, { label, part });
  if (special) return special.map((one) => ({ ...one, partId, part: label }));
  const { now, old } = halves(plain);
  const noun = nounOf(plain, now);
  const read = (text: string): SheetPart => {
    const own = text === plain ? printed : /^\s*\d/u.test(text) && noun !== null ? `${noun} ${text}` : text;
    const [mention] = findMentions(plainSigns(own), own);
    const rest = mention ? `${own.slice(0, mention.start)} ${own.slice(mention.end)}` : own;
    return partSaid(rest.trim(), kind);
  };
  const after = read(now);
  const before = old === null ? null : read(old);
  const own = FIELDS.filter(
    (field) => isStated(after[field]) && !(field === 'title' && part?.title === after.title),
  ).map((field): StatedChange => ({
    partId,
    part: label,
    field,
    old: part?.[field] ?? (before && isStated(before[field]) ? before[field] : null),
    now: field === 'tempo' ? withWords(after.tempo, part) : after[field],
    said: before && isStated(before[field]) ? before[field] : null,
  }));
  const ofTheSource = SOURCE_FIELDS.filter((field) => after.source[field] !== null).map(
    (field): StatedChange => ({
      partId,
      part: label,
      field,
      old: part?.source[field] ?? before?.source[field] ?? null,
      now: after.source[field],
      said: before?.source[field] ?? null,
    }),
  );
  return [...own, ...ofTheSource];
}

/** Whether a field says anything. */
export function isStated(value: unknown): boolean {
  if (value === null || value === undefined || value === 'unstated') return false;
  if (Array.isArray(value)) return value.length > 0;
  return !(typeof value === 'object' && (value as { bound?: string }).bound === 'none');
}
