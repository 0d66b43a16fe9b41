import { present } from '../base/index.js';
import { type ChoiceRead, readChoice } from './choices.js';
import { findDates, findTimes } from './find-dates.js';
import { findDivisions } from './find-divisions.js';
import { findPoints } from './find-terms.js';
import { CoverableText } from './found.js';
import { findMentions, kindOf } from './labels.js';
import type { Line } from './lines.js';
import { noteKindOf } from './notes.js';
import { PartDraft } from './part-draft.js';
import { readDeadlines, timeQuestion, whatOf } from './read-deadlines.js';
import { readParts } from './read-parts.js';
import { clausesOf, sentencesOf, type Stretch } from './sentences.js';
import { addNote, closeChoice, mark, markAll, type SheetState, takeDivisions } from './sheet-state.js';

const GROUP_RULE =
  /^(?<listed>pieces?|etudes?|studies|excerpts?|scales?)\s*:?\s+\d{1,3}\s*(?:points|marks|pts)\s+each|\b(?:(?<every>each|every|all|both)\s+(?:the\s+)?(?:(?:of\s+the\s+)?\w+\s+)?)?(?<what>pieces?|etudes?|études?|studies|study|excerpts?|scales?|requirements?|parts?|selections?|solos?)\s*(?:must|should|will|is|are|be|carry|carries|counts?|to\s+be|may|(?<=(?:each|every)\s.*)(?=:?\s*\d{1,3}\s*(?:marks|points|pts))|(?<=(?:each|every|all|both)\s.*)from)\b/iu;

/** What sort of bullet it is: roman numerals, capitals, letters, numbers, or a sign. */
function bulletSort(bullet: string): string {
  const own = bullet.replace(/[().]/gu, '');
  if (/^[IVX]+$/u.test(own)) return 'roman';
  return /^\d/u.test(own)
    ? 'number'
    : /^\p{Lu}/u.test(own)
      ? 'capital'
      : /^\p{Ll}/u.test(own)
        ? 'letter'
        : own;
}

