import { plainSigns } from '../base/index.js';
import { askTempo, type TempoMark } from '../music/index.js';
import { asLabelled, readChoice, type ChoiceRead } from './choices.js';
import { findDates, findTimes } from './find-dates.js';
import { findDivisions } from './find-divisions.js';
import { findPoints } from './find-terms.js';
import { readSpanPhrase } from './find-spans.js';
import { CoverableText } from './found.js';
import { instrumentNames, isInstrumentHeading, readHeading } from './heading.js';
import { calmLabel, findMentions, kindOf, labelKey, singularLabel, type Mention } from './labels.js';
import { isHeader, isHeading, type Line } from './lines.js';
import type { Choice, Deadline, Division, PartKind, SheetNote, SheetQuestion, StructuredSheet } from './model.js';
import { isRule, noteKindOf } from './notes.js';
import { PartDraft } from './part-draft.js';
import { readDeadlines, timeQuestion, whatOf } from './read-deadlines.js';
import type { SheetMark, SheetReading } from './read-sheet.js';
import { readScalePhrase } from './scale-phrase.js';
import { clausesOf, sentencesOf, type Stretch } from './sentences.js';

const LIST_HEADING = /^(?:list|group)\s+(?<letter>[A-F])\b\s*[:.-]?\s*(?<rest>.*)$/iu;
const KIND_HEADING =
  /^(?:(?:required|prepared|orchestral|slow|fast|lyrical|technical|melodic|rhythmic|major|minor|chromatic|harmonic minor|melodic minor|solo)\s+)*(?:[eé]tudes?|stud(?:y|ies)|excerpts?|scales?|arpeggios?|scales and arpeggios|chromatic(?: scales?)?|solos?|sight[- ]?reading|rudiments?|aural(?: tests?)?|improvisation|pieces|repertoire)\s*(?:\((?<paren>.*)\))?\s*:?\s*(?<points>\(?\d{1,3}\s*(?:points|pts|marks)\)?)?$/iu;
const KEYED =
  /^(?<key>title|work|composer|book|source|publication|edition|pages?|measures|bars|tempo|metronome|repeats?|points|marks|key|octaves?|articulation|range|rhythm|note values?|memory|memori[sz](?:ed|ation)|accompaniment|duration|length|time limit|number|no\.)\s*[:\t]\s*(?<value>.+)$/iu;
const HEAD_KEYED = /^(?<key>body|organi[sz]ation|year|season|instruments?|part|item|component|requirement)\s*:\s*(?<value>.+)$/iu;
const GROUP_RULE =
  /\b(?:(?<every>each|every|all|both)\s+(?:the\s+)?(?:(?:of\s+the\s+)?\w+\s+)?)?(?<what>pieces?|etudes?|études?|studies|study|excerpts?|scales?|requirements?|parts?|selections?|solos?)\s+(?:must|should|will|is|are|be|carry|carries|counts?|to\s+be|may|(?<=(?:each|every|all|both)\s.*)from)\b/iu;
const ONLY_LABEL = /^[\s\p{P}]*$/u;

interface Context {
  instrument: string | null;
  division: string | null;
  list: string | null;
  kind: PartKind | null;
  heading: PartDraft | null;
  isPlural: boolean;
  parentBullet: string | null;
}

/**
 * Reads a sheet line by line: headings set what follows, labels open parts, everything else belongs to the part it
 * stands in or to the sheet.
 * Shape:  used once
 * Units:  none
 * Errors: none
 * Source: none
 */
export class SheetReader {
  private readonly lines: readonly Line[];
  private readonly text: string;
  private readonly drafts: PartDraft[] = [];
  private readonly marks: { start: number; end: number; about: string; draft: PartDraft | undefined }[] = [];
  private readonly unread: { start: number; end: number }[] = [];
  private readonly deadlines: Deadline[] = [];
  private readonly divisions: Division[] = [];
  private readonly notes: SheetNote[] = [];
  private readonly questions: SheetQuestion[] = [];
  private readonly choices: { choice: Choice; lists: readonly string[] | null }[] = [];
  private readonly groupRules: { kinds: readonly PartKind[] | null; rule: PartDraft }[] = [];
  private readonly instruments: string[] = [];
  private readonly headed: { body: string | null; year: string | null } = { body: null, year: null };
  private readonly context: Context = {
    instrument: null,
    division: null,
    list: null,
    kind: null,
    heading: null,
    isPlural: false,
    parentBullet: null,
  };
  private current: PartDraft | null = null;
  private currentIndent = 0;
  private openChoice: { of: string[]; choice: Choice; indent: number; bullet: string | null } | null = null;
  private headLines = 0;
  private total: number | null = null;

  constructor(lines: readonly Line[], text: string) {
    this.lines = lines;
    this.text = text;
  }

  /** Reads the whole sheet. */
  read(): Omit<SheetReading, 'text'> {
    this.headLines = this.countHead();
    this.lines.forEach((line, n) => this.readLine(line, n));
    this.closeChoice();
    return { sheet: this.finish(), marks: this.finalMarks(), unread: this.unread };
  }

