import { alterInKey, compareQuarters, quarters, type Quarters, type Step } from '../music/index.js';
import { abcMeasures, abcTokens } from './abc-tokens.js';

/** What is set for the next note. Shape: `value` is the note value's own number: 4 is a quarter */
export interface KeyEntry {
  readonly value: 1 | 2 | 4 | 8 | 16 | 32;
  readonly isDotted: boolean;
  readonly accidental: '' | '^' | '_' | '=';
  readonly isStaccato: boolean;
}

/** What is set before anything is: plain eighths. */
export const KEY_ENTRY: KeyEntry = { value: 8, isDotted: false, accidental: '', isStaccato: false };

/** A line with what is set for the next note. */
export interface Keyed {
  readonly text: string;
  readonly entry: KeyEntry;
}

/** The first digit of a note value chooses it. */
const VALUES: Readonly<Record<string, KeyEntry['value']>> = { 1: 1, 2: 2, 4: 4, 8: 8, 6: 16, 3: 32 };
const ACCIDENTALS: Readonly<Record<string, KeyEntry['accidental']>> = { '+': '^', '-': '_', '=': '=' };
const STEPS = 'CDEFGAB';

/**
 * What a key does to a line that is entered by keys: letters are pitches in the octave nearest the last, digits the values,
 * then a dot, accidentals, a rest, a tie, a slur, a triplet; bar lines come by themselves.
 * Shape:  null where the key does nothing
 * Units:  `lengths` of the measures that are typed over, in quarters
 */
export function keyed({ text, entry }: Keyed, key: string, lengths: readonly Quarters[]): Keyed | null {
  const low = key.toLowerCase();
  const value = VALUES[low];
  if (value !== undefined) return { text, entry: { ...entry, value, isDotted: false } };
  const accidental = ACCIDENTALS[key];
  if (accidental !== undefined)
    return { text, entry: { ...entry, accidental: entry.accidental === accidental ? '' : accidental } };
  if (key === '.') return { text, entry: { ...entry, isDotted: !entry.isDotted } };
  if (key === ',') return { text, entry: { ...entry, isStaccato: !entry.isStaccato } };
  if (low === 'r' || key === ' ') return added(text, 'z', { entry, lengths });
  if (/^[a-g]$/u.test(low)) return added(text, nearest(text, low.toUpperCase()), { entry, lengths });
  const changed = changedText(text, key);
  return changed === null ? null : { text: changed, entry };
}

/** A played pitch, spelled by its key. Units: MIDI note number; `fifths` of the key */
export function playedPitch(midi: number, fifths: number): string {
  const sharp = ['C', '^C', 'D', '^D', 'E', 'F', '^F', 'G', '^G', 'A', '^A', 'B'];
  const flat = ['C', '_D', 'D', '_E', 'E', 'F', '_G', 'G', '_A', 'A', '_B', 'B'];
  const name = (fifths < 0 ? flat : sharp)[((midi % 12) + 12) % 12] ?? 'C';
  const step = (name.at(-1) ?? 'C') as Step;
  const alter = alterInKey(step, fifths);
  const inKey = alter === 0 ? '' : alter > 0 ? '^' : '_';
  const own = name.length > 1 ? name.charAt(0) : '';
  // What the key says already is not written again; what it takes away is.
  const sign = own === inKey ? '' : own === '' ? '=' : own;
  return sign + octaved(step, Math.floor(midi / 12) - 1);
}

/** Puts a pitch into a line, as a played keyboard gives it. */
export function withPitch({ text, entry }: Keyed, pitch: string, lengths: readonly Quarters[]): Keyed {
  return added(text, pitch, { entry, lengths });
}

