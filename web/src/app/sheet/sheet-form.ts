import { FormArray, FormControl, FormGroup } from '@angular/forms';
import { v7 as newId } from 'uuid';
import type { BeatUnit, TempoBound } from '@vivid-cue/core/music';
import {
  blankPart,
  fieldOf,
  isSameField,
  PART_FIELDS,
  partField,
  readField,
  withField,
  writeField,
  type PartField,
  type SheetPart,
} from '@vivid-cue/core/sheet';
import type { DeadlineInput, FieldIssue, SheetChange, SheetView } from '@vivid-cue/contract';
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

/** Fields of a part that are typed as one text each; the tempo has fields of its own. */
export type TypedField = Exclude<PartField['name'], 'tempo'>;

/** The fields of one part. Shape: `stood` is the part they were filled with, for what no field shows. */
export type PartForm = FormGroup<{
  id: Text;
  fields: FormGroup<Record<TypedField, Text>>;
  printed: Text;
  bound: FormControl<TempoBound>;
  beatUnit: FormControl<BeatUnit | null>;
  low: FormControl<number | null>;
  high: FormControl<number | null>;
  words: Text;
  stood: FormControl<SheetPart>;
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
export type SheetRest = Pick<SheetChange, 'choices' | 'notes' | 'questions' | 'publishedText' | 'told'>;

const text = (value: string | null | undefined): Text => new FormControl(value ?? '', { nonNullable: true });

/** Every field but the tempo. */
export const TYPED_FIELDS: readonly (PartField & { readonly name: TypedField })[] = PART_FIELDS.filter(
  (field): field is PartField & { readonly name: TypedField } => field.name !== 'tempo',
);

/** What the fields of a date hold; a new one is an audition in the studio's zone. */
export function deadlineFields(zone: string, known?: DeadlineInput): DeadlineFields {
  return {
    id: known?.id ?? newId(),
    kind: known?.kind ?? 'audition',
    date: known?.date ?? '',
    endDate: known?.endDate ?? '',
    time: known?.time ?? '',
    zone: known?.zone ?? zone,
    text: known?.text ?? '',
  };
}

/** Fields of a date with what they hold. */
export function deadlineForm(zone: string, known?: DeadlineInput): DeadlineForm {
  const { kind, ...texts } = deadlineFields(zone, known);
  return new FormGroup({
    ...textControls(texts),
    kind: new FormControl<DeadlineInput['kind']>(kind, { nonNullable: true }),
  });
}

function textControls<Name extends string>(values: Readonly<Record<Name, string>>): Record<Name, Text> {
  const controls = Object.entries<string>(values).map(([name, value]) => [name, text(value)]);
  return Object.fromEntries(controls) as Record<Name, Text>;
}

/** What the fields of a part hold. */
export function partFields(part: SheetPart): PartFields {
  const fields = TYPED_FIELDS.map((field) => [field.name, writeField(field, fieldOf(part, field.name))]);
  return {
    id: part.id,
    fields: Object.fromEntries(fields) as PartFields['fields'],
    printed: '',
    ...fieldsFrom(part.tempo),
    stood: part,
  };
}

/** Fields of a part; a new one is an etude at an exact tempo. */
export function partForm(known?: SheetPart): PartForm {
  const part = known ?? blankPart('Etude', 'etude', newId());
  const blank = { bound: 'exact' as const, beatUnit: 'quarter' as const, low: null, high: null, words: '' };
  return partFormOf({ ...partFields(part), ...(known ? {} : blank) });
}

function partFormOf({ id, fields, printed, bound, beatUnit, low, high, words, stood }: PartFields): PartForm {
  return new FormGroup({
    id: text(id),
    fields: new FormGroup(textControls(fields)),
    printed: text(printed),
    bound: new FormControl<TempoBound>(bound, { nonNullable: true }),
    beatUnit: new FormControl<BeatUnit | null>(beatUnit),
    low: new FormControl<number | null>(low),
    high: new FormControl<number | null>(high),
    words: text(words),
    stood: new FormControl<SheetPart>(stood, { nonNullable: true }),
  });
}

/** The control of a typed field. */
export function controlOf(part: PartForm, name: TypedField): Text {
  return part.controls.fields.controls[name];
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

/** What is typed into a sheet's fields, readable or not. */
export type SheetFields = ReturnType<SheetForm['getRawValue']>;
type PartFields = SheetFields['parts'][number];
type DeadlineFields = SheetFields['deadlines'][number];

/** What the fields of a known sheet hold. */
export function sheetFields(sheet: SheetChange, zone: string): SheetFields {
  const { body, year, division, instrument } = sheet;
  return {
    ...{ body, year, division, instrument },
    deadlines: sheet.deadlines.map((deadline) => deadlineFields(zone, deadline)),
    parts: sheet.parts.map(partFields),
  };
}

/** Fields with what was typed into them before. */
export function formOf({ deadlines, parts, ...heading }: SheetFields): SheetForm {
  const form = new FormGroup({
    ...textControls(heading),
    deadlines: new FormArray(deadlines.map((typed) => deadlineForm(typed.zone, typed))),
    parts: new FormArray(parts.map(partFormOf)),
  });
  form.markAsDirty();
  return form;
}

/** Puts into fields what they are to hold; those that hold it already are left as they are. */
export function refill(form: SheetForm, { deadlines, parts, ...heading }: SheetFields): void {
  const quiet = { emitEvent: false };
  form.patchValue(heading, quiet);
  reuse(form.controls.deadlines, deadlines, (typed) => deadlineForm(typed.zone, typed));
  reuse(form.controls.parts, parts, partFormOf);
  form.markAsDirty();
  form.updateValueAndValidity();
}

/** The entries of a list in their order: of one identifier the same fields, new ones where none had it. */
function reuse<Typed extends { readonly id: string }, Fields extends FormGroup>(
  list: FormArray<Fields>,
  wanted: readonly Typed[],
  make: (typed: Typed) => Fields,
): void {
  const known = new Map(list.controls.map((one) => [(one.getRawValue() as Typed).id, one]));
  const quiet = { emitEvent: false };
  const next = wanted.map((typed) => {
    const own = known.get(typed.id);
    if (!own) return make(typed);
    const raw = own.getRawValue() as object;
    if (JSON.stringify(raw) !== JSON.stringify({ ...raw, ...typed })) own.setValue(typed as never, quiet);
    return own;
  });
  if (next.length === list.length && next.every((one, n) => one === list.at(n))) {
    list.updateValueAndValidity(quiet);
    return;
  }
  list.clear(quiet);
  for (const one of next) (list as FormArray).push(one, quiet);
}

/** What the fields hold, and what of it cannot be read. */
export interface SheetEntry {
  readonly change: SheetChange;
  readonly issues: readonly FieldIssue[];
}

const orNull = (value: string): string | null => (value.trim() === '' ? null : value.trim());

/**
 * What the fields say, as the contract wants it.
 * Shape:  empty texts of optional fields become null; what cannot be read is an issue and left out
 * Errors: none; the contract's schema judges the rest
 */
export function sheetFrom(form: SheetForm, rest: SheetRest = {}): SheetEntry {
  const { body, year, division, instrument, deadlines } = form.getRawValue();
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
    parts: form.controls.parts.controls.map((part, n) => {
      const read = partFrom(part);
      issues.push(...read.issues.map(({ where, message }) => ({ where: `parts[${n}].${where}`, message })));
      return read.part;
    }),
    ...rest,
  };
  return { change, issues };
}

function partFrom(form: PartForm): { readonly part: SheetPart; readonly issues: readonly FieldIssue[] } {
  const { id, printed, bound, beatUnit, low, high, words, stood } = form.getRawValue();
  const issues: FieldIssue[] = [];
  // A part whose tempo nobody touched states none.
  const isUntouched = bound === 'exact' && low === null && printed.trim() === '';
  const tempo = tempoFrom({ bound: isUntouched ? 'none' : bound, beatUnit, low, high, words });
  let part: SheetPart = { ...stood, id, tempo };
  for (const field of TYPED_FIELDS) {
    const typed = controlOf(form, field.name).value;
    // A field that nobody typed into keeps what no text holds: the words of an anchor, instrument and list of a scope.
    if (typed === writeField(field, fieldOf(stood, field.name))) continue;
    const read = readField(field, typed);
    if ('issue' in read) issues.push({ where: field.name, message: read.issue });
    else part = withField(part, field.name, read.value);
  }
  return { part, issues };
}

/** What a part's fields say, as far as they can be read. */
export function partOf(form: PartForm): SheetPart {
  return partFrom(form).part;
}

/** Whether two parts state the same, field by field. */
export function isSamePart(a: SheetPart, b: SheetPart): boolean {
  return PART_FIELDS.every((field) => isSameField(field, fieldOf(a, field.name), fieldOf(b, field.name)));
}

/** A sheet to start the next year's from: its parts with identifiers of their own, its dates without their days. */
export function nextYearOf(sheet: SheetView): SheetChange {
  const unset = { date: null, endDate: null, text: null };
  const ids = new Map(sheet.parts.map(({ id }) => [id, newId()]));
  const own = (id: string): string => ids.get(id) ?? id;
  return {
    ...sheet,
    year: /^\d{4}$/u.test(sheet.year) ? String(Number(sheet.year) + 1) : '',
    deadlines: sheet.deadlines.map((deadline) => ({ ...deadline, ...unset, id: newId() })),
    parts: sheet.parts.map((part) => ({ ...part, id: own(part.id) })),
    choices: (sheet.choices ?? []).map((choice) => ({
      ...choice,
      of: choice.of.map((one) => (typeof one === 'string' ? own(one) : one.map(own))),
    })),
    questions: [],
    publishedText: null,
    told: null,
  };
}

/** Adds parts to a sheet; they take the place of parts that say nothing yet. */
export function addParts(form: SheetForm, parts: readonly SheetPart[]): void {
  const known = form.controls.parts;
  const isBlank = known.controls.every(
    (part) => controlOf(part, 'title').value === '' && part.controls.low.value === null,
  );
  if (isBlank) known.clear();
  for (const part of parts) known.push(partForm(part));
}

/** A copy of a part with an identifier of its own. */
export function copyOf(part: PartForm): PartForm {
  const { part: stated } = partFrom(part);
  return partForm({ ...stated, id: newId() });
}

/** Whether a name is that of a typed field. */
export function isTypedField(name: string): name is TypedField {
  return name !== 'tempo' && partField(name) !== null;
}
