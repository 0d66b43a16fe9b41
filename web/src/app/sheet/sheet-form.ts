import { FormArray, FormControl, FormGroup } from '@angular/forms';
import { v7 as newId } from 'uuid';
import type { BeatUnit, TempoBound } from '@vivid-cue/core/music';
import { readSpanPhrase, type Accompaniment, type Repeats, type SheetSpan } from '@vivid-cue/core/sheet';
import type { ScaleNoteValue } from '@vivid-cue/core/scale';
import {
  blankDetail,
  type DeadlineInput,
  type FieldIssue,
  type PartDetail,
  type SheetChange,
  type SheetPartInput,
  type SheetView,
} from '@vivid-cue/contract';
import { fieldsFrom, tempoFrom } from '../ui/tempo-choice';

type Text = FormControl<string>;

/** The fields of one date. */
export type DeadlineForm = FormGroup<{
  id: Text;
  kind: FormControl<DeadlineInput['kind']>;
  date: Text;
  endDate: Text;
  time: Text;
  zone: Text;
  text: Text;
}>;

/** The fields of what a part states beside its tempo. */
export type DetailForm = FormGroup<{
  appliesTo: Text;
  composer: Text;
  book: Text;
  number: Text;
  page: Text;
  edition: Text;
  key: Text;
  octaves: FormControl<number | null>;
  noteValue: FormControl<ScaleNoteValue | null>;
  rangeLow: Text;
  rangeHigh: Text;
  articulation: Text;
  memory: FormControl<boolean | null>;
  repeats: FormControl<Repeats>;
  accompaniment: FormControl<Accompaniment | null>;
  minSeconds: FormControl<number | null>;
  maxSeconds: FormControl<number | null>;
  points: FormControl<number | null>;
}>;

/** The fields of one part. */
export type PartForm = FormGroup<{
  id: Text;
  kind: FormControl<SheetPartInput['kind']>;
  label: Text;
  workTitle: Text;
  measures: Text;
  printed: Text;
  bound: FormControl<TempoBound>;
  beatUnit: FormControl<BeatUnit | null>;
  low: FormControl<number | null>;
  high: FormControl<number | null>;
  words: Text;
  detail: DetailForm;
}>;

/** The fields of a whole sheet; choices, notes and questions are kept beside it. */
export type SheetForm = FormGroup<{
  body: Text;
  year: Text;
  division: Text;
  instrument: Text;
  deadlines: FormArray<DeadlineForm>;
  parts: FormArray<PartForm>;
}>;

/** What of a sheet stands beside its fields. */
export type SheetRest = Pick<SheetChange, 'choices' | 'notes' | 'questions' | 'publishedText'>;

const text = (value: string | null | undefined): Text => new FormControl(value ?? '', { nonNullable: true });

/** Fields of a date; a new one is an audition in the studio's zone. */
export function deadlineForm(zone: string, known?: DeadlineInput): DeadlineForm {
  return new FormGroup({
    id: text(known?.id ?? newId()),
    kind: new FormControl<DeadlineInput['kind']>(known?.kind ?? 'audition', { nonNullable: true }),
    date: text(known?.date),
    endDate: text(known?.endDate),
    time: text(known?.time),
    zone: text(known?.zone ?? zone),
    text: text(known?.text),
  });
}

function detailForm(detail: PartDetail): DetailForm {
  return new FormGroup({
    appliesTo: text(detail.appliesTo.join('; ')),
    composer: text(detail.composer),
    book: text(detail.book),
    number: text(detail.number),
    page: text(detail.page),
    edition: text(detail.edition),
    key: text(detail.key),
    octaves: new FormControl<number | null>(detail.octaves),
    noteValue: new FormControl<ScaleNoteValue | null>(detail.noteValue ?? null),
    rangeLow: text(detail.range?.low),
    rangeHigh: text(detail.range?.high),
    articulation: text(detail.articulation),
    memory: new FormControl<boolean | null>(detail.memory),
    repeats: new FormControl<Repeats>(detail.repeats ?? 'unstated', { nonNullable: true }),
    accompaniment: new FormControl<Accompaniment | null>(detail.accompaniment ?? null),
    minSeconds: new FormControl<number | null>(detail.minSeconds),
    maxSeconds: new FormControl<number | null>(detail.maxSeconds),
    points: new FormControl<number | null>(detail.points),
  });
}

/** Fields of a part; a new one is an etude at an exact tempo. */
export function partForm(known?: SheetPartInput): PartForm {
  const tempo = known
    ? fieldsFrom(known.tempo)
    : { bound: 'exact' as const, beatUnit: 'quarter' as const, low: null, high: null, words: '' };
  return new FormGroup({
    id: text(known?.id ?? newId()),
    kind: new FormControl<SheetPartInput['kind']>(known?.kind ?? 'etude', { nonNullable: true }),
    label: text(known?.label ?? 'Etude'),
    workTitle: text(known?.workTitle),
    measures: text(known ? measuresPhrase(known) : ''),
    printed: text(''),
    bound: new FormControl<TempoBound>(tempo.bound, { nonNullable: true }),
    beatUnit: new FormControl<BeatUnit | null>(tempo.beatUnit),
    low: new FormControl<number | null>(tempo.low),
    high: new FormControl<number | null>(tempo.high),
    words: text(tempo.words),
    detail: detailForm(known?.detail ?? blankDetail()),
  });
}

