import { isWorkLine } from './read-items.js';
import { present } from '../base/index.js';
import { readChoice } from './choices.js';
import { findDates } from './find-dates.js';
import { findDivisions } from './find-divisions.js';
import { HEAD_KEYED, KIND_HEADING, LIST_HEADING, ONLY_LABEL } from './heading-patterns.js';
import { instrumentNames, isInstrumentHeading } from './heading.js';
import { calmLabel, findMentions, kindOf } from './labels.js';
import { isHeading, type Line } from './lines.js';
import type { PartKind } from './model.js';
import { noteKindOf } from './notes.js';
import { scaleLabel } from './scale-label.js';
import {
  addNote,
  headingDraft,
  mark,
  openPart,
  setInstrument,
  setSection,
  type SheetState,
  takeDivisions,
} from './sheet-state.js';

function normalYear(text: string): string | null {
  const match = /(20\d\d)(?:\s*[-–/]\s*(?:20)?(\d\d))?/u.exec(text);
  return match ? (match[2] === undefined ? present(match[1]) : `${match[1]}-${match[2]}`) : null;
}

/** A line at the top that is nothing but heading; run-on texts have none. */
export function readHeadLine(state: SheetState, line: Line): boolean {
  const head = HEAD_KEYED.exec(line.plain);
  if (head) return readHeadKeyed(state, line, head);
  const rotation = /\bset\s+\d\s+of\s+\d\b/iu.exec(line.plain);
  if (rotation)
    addNote(state, line, {
      sentence: { start: rotation.index, end: rotation.index + rotation[0].length },
      kind: 'other',
    });
  if (readDivisionHeading(state, line)) return true;
  takeDivisions(state, line, { start: 0, end: line.plain.length });
  const isSentence = /[.!?]$/u.test(line.plain) || line.plain.length > 110;
  if (!isSentence) mark(state, line, { stretch: { start: 0, end: line.plain.length }, about: 'heading' });
  if (!isSentence && isInstrumentHeading(line.plain)) setInstrument(state, line.text);
  return !isSentence;
}

/** Reads a named field of the sheet itself: "Year: 2027"; "Part: Etude" opens a part. */
export function readHeadKeyed(state: SheetState, line: Line, match: RegExpExecArray): boolean {
  const key = (match.groups?.key ?? '').toLowerCase();
  const value = line.text.slice(line.text.length - (match.groups?.value ?? '').length).trim();
  if (/body|organ/u.test(key)) state.headed.body = value;
  else if (/year|season/u.test(key)) state.headed.year = normalYear(value);
  else if (/instrument/u.test(key))
    state.instruments.push(...(instrumentNames(value).length > 0 ? instrumentNames(value) : [value]));
  else {
    openPart(state, value, { kind: kindOf(value) ?? 'other', line });
    mark(state, line, { stretch: { start: 0, end: line.plain.length }, about: 'label' });
    return true;
  }
  mark(state, line, {
    stretch: { start: 0, end: line.plain.length },
    about: /instrument/u.test(key) ? 'instruments' : /body|organ/u.test(key) ? 'body' : 'year',
  });
  return true;
}

/** Reads a heading of a section: an instrument, a list, a division, a kind of part. Shape: false where the line is none. */
export function readSectionHeading(state: SheetState, line: Line, n: number): boolean {
  const { plain: text } = line;
  const bare = text.replace(/:$/u, '').trim();
  if (line.bullet === null && /^all\s+(?:instruments|candidates|students)\s*:?$/iu.test(bare)) {
    setSection(state, { instrument: null });
    return true;
  }
  const instrument = bare.replace(/\s*\((?:optional|required|if\s.*)\)$/iu, '');
  const opensLevel = (state.lines[n + 1]?.indent ?? 0) > line.indent;
  if ((line.bullet === null || opensLevel) && isInstrumentHeading(instrument)) {
    setSection(state, {});
    setInstrument(
      state,
      line.text
        .replace(/:$/u, '')
        .replace(/\s*\((?:optional|required|if\s.*)\)$/iu, '')
        .trim(),
    );
    mark(state, line, { stretch: { start: 0, end: text.length }, about: 'instruments' });
    return true;
  }
  const list = LIST_HEADING.exec(text);
  if (list && line.bullet === null && !kindOf(list.groups?.rest?.replace(/\(.*\)/u, '') ?? '')) {
    const word = /group/iu.test(list.groups?.word ?? '') ? 'Group' : 'List';
    setSection(state, { list: `${word} ${(list.groups?.letter ?? '').toUpperCase()}`, kind: 'solo' });
    if (/\b(?:choose|select|play|any)?\s*one\b/iu.test(list.groups?.rest ?? '')) chooseFromLists(state);
    state.context.heading = headingDraft('solo', list.groups?.rest ?? '');
    mark(state, line, { stretch: { start: 0, end: text.length }, about: 'heading' });
    return true;
  }
  if (line.bullet === null && text.length <= 80 && readDivisionHeading(state, line)) return true;
  return readKindHeading(state, line, n);
}

