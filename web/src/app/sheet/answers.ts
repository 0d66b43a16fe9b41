import { askTempo, parseTempo, type TempoMark } from '@vivid-cue/core/music';
import type { AskedQuestion } from '@vivid-cue/contract';
import { markText } from '@vivid-cue/core/program';
import { readSpanPhrase, type SheetSpan } from '@vivid-cue/core/sheet';
import { fieldsFrom } from '../ui/tempo-choice';
import { partForm, type PartForm, type SheetForm, type SheetRest } from './sheet-form';

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
  if (isSpans(candidate))
    return candidate.map(({ from, to }) => (from === to ? String(from) : `${from}–${to}`)).join(', ');
  return typeof candidate === 'object' ? JSON.stringify(candidate) : String(candidate);
}

/**
 * Carries an answer into the field that it is about.
 * Shape:  false where the answer names no field that we know, and is only kept
 */
export function applyAnswer(form: SheetForm, { question, candidate, text }: Answer): boolean {
  const dated = /^deadlines\[(.+)\]\/(date|time)$/u.exec(question.about);
  if (dated)
    return applyDate(form, dated[1] ?? '', dated[2] === 'time' ? 'time' : 'date', String(candidate ?? text));
  if (question.about === 'body' || question.about === 'year') {
    form.controls[question.about].setValue(text);
    return true;
  }
  const [label, field] = [question.about.replace(/\/[^/]*$/u, ''), question.about.replace(/^.*\//u, '')];
  const parts = form.controls.parts.controls.filter((part) => part.controls.label.value === label);
  return parts.length > 0 && parts.map((part) => applyToPart(part, field, candidate, text)).every(Boolean);
}

function applyDate(form: SheetForm, kind: string, field: 'date' | 'time', value: string): boolean {
  const deadline = form.controls.deadlines.controls.find(
    (one) => one.controls.kind.value === kind && (field === 'time' || one.controls.date.value === ''),
  );
  const clean =
    field === 'date'
      ? /\d{4}-\d{2}-\d{2}/u.exec(value)?.[0]
      : /\d{1,2}:\d{2}/u.exec(value)?.[0]?.padStart(5, '0');
  if (!deadline || clean === undefined) return false;
  deadline.controls[field].setValue(clean);
  return true;
}

function applyToPart(part: PartForm, field: string, candidate: unknown, text: string): boolean {
  if (field === 'tempo') {
    const read = isTempo(candidate) ? { mark: candidate } : askTempo(text);
    if (!('mark' in read)) return false;
    const { bound, beatUnit, low, high, words } = fieldsFrom(read.mark);
    part.patchValue({ bound, beatUnit, low, high, words: words === '' ? part.controls.words.value : words });
    return true;
  }
  if (field === 'measures') {
    const read = isSpans(candidate) ? { measures: candidate } : readSpanPhrase(text);
    if (!('measures' in read)) return false;
    part.controls.measures.setValue(candidateText(read.measures));
    return true;
  }
  if (field === 'key') {
    part.controls.detail.controls.key.setValue(text);
    return true;
  }
  return applyNumber(part, field, text);
}

function applyNumber(part: PartForm, field: string, text: string): boolean {
  const controls = part.controls.detail.controls;
  const number = Number(text);
  if (!Number.isFinite(number)) return false;
  if (field === 'octaves' || field === 'points' || field === 'minSeconds' || field === 'maxSeconds') {
    controls[field].setValue(number);
    return true;
  }
  return false;
}

/**
 * One part for each key that a line of scales names.
 * Shape:  the part keeps the first key; copies with the others follow it
 */
export function splitByKeys(
  form: SheetForm,
  label: string,
  keys: readonly string[],
  newId: () => string,
): void {
  const parts = form.controls.parts;
  const at = parts.controls.findIndex((part) => part.controls.label.value === label);
  const part = parts.controls[at];
  if (!part) return;
  keys.forEach((key, n) => {
    const copy = n === 0 ? part : partForm();
    if (n > 0) {
      copy.setValue({ ...part.getRawValue(), id: newId() });
      parts.insert(at + n, copy);
    }
    copy.controls.detail.controls.key.setValue(key);
  });
  keys.forEach((key, n) => parts.controls[at + n]?.controls.label.setValue(`${label}: ${key}`));
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

/** Takes an answer into the sheet: a yes to several keys makes a part of each, all else goes into its field. */
export function takeAnswer(form: SheetForm, answer: Answer, newId: () => string): void {
  const { about, candidates } = answer.question;
  const keys = candidates.filter((one): one is string => typeof one === 'string');
  const isSplit = about.endsWith('/key') && /^(?:yes|all|each|every)/iu.test(answer.text);
  if (isSplit) splitByKeys(form, about.replace(/\/key$/u, ''), keys, newId);
  else applyAnswer(form, answer);
}

/** The rest of a sheet with a question answered, or open again. */
export function withAnswer(
  rest: SheetRest,
  { about, ask }: AskedQuestion,
  given: Pick<Answer, 'text' | 'reason'> | null,
): SheetRest {
  const answer = given?.text ?? null;
  const reason = given?.reason || null;
  const questions = (rest.questions ?? []).map((one) =>
    one.about === about && one.ask === ask ? { ...one, answer, reason } : one,
  );
  return { ...rest, questions };
}
