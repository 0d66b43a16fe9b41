import { askTempo, markPhrase, markText, type TempoMark } from '../music/index.js';
import { SCALE_NOTE_VALUES } from '../scale/index.js';
import { runsPhrase } from '../score/index.js';
import { readSpanPhrase } from './find-spans.js';
import {
  ACCOMPANIMENTS,
  NO_TEMPO,
  PART_KINDS,
  REPEATS,
  type PrintedRange,
  type SheetPart,
  type SheetSpan,
} from './model.js';
import { readScalePhrase } from './scale-phrase.js';
import { scopeNames, scopeOf, type PartScope } from './scope.js';

/** What a field of a part holds, which decides how it is written, read and checked. */
export type PartFieldType =
  | { readonly kind: 'text'; readonly maxLength: number }
  | { readonly kind: 'number'; readonly min: number; readonly max: number; readonly isWhole: boolean }
  | { readonly kind: 'choice'; readonly values: readonly string[]; readonly unset: string | null }
  | { readonly kind: 'yes-no' | 'measures' | 'tempo' | 'key' | 'range' | 'scope' };

/**
 * One field of a part: the only place that says what it is. The schema, the CSV file, the difference between revisions
 * and the form are made from this table.
 * Shape:  `group` tells where the form shows it: in the part's own line, with its work, or with its scale
 */
export interface PartField {
  readonly name: Exclude<keyof SheetPart, 'id' | 'source'> | keyof SheetPart['source'];
  readonly caption: string;
  readonly type: PartFieldType;
  readonly group: 'line' | 'work' | 'scale' | 'terms';
}

const text = (maxLength: number): PartFieldType => ({ kind: 'text', maxLength });
const oneOf = (values: readonly string[], unset: string | null = null): PartFieldType => ({
  kind: 'choice',
  values,
  unset,
});
const number = (min: number, max: number, isWhole = false): PartFieldType => ({
  kind: 'number',
  min,
  max,
  isWhole,
});

/** Ten hours: longer is a slip of the pen (our own limit). Units: seconds. */
const LONGEST_SECONDS = 36_000;

/** Every field of a part in the order in which files and forms have it. */
export const PART_FIELDS: readonly PartField[] = Object.freeze([
  { name: 'label', caption: 'name', type: text(80), group: 'line' },
  { name: 'kind', caption: 'kind', type: oneOf(PART_KINDS, 'other'), group: 'line' },
  { name: 'scope', caption: 'holds for', type: { kind: 'scope' }, group: 'terms' },
  { name: 'title', caption: 'title', type: text(160), group: 'line' },
  { name: 'composer', caption: 'composer', type: text(120), group: 'work' },
  { name: 'book', caption: 'book', type: text(160), group: 'work' },
  { name: 'number', caption: 'number', type: text(20), group: 'work' },
  { name: 'page', caption: 'page', type: text(20), group: 'work' },
  { name: 'edition', caption: 'edition', type: text(80), group: 'work' },
  { name: 'measures', caption: 'measures', type: { kind: 'measures' }, group: 'line' },
  { name: 'tempo', caption: 'tempo', type: { kind: 'tempo' }, group: 'line' },
  { name: 'key', caption: 'key', type: { kind: 'key' }, group: 'scale' },
  { name: 'octaves', caption: 'octaves', type: number(0.5, 5), group: 'scale' },
  { name: 'noteValue', caption: 'in notes of', type: oneOf(SCALE_NOTE_VALUES), group: 'scale' },
  { name: 'range', caption: 'range', type: { kind: 'range' }, group: 'scale' },
  { name: 'articulation', caption: 'articulation', type: text(160), group: 'terms' },
  { name: 'memory', caption: 'from memory', type: { kind: 'yes-no' }, group: 'terms' },
  { name: 'repeats', caption: 'repeats', type: oneOf(REPEATS, 'unstated'), group: 'terms' },
  { name: 'accompaniment', caption: 'accompaniment', type: oneOf(ACCOMPANIMENTS), group: 'terms' },
  {
    name: 'minSeconds',
    caption: 'shortest, seconds',
    type: number(1, LONGEST_SECONDS, true),
    group: 'terms',
  },
  { name: 'maxSeconds', caption: 'longest, seconds', type: number(1, LONGEST_SECONDS, true), group: 'terms' },
  { name: 'points', caption: 'points', type: number(0, 10_000), group: 'terms' },
] as const);

const BY_NAME = new Map<string, PartField>(PART_FIELDS.map((field) => [field.name, field]));

/** The field of that name, or null. */
export function partField(name: string): PartField | null {
  return BY_NAME.get(name) ?? null;
}

/** What a part states in a field. */
export function fieldOf(part: SheetPart, name: PartField['name']): unknown {
  return name in part.source ? part.source[name as keyof SheetPart['source']] : part[name as keyof SheetPart];
}