/** "Group A – choose one": one from each of the groups that say so. */
function chooseFromLists(state: SheetState): void {
  if (!state.choices.some(({ lists }) => lists !== null))
    state.choices.push({ choice: { rule: 'oneFromEach', n: 1, of: [] }, lists: [] });
}

function readDivisionHeading(state: SheetState, line: Line): boolean {
  const found = findDivisions(line.plain, line.text);
  if (found.length !== 1 || !present(found[0]).value.name) return false;
  const rest =
    `${line.plain.slice(0, present(found[0]).start)}${line.plain.slice(present(found[0]).end)}`.replace(
      /\b(?:auditions?|requirements?|etudes?)\b/giu,
      '',
    );
  if (!ONLY_LABEL.test(rest)) return false;
  takeDivisions(state, line, { start: 0, end: line.plain.length });
  setSection(state, { division: present(found[0]).value.name });
  return true;
}

function readKindHeading(state: SheetState, line: Line, n: number): boolean {
  const match = KIND_HEADING.exec(line.plain);
  const next = state.lines[n + 1];
  const leads =
    next !== undefined && (next.bullet !== null || next.indent > line.indent || !next.isAfterBlank);
  const isShown = line.bullet === null ? !/[.;]$/u.test(line.plain) : leads && /:$/u.test(line.plain);
  const label = line.text
    .replace(/\s*\(.*$/u, '')
    .replace(/[\s:]*(?:\d{1,3}\s*(?:points|pts|marks))?$/iu, '')
    .trim();
  if (match && isShown) {
    const points = match.groups?.paren ?? match.groups?.points ?? '';
    openKind(state, line, { label, points, next });
    return true;
  }
  const isPlain =
    line.bullet === null &&
    isHeading(line.text) &&
    !findMentions(line.plain, line.text).length &&
    !readChoice(line.plain, line.text) &&
    findDates(line.plain).length === 0 &&
    !noteKindOf(line.plain);
  if (!isPlain) return false;
  state.current = null;
  state.context.heading = null;
  state.context.kind = /date|deadline|calendar/iu.test(line.plain)
    ? null
    : (kindOf(line.plain) ?? state.context.kind);
  mark(state, line, { stretch: { start: 0, end: line.plain.length }, about: 'heading' });
  return true;
}

/** A heading of a kind: what stands below it is of that kind, or is the part itself. */
function openKind(
  state: SheetState,
  line: Line,
  {
    label,
    points,
    next,
  }: { readonly label: string; readonly points: string; readonly next: Line | undefined },
): void {
  const kind = /^(?:pieces|repertoire)$/iu.test(label) ? 'solo' : (kindOf(label) ?? 'other');
  state.current = null;
  const keepsList = line.bullet === null;
  if (keepsList) state.context.list = null;
  state.context.kind = kind;
  state.context.heading = headingDraft(kind, points);
  state.context.isPlural =
    /(?:s|studies|repertoire)$/iu.test(label) && ['etude', 'excerpt', 'scale', 'solo'].includes(kind);
  state.context.parentBullet = null;
  mark(state, line, { stretch: { start: 0, end: line.plain.length }, about: 'heading' });
  const opensItems =
    next &&
    (next.bullet !== null ||
      (kind === 'scale' && scaleLabel(next.plain, next.text) !== null) ||
      (state.context.isPlural && isWorkLine(next.plain)) ||
      findMentions(next.plain, next.text).some(({ start }) => start === 0));
  const isGeneral = /^(?:pieces|repertoire)$/iu.test(label);
  if (!isGeneral && (!opensItems || (!state.context.isPlural && !scaleLabel(next.plain, next.text))))
    openHeadingPart(state, label, { kind, line });
}

/** A heading that is itself the part: "LYRICAL ETUDE" with its details on the lines below. */
function openHeadingPart(
  state: SheetState,
  label: string,
  { kind, line }: { readonly kind: PartKind; readonly line: Line },
): void {
  const draft = openPart(state, calmLabel(label), { kind, line });
  state.currentIndent = -1;
  draft.inherit(present(state.context.heading));
  state.context.heading = null;
}