/** The measures of a part as one phrase that reads back the same. */
function measuresPhrase({ from, to, detail }: SheetPartInput): string {
  const runs = detail?.measures ?? [];
  const spans = runs.length > 0 ? runs : from === null || to === null ? [] : [{ from, to, anchorText: null }];
  return spans
    .map((span) => {
      const isPlain = /^\d/u.test(span.from) && /^\d/u.test(span.to);
      if (isPlain) return span.from === span.to ? span.from : `${span.from}–${span.to}`;
      return span.anchorText ?? `${span.from} to ${span.to}`;
    })
    .join(', ');
}

/** An empty sheet with one date and one part. */
export function emptySheet(zone: string, year: string): SheetForm {
  return new FormGroup({
    body: text(''),
    year: text(year),
    division: text(''),
    instrument: text(''),
    deadlines: new FormArray([deadlineForm(zone)]),
    parts: new FormArray([partForm()]),
  });
}

/** A known sheet in its fields. */
export function sheetForm(sheet: SheetChange, zone: string): SheetForm {
  return new FormGroup({
    body: text(sheet.body),
    year: text(sheet.year),
    division: text(sheet.division),
    instrument: text(sheet.instrument),
    deadlines: new FormArray(sheet.deadlines.map((deadline) => deadlineForm(zone, deadline))),
    parts: new FormArray(sheet.parts.map((part) => partForm(part))),
  });
}

/** What the fields hold, and what of it cannot be read. */
export interface SheetEntry {
  readonly change: SheetChange;
  readonly issues: readonly FieldIssue[];
}

const orNull = (value: string): string | null => (value.trim() === '' ? null : value.trim());

/**
 * What the fields say, as the contract wants it.
 * Shape:  empty texts of optional fields become null; measures that cannot be read are an issue and left out
 * Errors: none; the contract's schema judges the rest
 */
export function sheetFrom(form: SheetForm, rest: SheetRest = {}): SheetEntry {
  const { body, year, division, instrument, deadlines, parts } = form.getRawValue();
  const issues: FieldIssue[] = [];
  const change = {
    body: body.trim(),
    year: year.trim(),
    division: division.trim(),
    instrument: instrument.trim(),
    deadlines: deadlines.map(({ id, kind, date, endDate, time, zone, text: printed }) => ({
      id,
      kind,
      date: orNull(date),
      endDate: orNull(endDate),
      time: orNull(time),
      zone,
      text: orNull(printed),
    })),
    parts: parts.map((part, n) => {
      const spans = spansOf(part.measures);
      if (typeof spans === 'string') issues.push({ where: `parts[${n}].from`, message: spans });
      return partFrom(part, typeof spans === 'string' ? [] : spans);
    }),
    ...rest,
  };
  return { change, issues };
}

function spansOf(phrase: string): readonly SheetSpan[] | string {
  if (phrase.trim() === '') return [];
  const read = readSpanPhrase(phrase);
  return 'measures' in read ? read.measures : read.question;
}

function partFrom(part: ReturnType<PartForm['getRawValue']>, spans: readonly SheetSpan[]): SheetPartInput {
  const { id, kind, label, workTitle, detail, measures: _measures, printed, ...tempo } = part;
  // A part whose tempo nobody touched states none.
  const isUntouched = tempo.bound === 'exact' && tempo.low === null && printed.trim() === '';
  const runs = spans.map(({ from, to, anchorText }) => ({ from: String(from), to: String(to), anchorText }));
  const [low, high] = [orNull(detail.rangeLow), orNull(detail.rangeHigh)];
  return {
    id,
    kind,
    label: label.trim(),
    workTitle: workTitle.trim(),
    from: runs[0]?.from ?? null,
    to: runs.at(-1)?.to ?? null,
    tempo: tempoFrom(isUntouched ? { ...tempo, bound: 'none' } : tempo),
    detail: {
      appliesTo: detail.appliesTo
        .split(';')
        .map((one) => one.trim())
        .filter((one) => one !== ''),
      composer: orNull(detail.composer),
      book: orNull(detail.book),
      number: orNull(detail.number),
      page: orNull(detail.page),
      edition: orNull(detail.edition),
      measures: runs,
      key: orNull(detail.key),
      octaves: detail.octaves,
      noteValue: detail.noteValue,
      range: low === null || high === null ? null : { low, high },
      articulation: orNull(detail.articulation),
      memory: detail.memory,
      repeats: detail.repeats,
      accompaniment: detail.accompaniment,
      minSeconds: detail.minSeconds,
      maxSeconds: detail.maxSeconds,
      points: detail.points,
    },
  };
}

/** A sheet to start the next year's from: its parts with identifiers of their own, its dates without their days. */
export function nextYearOf(sheet: SheetView): SheetChange {
  const unset = { date: null, endDate: null, text: null };
  return {
    ...sheet,
    year: /^\d{4}$/u.test(sheet.year) ? String(Number(sheet.year) + 1) : '',
    deadlines: sheet.deadlines.map((deadline) => ({ ...deadline, ...unset, id: newId() })),
    parts: sheet.parts.map((part) => ({ ...part, id: newId() })),
    questions: [],
    publishedText: null,
  };
}

/** Adds parts to a sheet; they take the place of parts that say nothing yet. */
export function addParts(form: SheetForm, parts: readonly SheetPartInput[]): void {
  const known = form.controls.parts;
  const isBlank = known.controls.every(
    ({ controls }) => controls.workTitle.value === '' && controls.low.value === null,
  );
  if (isBlank) known.clear();
  for (const part of parts) known.push(partForm(part));
}
