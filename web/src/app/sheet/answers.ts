import { askTempo, markText, parseTempo, type TempoMark } from '@vivid-cue/core/music';
import { runsPhrase } from '@vivid-cue/core/score';
import {
  dateInYear,
  partField,
  readField,
  valueOfWords,
  writeField,
  type PartKind,
  type SheetSpan,
  type WordField,
} from '@vivid-cue/core/sheet';
import type { AskedQuestion } from '@vivid-cue/contract';
import { fieldsFrom } from '../ui/tempo-choice';
import { controlOf, copyOf, isTypedField, type PartForm, type SheetForm, type SheetRest } from './sheet-form';

/** An answer given to a question. Shape: `candidate` where one of the readings was chosen, else undefined. */
export interface Answer {
  readonly question: AskedQuestion;
  readonly candidate: unknown;
  readonly text: string;
  readonly reason: string;
}

function isTempo(value: unknown): value is TempoMark {
  return typeof value === 'object' && value !== null && 'bound' in value;
}

function isSpans(value: unknown): value is readonly SheetSpan[] {
  return (
    Array.isArray(value) &&
    value.length > 0 &&
    typeof value[0] === 'object' &&
    value[0] !== null &&
    'from' in value[0]
  );
}

/**
 * A reading to choose from, in words.
 * Shape:  a tempo, a run of measures, a date, a number or a name
 */
export function candidateText(candidate: unknown): string {
  if (isTempo(candidate)) return markText(candidate);
  if (isSpans(candidate)) return runsPhrase(candidate);
  return typeof candidate === 'object' ? JSON.stringify(candidate) : String(candidate);
}

