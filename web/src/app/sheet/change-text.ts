import { partField, showField } from '@vivid-cue/core/sheet';

/** A field's value in words, as a difference shows it. Shape: "nothing" where nothing is stated. */
export function valueText(field: string, value: unknown): string {
  const known = partField(field);
  if (known && value !== null) return showField(known, value);
  return value === null || value === undefined || value === '' ? 'nothing' : String(value);
}

/** A field's name as people say it. */
export function fieldText(field: string): string {
  const [name = field] = field.split('.');
  return partField(name)?.caption ?? (field === 'notes' ? 'in the music' : field);
}

/** A part's or date's name: "deadlines[recording]" is "recording date". */
export function partText(part: string): string {
  const kind = /^deadlines\[(.+)\]$/u.exec(part)?.[1];
  return kind === undefined ? part : `${kind} date`;
}