function added(
  text: string,
  pitch: string,
  { entry, lengths }: { readonly entry: KeyEntry; readonly lengths: readonly Quarters[] },
): Keyed {
  const accidental = pitch === 'z' || /^[\^_=]/u.test(pitch) ? '' : entry.accidental;
  const note = `${entry.isStaccato && pitch !== 'z' ? '.' : ''}${accidental}${pitch}${lengthText(entry)}`;
  const gap = text === '' || /[\s(]$/u.test(text) || /\(\d$/u.test(text) ? '' : beamGap(entry);
  const next = closed(`${text}${gap}${note}`, lengths);
  return { text: next, entry: { ...entry, accidental: '' } };
}

/** Notes with flags stand together, so that they get a beam. */
function beamGap({ value }: KeyEntry): string {
  return value >= 8 ? '' : ' ';
}

/** The unit is an eighth. */
function lengthText({ value, isDotted }: KeyEntry): string {
  const { num, den } = isDotted ? quarters(3 * 8, 2 * value) : quarters(8, value);
  return `${num === 1 ? '' : num}${den === 1 ? '' : `/${den}`}`;
}

/** A line with a bar line where its last measure is full, and a gap at the half of one that is not. */
function closed(text: string, lengths: readonly Quarters[]): string {
  const tokens = abcTokens(text);
  const measures = abcMeasures(tokens);
  const last = measures.at(-1);
  const full = lengths[measures.length - 1];
  if (!last || !full || tokens.at(-1)?.kind === 'bar') return text;
  if (compareQuarters(last.length, full) >= 0) return measures.length < lengths.length ? `${text} | ` : text;
  return (last.length.num / last.length.den) % 1 === 0 ? `${text} ` : text;
}

/** Keys that change what stands there. */
function changedText(text: string, key: string): string | null {
  if (key === 'Backspace') return withoutLast(text);
  if (key === 't') return /[\d\w'/,]\s*$/u.test(text) ? text.replace(/-?\s*$/u, '- ') : null;
  if (key === 's') return isSlurOpen(text) ? text.replace(/\s*$/u, ') ') : `${text}(`;
  if (key === 'u') return `${text}(3`;
  if (key === '|') return `${text.trimEnd()} | `;
  if (key === 'ArrowUp' || key === 'ArrowDown') return withOctave(text, key === 'ArrowUp' ? 1 : -1);
  return null;
}

function isSlurOpen(text: string): boolean {
  const slurs = abcTokens(text).filter(({ kind }) => kind === 'mark');
  return (
    slurs.filter(({ text: one }) => one === '(').length > slurs.filter(({ text: one }) => one === ')').length
  );
}

function withoutLast(text: string): string {
  const tokens = abcTokens(text).filter(({ kind }) => kind !== 'space' && kind !== 'bar');
  const last = tokens.at(-1);
  if (!last) return '';
  const before = tokens.at(-2);
  const isDot = before?.text === '.' && before.end === last.start && last.kind === 'note';
  return text.slice(0, isDot ? before.start : last.start);
}

function withOctave(text: string, step: 1 | -1): string | null {
  const last = abcTokens(text).findLast(({ kind }) => kind === 'note');
  const match = last && /^([\^_=]*)([A-Ga-g])([,']*)(.*)$/su.exec(last.text);
  if (!last || !match) return null;
  const [, sign = '', letter = 'C', marks = '', rest = ''] = match;
  const octave = octaveOf(letter, marks) + step;
  if (octave < 0 || octave > 8) return null;
  const note = `${sign}${octaved(letter.toUpperCase(), octave)}${rest}`;
  return text.slice(0, last.start) + note + text.slice(last.end);
}

/** The octave of an ABC letter: C is C4. Source: the ABC notation standard 2.1, clause 4.1 */
function octaveOf(letter: string, marks: string): number {
  const base = letter === letter.toUpperCase() ? 4 : 5;
  return base + [...marks].reduce((sum, one) => sum + (one === "'" ? 1 : -1), 0);
}

function octaved(step: string, octave: number): string {
  if (octave >= 5) return step.toLowerCase() + "'".repeat(octave - 5);
  return step + ','.repeat(4 - octave);
}

/** A step in the octave nearest the last note, B4 where there is none. */
function nearest(text: string, step: string): string {
  const last = abcTokens(text).findLast(({ kind }) => kind === 'note');
  const match = last && /([A-Ga-g])([,']*)/u.exec(last.text);
  const [letter, marks] = match ? [match[1] ?? 'B', match[2] ?? ''] : ['B', ''];
  const place = 7 * octaveOf(letter, marks) + STEPS.indexOf(letter.toUpperCase());
  const own = STEPS.indexOf(step);
  return octaved(step, Math.round((place - own) / 7));
}
