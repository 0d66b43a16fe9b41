import { instrumentNames } from '../heading.js';
import type { Line } from './wrapped.js';

/** What named lines at the top say of the sheet itself. */
export interface KeyedHead {
  body: string | null;
  year: string | null;
}

const HEAD_KEYED = /^(?<key>body|organi[sz]ation|year|season|instruments?)\s*:\s*(?<value>.+)$/iu;

/** Reads "Year: 2027" and the like into `keyed`. Shape: false where the line is none of these */
export function readKeyedHead(
  line: Line,
  keyed: KeyedHead,
  addInstruments: (names: readonly string[]) => void,
): boolean {
  const match = HEAD_KEYED.exec(line.plain);
  if (!match || line.bullet !== null) return false;
  const value = line.text.slice(line.text.length - (match.groups?.value ?? '').length).trim();
  const key = (match.groups?.key ?? '').toLowerCase();
  if (/instrument/u.test(key)) {
    const names = instrumentNames(value);
    addInstruments(names.length > 0 ? names : [value]);
  } else if (/year|season/u.test(key)) keyed.year = normalYear(value);
  else keyed.body = value;
  return true;
}

/** "2026–2027" and "2026/27" are 2026-27. Shape: null where no year stands */
export function normalYear(text: string): string | null {
  const match = /(20\d\d)(?:\s*(?:[-–/]|and|to)\s*(?:20)?(\d\d)(?!\d))?/u.exec(text);
  if (!match) return null;
  return match[2] === undefined ? (match[1] ?? null) : `${match[1]}-${match[2]}`;
}