/** The part with a field set. */
export function withField(part: SheetPart, name: PartField['name'], value: unknown): SheetPart {
  return name in part.source
    ? { ...part, source: { ...part.source, [name]: value } }
    : { ...part, [name]: value };
}

/** Whether two values of a field say the same; the words of an anchor do not count. */
export function isSameField({ type }: PartField, a: unknown, b: unknown): boolean {
  const plain = (value: unknown): unknown =>
    type.kind === 'measures'
      ? (value as readonly SheetSpan[]).map(({ from, to }) => [String(from), String(to)])
      : value;
  return JSON.stringify(plain(a)) === JSON.stringify(plain(b));
}

/**
 * A field's value as a person types it, so that it reads back the same.
 * Shape:  "" where nothing is stated
 */
export function writeField({ type }: PartField, value: unknown): string {
  if (value === null || value === undefined) return '';
  switch (type.kind) {
    case 'measures':
      return runsPhrase(value as readonly SheetSpan[]);
    case 'tempo':
      return markPhrase(value as TempoMark);
    case 'range':
      return rangeText(value as PrintedRange);
    case 'scope':
      return scopeNames(value as PartScope).join('; ');
    case 'yes-no':
      return value === true ? 'yes' : 'no';
    case 'choice':
      return value === 'unstated' ? '' : String(value);
    default:
      return String(value);
  }
}

/** A field's value for reading: note glyphs, "nothing" where nothing is stated. */
export function showField(field: PartField, value: unknown): string {
  const shown = field.type.kind === 'tempo' ? markText(value as TempoMark) : writeField(field, value);
  return shown === '' ? 'nothing' : shown;
}

/** What a typed text gives a field: its value, or a sentence that says what is wrong. */
export type FieldRead = { readonly value: unknown } | { readonly issue: string };

/**
 * Reads a field as a person typed it.
 * Shape:  an empty text states nothing; a tempo without its note value keeps the number and lacks the note
 */
export function readField(field: PartField, typed: string): FieldRead {
  const plain = typed.trim();
  const { type } = field;
  if (plain === '') return { value: unsetValue(type) };
  switch (type.kind) {
    case 'text':
      if (plain.length <= type.maxLength) return { value: plain };
      return {
        issue: `The ${field.caption} has at most ${type.maxLength} characters; ${plain.length} came.`,
      };
    case 'number':
      return readNumber(field, plain, type);
    case 'choice': {
      const value = type.values.find((one) => one === plain);
      if (value !== undefined) return { value };
      return { issue: `"${plain}" is no ${field.caption} of a part; there are ${type.values.join(', ')}.` };
    }
    case 'yes-no':
      if (/^(?:yes|no)$/iu.test(plain)) return { value: plain.toLowerCase() === 'yes' };
      return { issue: `"${plain}" in ${field.caption} is neither yes nor no.` };
    case 'measures': {
      const read = readSpanPhrase(plain);
      return 'measures' in read ? { value: read.measures } : { issue: read.question };
    }
    case 'tempo': {
      const read = askTempo(plain);
      return 'mark' in read ? { value: read.mark } : { issue: read.question };
    }
    case 'key':
      if ('key' in readScalePhrase(plain)) return { value: plain };
      return { issue: `"${plain}" is no key; write one such as "Bb major".` };
    case 'range':
      return readRange(plain);
    case 'scope': {
      const names = plain.split(/\s*;\s*/u).filter((one) => one !== '');
      return { value: scopeOf(names, []) };
    }
  }
}

function unsetValue(type: PartFieldType): unknown {
  if (type.kind === 'measures') return [];
  if (type.kind === 'tempo') return NO_TEMPO;
  if (type.kind === 'scope') return scopeOf([], []);
  return type.kind === 'choice' ? type.unset : null;
}

function readNumber(
  { caption }: PartField,
  plain: string,
  { min, max, isWhole }: Extract<PartFieldType, { kind: 'number' }>,
): FieldRead {
  const value = Number(plain);
  if (!Number.isFinite(value)) return { issue: `"${plain}" in ${caption} is no number.` };
  if (value < min || value > max || (isWhole && !Number.isInteger(value)))
    return {
      issue: `${caption}: ${isWhole ? 'a whole number' : 'a number'} from ${min} to ${max}; ${plain} came.`,
    };
  return { value };
}

function rangeText({ low, high }: PrintedRange): string {
  return high === null ? `from ${low}` : `${low} to ${high}`;
}

function readRange(plain: string): FieldRead {
  const lowest = /^from\s+(\S.*?)$/iu.exec(plain)?.[1];
  if (lowest !== undefined && !/\sto\s/iu.test(lowest)) return { value: { low: lowest, high: null } };
  const [low, high, ...more] = plain.split(/\s+to\s+|\s*[–—]\s*/u);
  if (low !== undefined && high !== undefined && more.length === 0) return { value: { low, high } };
  return { issue: `"${plain}" is no range; write the lowest and the highest note, such as "F3 to C6".` };
}
