import { present } from '../../base/index.js';
import type { SheetChangeNotice, SheetNote, SheetQuestion, StructuredSheet } from '../model.js';
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
  readonly changes: readonly SheetChangeNotice[];
  readonly notes: readonly SheetNote[];
  readonly questions: readonly SheetQuestion[];
  readonly unread: readonly string[];
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
  const { changes, notes, questions, unread } = reader;
  return { amends: amendsOf(lines, base), changes, notes, questions, unread };
}

function forAnother(amends: string): ErrataReading {
  const ask = `This notice is for “${amends}”, not for this sheet; nothing was changed. Paste it where it belongs.`;
  return {
    amends,
    changes: [],
    notes: [],
    questions: [{ partId: null, about: 'amends', ask, candidates: [] }],
    unread: [],
  };
}

/** Goes through the sentences of a notice; a sentence without a part speaks of the part before it in its paragraph. */
class NoticeReader {
  readonly changes: SheetChangeNotice[] = [];
  readonly notes: SheetNote[] = [];
  readonly questions: SheetQuestion[] = [];
  readonly unread: string[] = [];
  private subject: Subject | null = null;

  constructor(
    private readonly lines: readonly Line[],
    private readonly base: StructuredSheet | null,
  ) {}

  addLine(line: Line): void {
    if (line.bullet === null && line.isAfterBlank) this.subject = null;
    for (const { start, end } of sentencesOf(line.plain).flatMap((one) => clausesOf(line.plain, one))) {
      const plain = line.plain.slice(start, end);
      if (!UNCHANGED.test(plain)) this.addSentence(plain, line.text.slice(start, end).trim(), line);
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
    for (const one of stated) addChange(this.changes, one, base);
    if (stated.length > 0) this.note(printed);
    else this.keep(plain, printed, { line, isNamed: named !== null });
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
      if (this.subject !== null) this.changes.push(noteChange(this.subject, printed));
      return;
    }
    if (!isNamed && atHead) return;
    if (isRule(plain) || /^new rule\b|\beverybody\b|\beveryone\b/iu.test(plain)) this.note(printed);
    else if (!/^[\p{P}\s]*$/u.test(plain)) this.unread.push(printed);
  }
}

/** A change in the music itself. */
function noteChange({ label, part }: Subject, text: string): SheetChangeNotice {
  return { partId: part?.id ?? null, part: label, field: 'notes', old: null, new: text };
}

function addChange(
  changes: SheetChangeNotice[],
  { partId, part, field, old, now }: StatedChange,
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
