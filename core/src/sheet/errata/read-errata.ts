import { present } from '../../base/index.js';
import type { TempoMark } from '../../music/index.js';
import type { SheetChangeNotice, SheetNote, SheetQuestion, StructuredSheet } from '../model.js';
import { isSameField, partField, showField } from '../part-fields.js';
import { isRule, noteKindOf } from '../notes.js';
import { clausesOf, sentencesOf } from '../sentences.js';
import { wrapped, type Line } from '../structure/wrapped.js';
import { cleanText, readRawLines } from '../text/raw-lines.js';
import { dateChanges, isStated, partChanges, type StatedChange } from './changes.js';
import { amendsOf, isHead, otherSheet } from './notice.js';
import { headsAbove, narrowed, subjectsOf, whichPart, type Subject } from './subjects.js';

const UNCHANGED =
  /\bstill\s+(?:starts?|begins?|ends?|holds?)\b|\bstays?\s+(?:where|as)\b|\b(?:is|are)\s+(?:correct|right)\s+as\s+printed\b|\b(?:remains?|is|are|stays?)\s+(?:unchanged|the\s+same|as\s+(?:printed|published|before))|\b(?:no|not)\s+changes?\b|\b(?:has|have)\s+not\s+(?:been\s+)?changed|\bunchanged\b|\ball\s+other\b/iu;

/**
 * A notice that amends a sheet.
 * Shape:  `changes` name each field with what stood and what stands now; what is said to be unchanged is no change
 * Units:  as StructuredSheet
 * Source: docs/formats.md
 */
export interface ErrataReading {
  readonly amends: string | null;
  readonly changes: readonly ReadChange[];
  readonly notes: readonly SheetNote[];
  readonly questions: readonly SheetQuestion[];
  readonly unread: readonly string[];
  /** Sentences that say what has not changed. */
  readonly confirmed: readonly string[];
  /** Sentences whose change the sheet has already. */
  readonly standing: readonly string[];
}

/** A change with what speaks against taking it as it is read; null where nothing does. */
export interface ReadChange extends SheetChangeNotice {
  readonly text: string;
  readonly doubt: string | null;
}

const TITLE = /^\W*(?:notice\s+of\s+)?(?:errat|correct|corrig|amend|addend|changes|update)/iu;

/**
 * Reads an errata notice. With the sheet it amends, what stood before comes from the sheet; a notice for another sheet
 * changes nothing.
 * Shape:  as ErrataReading
 * Source: docs/formats.md
 */
export function readErrata(raw: string, base: StructuredSheet | null = null): ErrataReading {
  const lines = wrapped(readRawLines(cleanText(raw)));
  const stranger = otherSheet(lines, base);
  if (stranger !== null) return forAnother(stranger);
  const reader = new NoticeReader(lines, base);
  for (const line of lines) reader.addLine(line);
  const { changes, notes, questions, unread, confirmed, standing } = reader;
  return { amends: amendsOf(lines, base), changes, notes, questions, unread, confirmed, standing };
}

function forAnother(amends: string): ErrataReading {
  const ask = `This notice is for “${amends}”, not for this sheet; nothing was changed. Paste it where it belongs.`;
  return {
    amends,
    changes: [],
    notes: [],
    questions: [{ partId: null, about: 'amends', ask, candidates: [] }],
    unread: [],
    confirmed: [],
    standing: [],
  };
}

/** Goes through the sentences of a notice; a sentence without a part speaks of the part before it in its paragraph. */
class NoticeReader {
  readonly changes: ReadChange[] = [];
  readonly notes: SheetNote[] = [];
  readonly questions: SheetQuestion[] = [];
  readonly unread: string[] = [];
  readonly confirmed: string[] = [];
  readonly standing: string[] = [];
  private subject: Subject | null = null;
  /** Whether the notice has come to what it says: what stands before is its head. */
  private hasBegun = false;

  constructor(
    private readonly lines: readonly Line[],
    private readonly base: StructuredSheet | null,
  ) {}

