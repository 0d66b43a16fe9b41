import type { TempoMark } from '@vivid-cue/core/music';
import { markText } from '@vivid-cue/core/program';
import type { SheetSpan } from '@vivid-cue/core/sheet';
import { candidateText } from './answers';

/**
 * A field's value in words, as a difference shows it.
 * Shape:  "nothing" where nothing is stated
 */
export function valueText(field: string, value: unknown): string {
  if (value === null || value === undefined || value === '' || value === 'unstated') return 'nothing';
  if (field === 'tempo')
    return (value as TempoMark).bound === 'none' ? 'nothing' : markText(value as TempoMark);
  if (field === 'measures')
    return (value as readonly SheetSpan[]).length === 0 ? 'nothing' : candidateText(value);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (field === 'range') return `${(value as { low: string }).low} to ${(value as { high: string }).high}`;
  return candidateText(value);
}

const FIELD_WORDS: Readonly<Record<string, string>> = {
  label: 'name',
  kind: 'kind',
  noteValue: 'notes of',
  memory: 'from memory',
  maxSeconds: 'longest, seconds',
  minSeconds: 'shortest, seconds',
  notes: 'in the music',
};

/** A field's name as people say it. */
export function fieldText(field: string): string {
  return FIELD_WORDS[field] ?? field;
}

/** A part's or date's name: "deadlines[recording]" is "recording date". */
export function partText(part: string): string {
  const kind = /^deadlines\[(.+)\]$/u.exec(part)?.[1];
  return kind === undefined ? part : `${kind} date`;
}