  private countHead(): number {
    const isContent = (line: Line): boolean =>
      line.bullet !== null ||
      line.cells !== null ||
      findMentions(line.plain, line.text).some(({ start, end }) => start === 0 && !/^\s*(?:auditions?|requirements)/iu.test(line.plain.slice(end))) ||
      LIST_HEADING.test(line.plain) ||
      KIND_HEADING.test(line.plain) ||
      (findDates(line.plain).length > 0 && whatOf(line.plain) !== null) ||
      readChoice(line.plain, line.text) !== null;
    const first = this.lines.findIndex((line, n) => n >= 8 || isContent(line));
    return first < 0 ? Math.min(this.lines.length, 8) : first;
  }

  private readLine(line: Line, n: number): void {
    if (line.cells) return this.readRow(line, n);
    if (n < this.headLines && this.readHeadLine(line)) return;
    if (this.endsChoice(line)) this.closeChoice();
    if (this.readKeyed(line) || this.readSectionHeading(line, n)) return;
    this.readSentences(line, n);
  }

  private readSentences(line: Line, n: number): void {
    for (const sentence of sentencesOf(line.plain)) {
      const own = line.plain.slice(sentence.start, sentence.end);
      const note = /["=]/u.test(own) || findMentions(own, own).some(({ start }) => start === 0) ? null : noteKindOf(own);
      if (note) this.addNote(line, sentence, note);
      else for (const clause of clausesOf(line.plain, sentence)) this.readSentence(line, clause, n);
    }
  }

  /** Items of a choice end where a line stands without a bullet, or with one of its heading's own sort. */
  private endsChoice(line: Line): boolean {
    if (!this.openChoice || this.openChoice.of.length === 0) return false;
    if (line.bullet === null) return line.indent <= this.openChoice.indent;
    return this.openChoice.bullet !== null && bulletSort(line.bullet) === bulletSort(this.openChoice.bullet);
  }

  /** A line at the top that is nothing but heading; run-on texts have none. */
  private readHeadLine(line: Line): boolean {
    const head = HEAD_KEYED.exec(line.plain);
    if (head) return this.readHeadKeyed(line, head);
    const rotation = /\bset\s+\d\s+of\s+\d\b/iu.exec(line.plain);
    if (rotation) this.addNote(line, { start: rotation.index, end: rotation.index + rotation[0].length }, 'other');
    if (this.readDivisionHeading(line)) return true;
    this.takeDivisions(line, { start: 0, end: line.plain.length });
    const isSentence = /[.!?]$/u.test(line.plain) || line.plain.length > 110;
    if (!isSentence) this.mark(line, { start: 0, end: line.plain.length }, 'heading');
    if (!isSentence && isInstrumentHeading(line.plain)) this.setInstrument(line.text);
    return !isSentence;
  }

  private readHeadKeyed(line: Line, match: RegExpExecArray): boolean {
    const key = (match.groups?.key ?? '').toLowerCase();
    const value = line.text.slice(line.text.length - (match.groups?.value ?? '').length).trim();
    if (/body|organ/u.test(key)) this.headed.body = value;
    else if (/year|season/u.test(key)) this.headed.year = normalYear(value);
    else if (/instrument/u.test(key)) this.instruments.push(...(instrumentNames(value).length > 0 ? instrumentNames(value) : [value]));
    else {
      this.openPart(value, kindOf(value) ?? 'other', line);
      this.mark(line, { start: 0, end: line.plain.length }, 'label');
      return true;
    }
    this.mark(line, { start: 0, end: line.plain.length }, /instrument/u.test(key) ? 'instruments' : /body|organ/u.test(key) ? 'body' : 'year');
    return true;
  }

  /** "Measures: 1–16": a named field of the part at hand. */
  private readKeyed(line: Line): boolean {
    const head = HEAD_KEYED.exec(line.plain);
    if (head && line.bullet === null && !/^\d/u.test(head.groups?.value ?? '')) return this.readHeadKeyed(line, head);
    const keyed = KEYED.exec(line.plain);
    if (!keyed || !this.current) return false;
    const draft = this.current;
    const value = line.text.slice(line.text.length - (keyed.groups?.value ?? '').length).trim();
    this.readNamedField(draft, (keyed.groups?.key ?? '').toLowerCase(), value);
    this.mark(line, { start: 0, end: line.plain.length }, fieldOfKey((keyed.groups?.key ?? '').toLowerCase()), draft);
    return true;
  }

  private readNamedField(draft: PartDraft, key: string, value: string): void {
    if (value === '' || /^[-–—]+$|^n\/?a$/iu.test(value)) return;
    const plainValue = value.replace(/^["“]|["”]$/gu, '').trim();
    if (/^(?:title|work|piece)$/u.test(key)) {
      const line = new CoverableText(value, plain(value));
      if (!/own choice|of your choice/iu.test(value)) draft.read(line, 0, true);
      if (!draft.has('title') && !/choice/iu.test(value) && draft.kind !== 'scale' && draft.kind !== 'chromatic') draft.add('title', plainValue);
    } else if (key === 'composer') draft.add('composer', plainValue);
    else if (/^(?:book|source|publication)$/u.test(key)) draft.add('book', plainValue);
    else if (key === 'edition') draft.add('edition', plainValue);
    else if (/^(?:no\.?|number|#)$/u.test(key)) draft.add('number', plainValue.replace(/^(?:no\.?|#)\s*/iu, ''));
    else if (/^p/u.test(key) && /^(?:pages?|pp?\.?)$/u.test(key)) draft.add('page', plainValue.replace(/^(?:pages?|pp?\.?)\s*/iu, ''));
    else if (/^(?:measures?|bars?|mm\.?)$/u.test(key)) {
      const read = readSpanPhrase(value);
      if ('measures' in read) draft.add('measures', read.measures);
      else draft.questions.push({ about: `${draft.label}/measures`, ask: read.question, candidates: read.candidates });
    } else if (/tempo|metronome|speed/u.test(key)) this.readTempoField(draft, value);
    else if (/points|marks|weight/u.test(key)) {
      const points = /\d+/u.exec(value)?.[0];
      if (points !== undefined) draft.add('points', Number(points));
    } else if (key === 'articulation') draft.add('articulation', value);
    else if (/^octaves?$/u.test(key)) draft.read(new CoverableText(`${value} octaves`, `${plain(value)} octaves`), 0, false);
    else draft.read(new CoverableText(`${key}: ${value}`, plain(`${key}: ${value}`)), 0, false);
  }

  private readTempoField(draft: PartDraft, value: string): void {
    const line = new CoverableText(value, plain(value));
    if (draft.kind === 'scale' || draft.kind === 'chromatic') {
      draft.read(line, 0, false);
      return;
    }
    const read = askTempo(value);
    if ('mark' in read) draft.add('tempo', read.mark);
    else if (read.code === 'tempo-without-unit') draft.add('tempo', { ...read.candidates[0], beatUnit: null } as TempoMark);
    else draft.questions.push({ about: `${draft.label}/tempo`, ask: read.question, candidates: read.candidates });
  }

  private setInstrument(name: string | null): void {
    this.context.instrument = name;
    if (name !== null) for (const one of instrumentNames(name)) if (!this.instruments.some((other) => other.toLowerCase() === one.toLowerCase())) this.instruments.push(one);
  }

  private readSectionHeading(line: Line, n: number): boolean {
    const { plain: text } = line;
    const bare = text.replace(/:$/u, '').trim();
    if (line.bullet === null && /^all\s+(?:instruments|candidates|students)\s*:?$/iu.test(bare)) {
      this.setSection({ instrument: null });
      return true;
    }
    if (line.bullet === null && isInstrumentHeading(bare)) {
      this.setSection({});
      this.setInstrument(line.text.replace(/:$/u, '').trim());
      this.mark(line, { start: 0, end: text.length }, 'instruments');
      return true;
    }
    const list = LIST_HEADING.exec(text);
    if (list && line.bullet === null && !kindOf(list.groups?.rest?.replace(/\(.*\)/u, '') ?? '')) {
      this.setSection({ list: `List ${(list.groups?.letter ?? '').toUpperCase()}`, kind: 'solo' });
      this.context.heading = this.headingDraft('solo', list.groups?.rest ?? '');
      this.mark(line, { start: 0, end: text.length }, 'heading');
      return true;
    }
    if (line.bullet === null && text.length <= 80 && this.readDivisionHeading(line)) return true;
    return this.readKindHeading(line, n);
  }

  private readDivisionHeading(line: Line): boolean {
    const found = findDivisions(line.plain, line.text);
    if (found.length !== 1 || !found[0]!.value.name) return false;
    const rest = `${line.plain.slice(0, found[0]!.start)}${line.plain.slice(found[0]!.end)}`.replace(/\b(?:auditions?|requirements?|etudes?)\b/giu, '');
    if (!ONLY_LABEL.test(rest)) return false;
    this.takeDivisions(line, { start: 0, end: line.plain.length });
    this.setSection({ division: found[0]!.value.name });
    return true;
  }

  private readKindHeading(line: Line, n: number): boolean {
    const match = KIND_HEADING.exec(line.plain);
    const next = this.lines[n + 1];
    const leads = next !== undefined && (next.bullet !== null || next.indent > line.indent || !next.isAfterBlank);
    const isShown = isHeading(line.text) || isHeading(line.text.replace(/\s*\(.*\)/u, '')) || (leads && !/[.;]$/u.test(line.plain) && next.bullet !== null);
    const label = line.text.replace(/\s*\(.*$/u, '').replace(/:$/u, '').trim();
    if (match && isShown) {
      const kind = /^(?:pieces|repertoire)$/iu.test(label) ? 'solo' : (kindOf(label) ?? 'other');
      this.current = null;
      const keepsList = line.bullet === null;
      if (keepsList) this.context.list = null;
      this.context.kind = kind;
      this.context.heading = this.headingDraft(kind, match.groups?.paren ?? match.groups?.points ?? '');
      this.context.isPlural = /(?:s|studies|repertoire)$/iu.test(label);
      this.context.parentBullet = null;
      this.mark(line, { start: 0, end: line.plain.length }, 'heading');
      const opensItems = next && (next.bullet !== null || findMentions(next.plain, next.text).some(({ start }) => start === 0));
      if (!opensItems || (!this.context.isPlural && !scaleLabel(next.plain, next.text))) this.openHeadingPart(label, kind, line);
      return true;
    }
    const isPlain = line.bullet === null && isHeading(line.text) && !findMentions(line.plain, line.text).length && !readChoice(line.plain, line.text) && findDates(line.plain).length === 0 && !noteKindOf(line.plain);
    if (!isPlain) return false;
    this.current = null;
    this.context.heading = null;
    this.context.kind = /date|deadline|calendar/iu.test(line.plain) ? null : (kindOf(line.plain) ?? this.context.kind);
    this.mark(line, { start: 0, end: line.plain.length }, 'heading');
    return true;
  }

  /** A heading that is itself the part: "LYRICAL ETUDE" with its details on the lines below. */
  private openHeadingPart(label: string, kind: PartKind, line: Line): void {
    const draft = this.openPart(calmLabel(label), kind, line);
    this.currentIndent = -1;
    draft.inherit(this.context.heading!);
    this.context.heading = null;
  }

  private headingDraft(kind: PartKind, text: string): PartDraft {
    const draft = new PartDraft('', kind);
    draft.read(new CoverableText(text, plain(text)), 0, false);
    return draft;
  }

  private setSection(context: Partial<Context>): void {
    this.closeChoice();
    this.current = null;
    const keepsInstrument = 'instrument' in context ? {} : { instrument: this.context.instrument };
    const keepsDivision = 'division' in context || 'instrument' in context ? {} : { division: this.context.division };
    Object.assign(this.context, { instrument: null, division: null, list: null, kind: null, heading: null, isPlural: false, parentBullet: null }, keepsInstrument, keepsDivision, context);
  }

  private takeDivisions(line: Line, { start, end }: Stretch): void {
    for (const found of findDivisions(line.plain.slice(start, end), line.text.slice(start, end))) {
      const known = this.divisions.findIndex(({ name }) => name !== null && name.toLowerCase() === found.value.name?.toLowerCase());
      if (known < 0) this.divisions.push(found.value);
      this.mark(line, { start: start + found.start, end: start + found.end }, `division[${known < 0 ? this.divisions.length - 1 : known}]`);
    }
  }

  private readSentence(line: Line, sentence: Stretch, n: number): void {
    const own = line.plain.slice(sentence.start, sentence.end);
    const printed = line.text.slice(sentence.start, sentence.end);
    const note = noteKindOf(own);
    if (note) return this.addNote(line, sentence, note);
    const work = new CoverableText(printed, own);
    const divisions = work.take((text) => findDivisions(text, printed));
    const exams = divisions.filter(({ value }) => value.name === null || value.gradeMin !== null || value.ageMax !== null);
    if (exams.length > 0) this.takeDivisions(line, sentence);
    if (exams.length > 0 && findMentions(work.plain, printed).length === 0 && findDates(work.plain).length === 0) return;
    if (this.readDates(line, sentence, work)) return;
    if (this.readChoiceIn(line, sentence, own, printed)) return;
    if (this.readGroupRule(line, sentence, own, printed)) return;
    const total = findPoints(own).find(({ value }) => value.isTotal);
    if (total) this.total = total.value.points;
    this.readParts(line, sentence, work, n);
  }

  private addNote(line: Line, sentence: Stretch, kind: SheetNote['kind']): void {
    this.notes.push({ kind, text: line.text.slice(sentence.start, sentence.end).trim() });
    this.mark(line, sentence, `notes[${this.notes.length - 1}]`);
  }

  private readDates(line: Line, sentence: Stretch, work: CoverableText): boolean {
    const found = readDeadlines(work.plain, work.printed);
    if (found.length === 0) return /\bopens?\b/iu.test(work.plain) && findDates(work.plain).length > 0 ? this.markAll(line, sentence, 'heading') : this.readLooseTime(line, sentence, work);
    for (const { deadline, question, timeQuestion: asked } of found) {
      this.deadlines.push(deadline);
      if (question) this.questions.push(question);
      if (asked) this.questions.push(asked);
      this.mark(line, sentence, `deadlines[${this.deadlines.length - 1}]`);
    }
    this.current = line.bullet === null ? null : this.current;
    return true;
  }

  private markAll(line: Line, stretch: Stretch, about: string): boolean {
    this.mark(line, stretch, about);
    return true;
  }

  /** "Recordings close at midnight.": the time of a date that stands elsewhere. */
  private readLooseTime(line: Line, sentence: Stretch, work: CoverableText): boolean {
    const [time] = findTimes(work.plain);
    const what = whatOf(work.plain);
    const at = this.deadlines.findLastIndex((deadline) => deadline.what === what && deadline.time === null);
    if (!time || what === null || at < 0 || findMentions(work.plain, work.printed).length > 0) return false;
    this.deadlines[at] = { ...this.deadlines[at]!, time: time.value.time, zone: this.deadlines[at]!.zone ?? time.value.zone };
    const asked = timeQuestion(time.value, what);
    if (asked) this.questions.push(asked);
    return this.markAll(line, sentence, `deadlines[${at}]`);
  }

  private readChoiceIn(line: Line, sentence: Stretch, own: string, printed: string): boolean {
    const read = readChoice(own, printed);
    if (!read) return false;
    const isWhole = this.isOnlyChoice(own, read);
    this.mark(line, sentence, 'choices');
    if (read.follows) {
      this.closeChoice();
      this.openChoice = { of: [], choice: read.choice, indent: line.indent, bullet: line.bullet };
      this.context.parentBullet = line.bullet;
      const kind = kindOf(own);
      if (kind) this.context.kind = kind;
      this.current = null;
      return true;
    }
    this.choices.push({ choice: read.choice, lists: read.choice.rule === 'oneFromEach' ? read.lists : null });
    return isWhole;
  }

  /** "Choose two of Etude A, B and C" says nothing else; "either Etude 1 (“Ebb”, mm. 1–8) or Etude 2 (…)" opens parts. */
  private isOnlyChoice(own: string, { choice }: ChoiceRead): boolean {
    if (choice.rule === 'oneFromEach') return true;
    return !/["\u266a\u2669=]|\bmm?\.|\bmeasures?\b|\bbars?\b|\bpage\b|\bp\./iu.test(own);
  }

  private readGroupRule(line: Line, sentence: Stretch, own: string, printed: string): boolean {
    const pieces = own.split(/\s*,?\s+and\s+(?=(?:each|every|all)\s)/iu);
    let place = 0;
    let isAny = false;
    for (const piece of pieces) {
      const start = own.indexOf(piece, place);
      place = start + piece.length;
      const rule = GROUP_RULE.exec(piece);
      const isPlural = /s$/iu.test(rule?.groups?.what ?? '');
      if (!rule || (rule.groups?.every === undefined && !isPlural) || /["=]/u.test(piece)) continue;
      if (findMentions(piece, piece).some((mention) => mention.isNumbered)) continue;
      const isHere = this.drafts.length > 0 || rule.groups?.every !== undefined;
      const kind = kindOf(rule.groups?.what ?? '');
      const isAll = /requirement|part|selection/iu.test(rule.groups?.what ?? '');
      const draft = new PartDraft('', kind ?? 'other');
      draft.read(new CoverableText(printed.slice(start, start + piece.length), piece), 0, false);
      if (draft.readings.length === 0 || !isHere) continue;
      this.groupRules.push({ kinds: isAll ? null : kind === 'scale' ? ['scale', 'chromatic'] : kind === null ? null : [kind], rule: draft });
      isAny = true;
    }
    if (isAny) this.mark(line, sentence, 'parts');
    return isAny;
  }

  private readParts(line: Line, sentence: Stretch, work: CoverableText, n: number): void {
    const isLineStart = sentence.start === 0;
    const found = this.mentionsIn(work, isLineStart && line.bullet !== null);
    const first = found[0]?.start ?? work.plain.length;
    const opening = work.plain.slice(0, first);
    if (/[\p{L}\d]/u.test(opening.replaceAll('\u0001', ''))) this.readOpening(line, sentence, { work, first, isLineStart, n });
    found.forEach((mention, at) => {
      const end = found[at + 1]?.start ?? work.plain.length;
      const draft = this.partFor(mention, work.plain.slice(mention.end, end), line);
      this.readInto(draft, line, sentence, { work, start: mention.start, after: mention.end, end, isFirst: draft.texts.length === 0 });
    });
  }

  private mentionsIn(work: CoverableText, isItem: boolean): Mention[] {
    const all = findMentions(work.plain, work.printed);
    // Right behind another label stands what the part is, not another part: "Section B: Study 12".
    const found = all.filter((mention, at) => at === 0 || !ONLY_LABEL.test(work.plain.slice(all[at - 1]!.end, mention.start)));
    const isCoded = found[0] !== undefined && /^[A-D]\d{1,2}$/u.test(found[0].label);
    if (isCoded) return found.slice(0, 1);
    if (isItem && found.length > 0 && found[0]!.start > 0) {
      const known = found.filter(({ label }) => this.byKey.has(labelKey(label)));
      return known;
    }
    return [...found, ...this.references(work.plain, found)].sort((a, b) => a.start - b.start);
  }

  /** Plain names of parts that are there already: "scales 30 points". */
  private references(plainText: string, found: readonly Mention[]): Mention[] {
    return [...this.plainNames].flatMap(([label, pattern]) => {
      const match = pattern.exec(plainText);
      if (!match || found.some(({ start, end }) => match.index < end && match.index + match[0].length > start)) return [];
      return [{ label, start: match.index, end: match.index + match[0].length, isNumbered: false }];
    });
  }

  private nameDraft(draft: PartDraft): void {
    const key = labelKey(draft.label);
    this.byKey.set(key, [...(this.byKey.get(key) ?? []).filter((other) => !sameSet(other.appliesTo, [...draft.appliesTo])), draft]);
    if (/\d|\s[A-H]$/u.test(draft.label) || draft.label.length < 4 || this.plainNames.has(draft.label) || this.plainNames.size >= 60) return;
    const words = key.replace(/[^\p{L}\d]+/gu, '[- ]?');
    this.plainNames.set(draft.label, new RegExp(`(?<=^|[,;:]\\s+|\\band\\s+|\\bthe\\s+)${words}s?(?![\\p{L}-])`, 'iu'));
  }

  private partFor(mention: Mention, rest: string, line: Line): PartDraft {
    const label = mention.label.replace(/^\p{Ll}/u, (letter) => letter.toUpperCase());
    const isCoded = /^[A-D]\d{1,2}$/u.test(label);
    if (this.context.list !== null && !isCoded && line.bullet === null) this.setSection({});
    const key = labelKey(label);
    const applies = this.applies();
    const known = this.byKey.get(key)?.findLast((draft) => mention.isNumbered || sameSet(draft.appliesTo, applies));
    const isGeneral = this.context.instrument === null && this.context.division === null;
    if (known && (isGeneral || sameSet(known.appliesTo, applies))) {
      this.current = known;
      return known;
    }
    const ownKind = kindOf(label);
    const inList = isCoded ? (this.context.list === null ? null : 'solo') : null;
    const kind = inList ?? (ownKind && !/^piece/iu.test(label) ? ownKind : (kindOf(rest.slice(0, 80)) ?? ownKind ?? this.context.kind ?? 'other'));
    const draft = this.openPart(calmLabel(label), kind, line);
    this.joinChoice(draft.label, line);
    return draft;
  }

  private applies(): string[] {
    return [this.context.list, this.context.division, this.context.instrument].filter((name) => name !== null);
  }

  private openPart(label: string, kind: PartKind, line: Line): PartDraft {
    const draft = new PartDraft(label, kind, this.applies());
    this.drafts.push(draft);
    this.nameDraft(draft);
    this.current = draft;
    this.currentIndent = line.indent;
    if (this.context.heading) this.headings.set(draft, this.context.heading);
    return draft;
  }

  private readonly headings = new Map<PartDraft, PartDraft>();
  /** The latest parts of each label, one for every instrument or division, and the patterns of plain names. */
  private readonly byKey = new Map<string, PartDraft[]>();
  private readonly plainNames = new Map<string, RegExp>();

  private joinChoice(label: string, line: Line): void {
    if (this.openChoice && line.indent >= this.openChoice.indent) this.openChoice.of.push(label);
  }

  private closeChoice(): void {
    if (this.openChoice && this.openChoice.of.length > 0) this.choices.push({ choice: { ...this.openChoice.choice, of: this.openChoice.of }, lists: null });
    this.openChoice = null;
  }

  /** Words in front of the first label, or a sentence without one. */
  private readOpening(
    line: Line,
    sentence: Stretch,
    { work, first, isLineStart, n }: { readonly work: CoverableText; readonly first: number; readonly isLineStart: boolean; readonly n: number },
  ): void {
    const isWhole = first === work.plain.length;
    if (isLineStart && line.bullet !== null && isWhole) return this.readItem(line, sentence, work);
    const belongs = this.current !== null && (!isLineStart || line.indent > this.currentIndent || this.currentIndent === -1 || /^\p{Ll}/u.test(line.plain));
    if (belongs && this.current) {
      const before = this.current.readings.length;
      this.readInto(this.current, line, sentence, { work, start: 0, after: 0, end: first, isFirst: this.current.texts.length === 0 || (this.currentIndent === -1 && before === 0) });
      if (this.current.readings.length > before) return;
    } else if (isWhole && this.context.kind !== null && line.bullet === null && isLineStart && /["=]|\bmm?\.|\bbars?\b|\bmeasures?\b/iu.test(work.plain)) {
      return this.readItem(line, sentence, work);
    }
    if (!isWhole) return;
    if (/^(?:\w+\s+){0,2}(?:dates|deadlines|calendar|timeline)\s*$/iu.test(work.plain)) this.mark(line, sentence, 'heading');
    else if (isRule(work.plain) || /\bset\s+\d\s+of\s+\d\b/iu.test(work.plain)) this.addNote(line, sentence, 'other');
    else if (n >= this.headLines) this.unread.push(this.placeOf(line, sentence));
  }

  /** A bulleted line without a label of its own. */
  private readItem(line: Line, sentence: Stretch, work: CoverableText): void {
    const bullet = (line.bullet ?? '').replace(/[().]/gu, '');
    const isNumber = /^[\p{L}\d]/u.test(bullet);
    if (!isNumber && this.current && line.indent > this.currentIndent && this.currentIndent >= 0) {
      this.readInto(this.current, line, sentence, { work, start: 0, after: 0, end: work.plain.length, isFirst: false });
      return;
    }
    const kind = this.itemKind(work.plain);
    if (kind === null && !/["=]/u.test(work.plain)) {
      if (isRule(work.plain)) this.addNote(line, sentence, 'other');
      else this.unread.push(this.placeOf(line, sentence));
      return;
    }
    const isHeadingPart = this.currentIndent === -1 && this.current !== null && this.current.texts.length === 0;
    const draft = isHeadingPart ? this.current! : this.openPart(this.itemLabel(bullet, work, kind), kind ?? 'other', line);
    if (!isHeadingPart) this.joinChoice(draft.label, line);
    this.currentIndent = line.indent;
    this.readInto(draft, line, sentence, { work, start: 0, after: 0, end: work.plain.length, isFirst: true });
  }

  private itemKind(text: string): PartKind | null {
    const own = kindOf(text.replace(/"[^"]*"/gu, ''));
    if (this.context.list !== null) return 'solo';
    return this.context.kind !== null && this.context.kind !== 'solo' ? (this.context.kind === 'scale' && own === 'chromatic' ? own : this.context.kind) : (own ?? this.context.kind);
  }

  private itemLabel(bullet: string, work: CoverableText, kind: PartKind | null): string {
    const isNumber = /^[\p{L}\d]/u.test(bullet);
    if (this.context.list !== null && isNumber) return `${this.context.list.slice(-1)}${bullet}`;
    if (kind === 'scale' || kind === 'chromatic') {
      const named = scaleLabel(work.plain, work.printed);
      if (named) return named;
    }
    if (isNumber && this.context.parentBullet !== null) return `${this.context.parentBullet.replace(/[().]/gu, '')}${bullet}`;
    const isNumeral = /^(?:\d{1,2}|[a-h])$/iu.test(bullet);
    if (isNumeral && this.context.isPlural && this.context.kind !== null && this.context.kind !== 'solo')
      return `${singularLabel(KIND_NAMES[this.context.kind] ?? this.context.kind)} ${bullet.toUpperCase()}`;
    if (isNumber) return bullet;
    const title = /"([^"]{2,60})"/u.exec(work.plain);
    if (title) return work.printed.slice(title.index + 1, title.index + 1 + title[1]!.length).replace(/[,.]$/u, '');
    return (/^[^,;:(]{3,50}/u.exec(work.printed)?.[0] ?? work.printed.slice(0, 50)).trim();
  }

  private readInto(
    draft: PartDraft,
    line: Line,
    sentence: Stretch,
    { work, start, after, end, isFirst }: { readonly work: CoverableText; readonly start: number; readonly after: number; readonly end: number; readonly isFirst: boolean },
  ): void {
    if (after > start) this.mark(line, { start: sentence.start + start, end: sentence.start + after }, 'label', draft);
    const own = new CoverableText(work.printed.slice(start, end), work.plain.slice(start, end));
    own.cover({ start: 0, end: after - start });
    for (const { field, start: from, end: to } of draft.read(own, after - start, isFirst))
      this.mark(line, { start: sentence.start + start + from, end: sentence.start + start + to }, field, draft);
  }

  private header: Line['cells'] = null;

  private readRow(line: Line, n: number): void {
    const cells = line.cells!;
    if (isHeader(cells)) {
      this.header = cells;
      this.mark(line, { start: 0, end: line.plain.length }, 'heading');
      return;
    }
    const isUnderHeader = this.header !== null && this.lines[n - 1]?.cells;
    if (!isUnderHeader) {
      this.header = null;
      this.readSentences(line, n);
      return;
    }
    const named = cells.map((cell) => ({ key: (this.header!.find(({ column }) => column === cell.column)?.text ?? '').toLowerCase(), text: cell.text }));
    const label = named.find(({ key }) => /^(?:part|item|requirement|component|#)$/u.test(key)) ?? named[0]!;
    const kind = kindOf(label.text) ?? this.context.kind ?? kindOf(named.map(({ text }) => text).join(' ')) ?? 'other';
    const draft = this.openPart(calmLabel(label.text), kind, line);
    this.mark(line, { start: 0, end: line.plain.length }, 'label', draft);
    for (const cell of named) {
      if (cell === label) continue;
      this.readNamedField(draft, cell.key, cell.text);
      if (/choice/iu.test(cell.text) && draft.kind === 'other') draft.kind = 'solo';
    }
  }

  private placeOf(line: Line, { start, end }: Stretch): Stretch {
    const from = line.at[start] ?? 0;
    const to = (line.at[Math.max(start, end - 1)] ?? from) + 1;
    return { start: from, end: to };
  }

  private mark(line: Line, stretch: Stretch, about: string, draft?: PartDraft): void {
    const { start, end } = this.placeOf(line, stretch);
    this.marks.push({ start, end, about, draft });
  }

  private finalMarks(): SheetMark[] {
    const places = new Map(this.drafts.map((draft, n) => [draft, n]));
    return this.marks
      .map(({ draft, about, start, end }) => ({ start, end, about: draft ? `parts[${places.get(draft)}]/${about}` : about }))
      .sort((a, b) => a.start - b.start || b.end - a.end);
  }

  private finish(): StructuredSheet {
    const heading = readHeading(this.lines.slice(0, Math.max(this.headLines, 1)), this.text);
    const instruments = this.instruments.length > 0 && (this.instruments.length > 1 || heading.instruments.length === 0) ? this.instruments : heading.instruments;
    const sections = { instruments: this.sectionNames((name) => isInstrumentHeading(name)), divisions: this.sectionNames((name) => this.divisions.some((division) => division.name === name)) };
    const finished = this.drafts.map((draft) => this.finishPart(draft, sections));
    const parts = finished.map(({ part }) => part);
    const labels = parts.map(({ label }) => label);
    const year = this.headed.year ?? heading.year;
    const body = this.headed.body ?? heading.body;
    const sum = parts.reduce((all, { points }) => all + (points ?? 0), 0);
    const questions = [
      ...(body === null ? [{ about: 'body', ask: 'The text does not name the body that publishes the sheet. Which one is it?', candidates: [] }] : []),
      ...(year === null ? [{ about: 'year', ask: 'The text does not say which year the sheet is for. Which one is it?', candidates: [] }] : []),
      ...this.questions,
      ...finished.flatMap((one) => one.questions),
      ...(this.total !== null && sum !== this.total && parts.every(({ points, kind }) => points !== null || kind === 'other')
        ? [{ about: 'points', ask: `The points add up to ${sum}, the sheet says ${this.total} in all. Which one holds?`, candidates: [sum, this.total] }]
        : []),
    ];
    return {
      body,
      year,
      instruments: unique(instruments),
      division: this.divisions,
      deadlines: this.deadlines,
      parts,
      choices: this.choices.map(({ choice, lists }) => this.finishChoice(choice, lists, labels)),
      notes: this.notes,
      questions: [...new Map(questions.map((question) => [`${question.about}\n${question.ask}`, question])).values()],
      amends: null,
      changes: [],
    };
  }

  private sectionNames(test: (name: string) => boolean): Set<string> {
    return new Set(this.drafts.flatMap(({ appliesTo }) => [...appliesTo].filter(test)));
  }

  private finishPart(draft: PartDraft, sections: { readonly instruments: ReadonlySet<string>; readonly divisions: ReadonlySet<string> }): ReturnType<PartDraft['finish']> {
    const heading = this.headings.get(draft);
    if (heading) draft.inherit(heading);
    for (const { kinds, rule } of this.groupRules) if (kinds === null || kinds.includes(draft.kind)) draft.inherit(rule);
    // A heading that stands for the whole sheet limits nothing.
    if (sections.instruments.size === 1) for (const name of sections.instruments) draft.appliesTo.delete(name);
    if (sections.divisions.size === 1 && this.divisions.length === 1) for (const name of sections.divisions) draft.appliesTo.delete(name);
    return draft.finish();
  }

  private finishChoice(choice: Choice, lists: readonly string[] | null, labels: readonly string[]): Choice {
    if (lists === null) return { ...choice, of: choice.of.map((one) => (typeof one === 'string' ? asLabelled(one, labels) : one)) };
    const names = lists.length > 0 ? lists.map((letter) => `List ${letter.toUpperCase()}`) : unique(this.drafts.flatMap(({ appliesTo }) => [...appliesTo].filter((name) => name.startsWith('List '))));
    const groups = names.map((name) => this.drafts.filter(({ appliesTo }) => appliesTo.has(name)).map(({ label }) => label));
    return { ...choice, of: groups.every((group) => group.length > 0) ? groups : names };
  }
}

const KIND_NAMES: Partial<Record<PartKind, string>> = { etude: 'Etudes', excerpt: 'Excerpts', scale: 'Scales' };

/** The name of a scale on its own line: "B♭ major", "E♭ major arpeggio". */
function scaleLabel(plainText: string, printed: string): string | null {
  const match = /^(?:concert\s+)?[A-Ga-g](?:\s?-?\s?(?:flat|sharp)|[b#])?\s+(?:(?:natural|harmonic|melodic)\s+)?(?:major|minor)(?:\s+(?:arpeggio|scale))?/iu.exec(plainText);
  return match && 'key' in readScalePhrase(match[0]) ? printed.slice(0, match[0].length) : null;
}

/** What sort of bullet it is: roman numerals, capitals, letters, numbers, or a sign. */
function bulletSort(bullet: string): string {
  const own = bullet.replace(/[().]/gu, '');
  if (/^[IVX]+$/u.test(own)) return 'roman';
  return /^\d/u.test(own) ? 'number' : /^\p{Lu}/u.test(own) ? 'capital' : /^\p{Ll}/u.test(own) ? 'letter' : own;
}

function plain(text: string): string {
  return plainSigns(text);
}

function normalYear(text: string): string | null {
  const match = /(20\d\d)(?:\s*[-–/]\s*(?:20)?(\d\d))?/u.exec(text);
  return match ? (match[2] === undefined ? match[1]! : `${match[1]}-${match[2]}`) : null;
}

function fieldOfKey(key: string): string {
  if (/measures|bars/u.test(key)) return 'measures';
  if (/tempo|metronome/u.test(key)) return 'tempo';
  if (/points|marks/u.test(key)) return 'points';
  return /^(?:key|octaves|articulation|range|memory|repeats|accompaniment)$/u.test(key) ? key : 'title';
}

function sameSet(a: ReadonlySet<string>, b: readonly string[]): boolean {
  return a.size === b.length && b.every((one) => a.has(one));
}

function unique(names: readonly string[]): string[] {
  return names.filter((name, n) => names.findIndex((other) => other.toLowerCase() === name.toLowerCase()) === n);
}