/** The field that a question is about: the last step of its path. */
export function fieldAsked({ about }: AskedQuestion): string {
  return about.replace(/^.*\//u, '');
}

/**
 * Carries an answer into the field that it is about.
 * Shape:  false where the answer names no field that we know, and is only kept
 */
export function applyAnswer(form: SheetForm, { question, candidate, text }: Answer): boolean {
  const dated = /^deadlines\[(.+)\]\/(date|time)$/u.exec(question.about);
  if (dated)
    return applyDate(form, dated[1] ?? '', {
      field: dated[2] === 'time' ? 'time' : 'date',
      value: String(candidate ?? text),
    });
  if (question.about === 'body' || question.about === 'year') {
    form.controls[question.about].setValue(text);
    if (question.about === 'year') fillWaiting(form, text);
    return true;
  }
  const part = form.controls.parts.controls.find(({ controls }) => controls.id.value === question.partId);
  return part !== undefined && applyToPart(part, fieldAsked(question), { candidate, text });
}

function applyDate(
  form: SheetForm,
  kind: string,
  { field, value }: { readonly field: 'date' | 'time'; readonly value: string },
): boolean {
  const deadline = form.controls.deadlines.controls.find(
    (one) => one.controls.kind.value === kind && (field === 'time' || one.controls.date.value === ''),
  );
  if (field === 'date') {
    const day = /\d{4}-\d{2}-\d{2}/u.exec(value)?.[0];
    if (deadline && day !== undefined) deadline.controls.date.setValue(day);
    return fillWaiting(form, value) || (deadline !== undefined && day !== undefined);
  }
  const time = /\d{1,2}:\d{2}/u.exec(value)?.[0]?.padStart(5, '0');
  if (!deadline || time === undefined) return false;
  deadline.controls.time.setValue(time);
  return true;
}

/** One answer with a year fills every date that waited for it. Shape: whether it filled any */
function fillWaiting(form: SheetForm, answer: string): boolean {
  let isFilled = false;
  for (const { controls } of form.controls.deadlines.controls) {
    const read = controls.date.value === '' ? dateInYear(controls.text.value, answer) : null;
    if (read === null) continue;
    controls.date.setValue(read.date);
    controls.endDate.setValue(read.endDate ?? '');
    isFilled = true;
  }
  return isFilled;
}

function applyToPart(
  part: PartForm,
  field: string,
  { candidate, text }: { readonly candidate: unknown; readonly text: string },
): boolean {
  if (field === 'tempo') {
    const read = isTempo(candidate) ? { mark: candidate } : askTempo(text);
    if (!('mark' in read)) return false;
    const { bound, beatUnit, low, high, words } = fieldsFrom(read.mark);
    part.patchValue({ bound, beatUnit, low, high, words: words === '' ? part.controls.words.value : words });
    return true;
  }
  if (!isTypedField(field)) return false;
  const typed = isSpans(candidate) ? runsPhrase(candidate) : text;
  const described = partField(field);
  if (!described || 'issue' in readField(described, typed)) return false;
  controlOf(part, field).setValue(typed);
  return true;
}

/**
 * One part for each key that a line of scales names.
 * Shape:  the part keeps the first key; copies with the others follow it
 */
export function splitByKeys(form: SheetForm, partId: string, keys: readonly string[]): void {
  const parts = form.controls.parts;
  const at = parts.controls.findIndex(({ controls }) => controls.id.value === partId);
  const part = parts.controls[at];
  if (!part) return;
  const label = controlOf(part, 'label').value;
  keys.forEach((key, n) => {
    const own = n === 0 ? part : copyOf(part);
    if (n > 0) parts.insert(at + n, own);
    controlOf(own, 'key').setValue(key);
    controlOf(own, 'label').setValue(`${label}: ${key}`);
  });
}

/**
 * Reads the tempo that was typed as printed into the part's fields.
 * Shape:  a hint for the person, "" where nothing is left to say; the fields stay where the text cannot be read
 */
export function applyPrinted(part: PartForm): string {
  const { printed, bound, beatUnit, low, high, words } = part.controls;
  if (printed.value.trim() === '') return '';
  const parsed = parseTempo(printed.value);
  if (!parsed.ok) return parsed.issues[0]?.message ?? '';
  const mark = parsed.value;
  const fields = fieldsFrom(mark);
  bound.setValue(fields.bound);
  low.setValue(fields.low);
  high.setValue(fields.high);
  words.setValue(fields.words);
  if (mark.beatUnit !== null) beatUnit.setValue(mark.beatUnit);
  const needsUnit = mark.beatUnit === null && mark.bound !== 'words';
  return needsUnit ? 'No note value is printed; choose which note gets the beat.' : '';
}

/** Puts words of the text into a field of a part, as they read there; words that cannot be read change nothing. */
export function putWords(part: PartForm, field: WordField, words: string): void {
  const described = partField(field);
  const read = valueOfWords(words, field, controlOf(part, 'kind').value as PartKind);
  if (!described || 'issue' in read) return;
  applyToPart(part, field, { candidate: read.value, text: writeField(described, read.value) });
  part.markAsDirty();
}

/** Takes an answer into the sheet: a yes to several keys makes a part of each, all else goes into its field. */
export function takeAnswer(form: SheetForm, answer: Answer): void {
  const { partId, candidates } = answer.question;
  const keys = candidates.filter((one): one is string => typeof one === 'string');
  const isSplit = fieldAsked(answer.question) === 'key' && /^(?:yes|all|each|every)/iu.test(answer.text);
  if (isSplit && partId !== null) splitByKeys(form, partId, keys);
  else applyAnswer(form, answer);
}

/** Whether two questions are one: about the same part and field, in the same words. */
export function isSameQuestion(a: AskedQuestion, b: AskedQuestion): boolean {
  return a.partId === b.partId && a.about === b.about && a.ask === b.ask;
}

/** The rest of a sheet with a question answered, or open again. */
export function withAnswer(
  rest: SheetRest,
  question: AskedQuestion,
  given: Pick<Answer, 'text' | 'reason'> | null,
): SheetRest {
  const answer = given?.text ?? null;
  const reason = given?.reason || null;
  const questions = (rest.questions ?? []).map((one) =>
    isSameQuestion(one, question) ? { ...one, answer, reason } : one,
  );
  return { ...rest, questions };
}