/** Reads the sentences of a line: notes whole, everything else clause by clause. */
export function readSentences(state: SheetState, line: Line, n: number): void {
  for (const sentence of sentencesOf(line.plain)) {
    const own = line.plain.slice(sentence.start, sentence.end);
    const note =
      /["=]/u.test(own) || findMentions(own, own).some(({ start }) => start === 0) ? null : noteKindOf(own);
    if (note) addNote(state, line, { sentence, kind: note });
    else
      for (const clause of clausesOf(line.plain, sentence))
        readSentence(state, line, { sentence: clause, n });
  }
}

function readSentence(
  state: SheetState,
  line: Line,
  { sentence, n }: { readonly sentence: Stretch; readonly n: number },
): void {
  const own = line.plain.slice(sentence.start, sentence.end);
  const printed = line.text.slice(sentence.start, sentence.end);
  const note = noteKindOf(own);
  if (note) return addNote(state, line, { sentence, kind: note });
  const work = new CoverableText(printed, own);
  const divisions = work.take((text) => findDivisions(text, printed));
  const exams = divisions.filter(
    ({ value }) => value.name === null || value.gradeMin !== null || value.ageMax !== null,
  );
  if (exams.length > 0) takeDivisions(state, line, sentence);
  if (
    exams.length > 0 &&
    findMentions(work.plain, printed).length === 0 &&
    findDates(work.plain).length === 0
  )
    return;
  if (readDates(state, line, { sentence, work })) return;
  if (readChoiceIn(state, line, { sentence, own, printed })) return;
  if (readGroupRule(state, line, { sentence, own, printed })) return;
  const total = findPoints(own).find(({ value }) => value.isTotal);
  if (total) state.total = total.value.points;
  readParts(state, line, { sentence, work, n });
}

function readDates(
  state: SheetState,
  line: Line,
  { sentence, work }: { readonly sentence: Stretch; readonly work: CoverableText },
): boolean {
  const found = readDeadlines(work.plain, work.printed);
  if (found.length === 0)
    return /\bopens?\b/iu.test(work.plain) && findDates(work.plain).length > 0
      ? markAll(state, line, { stretch: sentence, about: 'heading' })
      : readLooseTime(state, line, { sentence, work });
  for (const { deadline, question, timeQuestion: asked } of found) {
    state.deadlines.push(deadline);
    if (question) state.questions.push(question);
    if (asked) state.questions.push(asked);
    mark(state, line, { stretch: sentence, about: `deadlines[${state.deadlines.length - 1}]` });
  }
  state.current = line.bullet === null ? null : state.current;
  return true;
}

/** "Recordings close at midnight.": the time of a date that stands elsewhere. */
function readLooseTime(
  state: SheetState,
  line: Line,
  { sentence, work }: { readonly sentence: Stretch; readonly work: CoverableText },
): boolean {
  if (state.deadlines.length === 0) return false;
  const [time] = findTimes(work.plain);
  const what = time ? whatOf(work.plain) : null;
  const at = state.deadlines.findLastIndex((deadline) => deadline.what === what && deadline.time === null);
  if (!time || what === null || at < 0 || findMentions(work.plain, work.printed).length > 0) return false;
  state.deadlines[at] = {
    ...present(state.deadlines[at]),
    time: time.value.time,
    zone: present(state.deadlines[at]).zone ?? time.value.zone,
  };
  const asked = timeQuestion(time.value, what);
  if (asked) state.questions.push(asked);
  return markAll(state, line, { stretch: sentence, about: `deadlines[${at}]` });
}

function readChoiceIn(
  state: SheetState,
  line: Line,
  { sentence, own, printed }: { readonly sentence: Stretch; readonly own: string; readonly printed: string },
): boolean {
  const read = readChoice(own, printed);
  if (!read) return false;
  const isWhole = isOnlyChoice(own, read);
  mark(state, line, { stretch: sentence, about: 'choices' });
  if (read.follows) {
    closeChoice(state);
    state.openChoice = { of: [], choice: read.choice, indent: line.indent, bullet: line.bullet };
    state.context.parentBullet = line.bullet;
    const kind = kindOf(own);
    if (kind) state.context.kind = kind;
    state.current = null;
    return true;
  }
  state.choices.push({ choice: read.choice, lists: read.choice.rule === 'oneFromEach' ? read.lists : null });
  return isWhole;
}

/** "Choose two of Etude A, B and C" says nothing else; "either Etude 1 (“Ebb”, mm. 1–8) or Etude 2 (…)" opens parts. */
function isOnlyChoice(own: string, { choice }: ChoiceRead): boolean {
  if (choice.rule === 'oneFromEach') return true;
  return !/["\u266a\u2669=]|\bmm?\.|\bmeasures?\b|\bbars?\b|\bpage\b|\bp\./iu.test(own);
}

function readGroupRule(
  state: SheetState,
  line: Line,
  { sentence, own, printed }: { readonly sentence: Stretch; readonly own: string; readonly printed: string },
): boolean {
  const pieces = own.split(/\s*,?\s+and\s+(?=(?:each|every|all)\s)/iu);
  let place = 0;
  let isAny = false;
  for (const piece of pieces) {
    const start = own.indexOf(piece, place);
    place = start + piece.length;
    const rule = GROUP_RULE.exec(piece);
    const isPlural = /s$/iu.test(rule?.groups?.what ?? '') || rule?.groups?.listed !== undefined;
    if (!rule || (rule.groups?.every === undefined && !isPlural) || /["=]/u.test(piece)) continue;
    if (findMentions(piece, piece).some((mention) => mention.isNumbered)) continue;
    const isHere = state.drafts.length > 0 || rule.groups?.every !== undefined;
    const kind = kindOf(rule.groups?.what ?? rule.groups?.listed ?? '');
    const isAll = /requirement|part|selection/iu.test(rule.groups?.what ?? '');
    const draft = new PartDraft('', kind ?? 'other');
    draft.read(new CoverableText(printed.slice(start, start + piece.length), piece), 0, false);
    if (draft.readings.length === 0 || !isHere) continue;
    state.groupRules.push({
      kinds: isAll ? null : kind === 'scale' ? ['scale', 'chromatic'] : kind === null ? null : [kind],
      rule: draft,
    });
    isAny = true;
  }
  if (isAny) mark(state, line, { stretch: sentence, about: 'parts' });
  return isAny;
}

/** Items of a choice end where a line stands without a bullet, or with one of its heading's own sort. */
export function endsChoice(state: SheetState, line: Line): boolean {
  if (!state.openChoice || state.openChoice.of.length === 0) return false;
  if (line.bullet === null) return line.indent <= state.openChoice.indent;
  return state.openChoice.bullet !== null && bulletSort(line.bullet) === bulletSort(state.openChoice.bullet);
}