  addLine(line: Line): void {
    if (line.bullet === null && line.isAfterBlank) this.subject = null;
    for (const { start, end } of sentencesOf(line.plain).flatMap((one) => clausesOf(line.plain, one))) {
      const plain = line.plain.slice(start, end);
      const printed = line.text.slice(start, end).trim();
      if (UNCHANGED.test(plain)) this.confirmed.push(printed);
      else this.addSentence(plain, printed, line);
    }
  }

  private addSentence(plain: string, printed: string, line: Line): void {
    const { base } = this;
    const near = narrowed(subjectsOf(plain, printed, base), headsAbove(this.lines, line), plain);
    const dates = dateChanges(plain, base);
    if (near.length > 1) {
      this.questions.push(whichPart(printed, near, base));
      this.unread.push(printed);
      this.subject = null;
      return;
    }
    const named = near.length === 1 ? present(near[0]) : null;
    this.subject = named ?? this.subject;
    const stated =
      dates.length > 0 || this.subject === null ? dates : partChanges(plain, printed, this.subject);
    const fresh = stated.filter((one) => addChange(this.changes, one, { base, text: printed }));
    if (stated.length > 0 && fresh.length === 0 && base !== null) this.standing.push(printed);
    this.hasBegun ||= stated.length > 0 || named !== null;
    if (stated.length > 0) this.note(printed);
    else this.keep(plain, printed, { line, isNamed: named !== null });
  }

  /** A change in the music itself. */
  private addNoteChange({ label, part }: Subject, text: string): void {
    const place = { partId: part?.id ?? null, part: label, field: 'notes' };
    this.changes.push({ ...place, old: null, new: text, text, doubt: null });
  }

  private note(text: string): void {
    this.notes.push({ kind: 'erratum', text });
  }

  /** A sentence that changes no field: a rule, a note in the music, or one nobody could read. */
  private keep(
    plain: string,
    printed: string,
    { line, isNamed }: { readonly line: Line; readonly isNamed: boolean },
  ): void {
    const atHead = isHead(line, this.lines);
    if (this.subject === null && atHead && TITLE.test(plain)) return;
    if (noteKindOf(plain) !== null) {
      this.note(printed);
      if (this.subject !== null) this.addNoteChange(this.subject, printed);
      return;
    }
    if (!isNamed && atHead && !this.hasBegun) return;
    if (isRule(plain) || /^new rule\b|\beverybody\b|\beveryone\b/iu.test(plain)) this.note(printed);
    else if (!/^[\p{P}\s]*$/u.test(plain)) this.unread.push(printed);
  }
}

/** Adds a change once. Shape: whether the sheet does not have it already */
function addChange(
  changes: ReadChange[],
  { partId, part, field, old, now, said }: StatedChange,
  { base, text }: { readonly base: StructuredSheet | null; readonly text: string },
): boolean {
  const isSame = base !== null && JSON.stringify(old) === JSON.stringify(now);
  if (isSame) return false;
  const isKnown = changes.some(
    (change) =>
      change.partId === partId &&
      change.part === part &&
      change.field === field &&
      JSON.stringify(change.new) === JSON.stringify(now),
  );
  if (isKnown) return true;
  const doubt = base === null ? null : doubtOf({ partId, part, field, old, now, said: said ?? null });
  changes.push({ partId, part, field, old: isStated(old) ? old : null, new: now, text, doubt });
  return true;
}

/** What speaks against a change: nothing to change, or something else stood than the notice says. */
function doubtOf({ partId, part, field, old, said }: StatedChange): string | null {
  if (partId === null && !part.startsWith('deadlines[')) return `The sheet has no part called ${part}.`;
  const known = partField(field);
  const shown = (value: unknown): string => (known ? showField(known, value) : String(value));
  if (said === null || !isStated(said) || !isStated(old) || isLike(field, said, old)) return null;
  return `The notice says that ${shown(said)} stood; the sheet has ${shown(old)}.`;
}

/** Whether what a notice says that stood is what stands, as far as it says it. */
function isLike(field: string, said: unknown, old: unknown): boolean {
  if (field === 'tempo') {
    const [a, b] = [said as TempoMark, old as TempoMark];
    return a.bpmMin === null || (a.bpmMin === b.bpmMin && a.bpmMax === b.bpmMax);
  }
  const known = partField(field);
  return known ? isSameField(known, said, old) : JSON.stringify(said) === JSON.stringify(old);
}
