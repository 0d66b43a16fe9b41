import { FormArray, FormControl, FormGroup } from '@angular/forms';
import { v7 as newId } from 'uuid';
import type { BeatUnit, TempoBound } from '@vivid-cue/core/music';
import type { DeadlineInput, SheetChange, SheetPartInput, SheetView } from '@vivid-cue/contract';
import { fieldsFrom, tempoFrom } from './tempo-choice';

type Text = FormControl<string>;

/** The fields of one date. */
export type DeadlineForm = FormGroup<{
  id: Text;
  kind: FormControl<DeadlineInput['kind']>;
  date: Text;
  time: Text;
  zone: Text;
}>;

/** The fields of one part. */
export type PartForm = FormGroup<{
  id: Text;
  kind: FormControl<SheetPartInput['kind']>;
  label: Text;
  workTitle: Text;
  from: Text;
  to: Text;
  printed: Text;
  bound: FormControl<TempoBound>;
  beatUnit: FormControl<BeatUnit | null>;
  low: FormControl<number | null>;
  high: FormControl<number | null>;
  words: Text;
}>;

/** The fields of a whole sheet. */
export type SheetForm = FormGroup<{
  body: Text;
  year: Text;
  division: Text;
  instrument: Text;
  deadlines: FormArray<DeadlineForm>;
  parts: FormArray<PartForm>;
}>;

const text = (value: string): Text => new FormControl(value, { nonNullable: true });

/** Fields of a date; a new one is an audition in the studio's zone. */
export function deadlineForm(zone: string, known?: DeadlineInput): DeadlineForm {
  return new FormGroup({
    id: text(known?.id ?? newId()),
    kind: new FormControl<DeadlineInput['kind']>(known?.kind ?? 'audition', { nonNullable: true }),
    date: text(known?.date ?? ''),
    time: text(known?.time ?? ''),
    zone: text(known?.zone ?? zone),
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
    workTitle: text(known?.workTitle ?? ''),
    from: text(known?.from ?? ''),
    to: text(known?.to ?? ''),
    printed: text(''),
    bound: new FormControl<TempoBound>(tempo.bound, { nonNullable: true }),
    beatUnit: new FormControl<BeatUnit | null>(tempo.beatUnit),
    low: new FormControl<number | null>(tempo.low),
    high: new FormControl<number | null>(tempo.high),
    words: text(tempo.words),
  });
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
export function sheetForm(sheet: SheetView, zone: string): SheetForm {
  return new FormGroup({
    body: text(sheet.body),
    year: text(sheet.year),
    division: text(sheet.division),
    instrument: text(sheet.instrument),
    deadlines: new FormArray(sheet.deadlines.map((deadline) => deadlineForm(zone, deadline))),
    parts: new FormArray(sheet.parts.map((part) => partForm(part))),
  });
}

/**
 * What the fields say, as the contract wants it.
 * Shape:  empty texts of optional fields become null
 * Units:  none
 * Errors: none; the contract's schema judges
 * Source: none
 */
export function sheetFrom(form: SheetForm): SheetChange {
  const { body, year, division, instrument, deadlines, parts } = form.getRawValue();
  const orNull = (value: string): string | null => (value.trim() === '' ? null : value.trim());
  return {
    body: body.trim(),
    year: year.trim(),
    division: division.trim(),
    instrument: instrument.trim(),
    deadlines: deadlines.map(({ id, kind, date, time, zone }) => ({
      id,
      kind,
      date,
      time: orNull(time),
      zone,
    })),
    parts: parts.map(({ id, kind, label, workTitle, from, to, ...tempo }) => ({
      id,
      kind,
      label: label.trim(),
      workTitle: workTitle.trim(),
      from: orNull(from)?.toUpperCase() ?? null,
      to: orNull(to)?.toUpperCase() ?? null,
      tempo: tempoFrom(tempo),
    })),
  };
}
