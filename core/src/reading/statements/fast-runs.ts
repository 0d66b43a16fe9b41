import { capital } from '../../base/index.js';
import { raw, type Finder, type Reading } from '../findings/finding-parts.js';
import type { LineNote, SoloLine } from '../line/solo-line.js';
import { spelledNumber } from './numbers.js';
import { firstOf, numberAt } from './places.js';

/** Tuplets that any player counts without a thought. */
const USUAL: ReadonlySet<number> = new Set([2, 3, 4, 6, 8]);

interface Group {
  readonly notes: readonly LineNote[];
  readonly size: number;
}

/**
 * Groups of five, seven, eleven notes in the time of another number, small notes in odd numbers and flourishes of grace
 * notes: none added, none left out.
 * Shape:  one finding
 * Source: MusicXML 4.0, element time-modification
 */
export const fastRuns: Finder = (from) => {
  const groups = groupsOf(from);
  const [first] = groups;
  if (!first) return [];
  const placeOf = ({ notes }: Group): number => notes[0]?.measureIndex ?? 0;
  const texts = [
    ...new Set(
      groups.map((group) => `${spelledNumber(group.size)} in ${numberAt(from.score, placeOf(group))}`),
    ),
  ];
  return [
    raw('fast-run', {
      title:
        groups.length === 1
          ? `The group in ${numberAt(from.score, placeOf(first))} has ${spelledNumber(first.size)} notes.`
          : `Groups of ${[...new Set(groups.map(({ size }) => spelledNumber(size)))].join(' and ')}.`,
      sentence: `${capital(firstOf(texts, 6))}: none added, none left out; know the note on which it lands.`,
      places: [...new Set(groups.map((group) => placeOf(group)))],
      notes: groups.flatMap(({ notes }) =>
        notes.map(({ measureIndex, ordinal }) => ({ index: measureIndex, note: ordinal })),
      ),
      detail: texts.join(),
    }),
  ];
};

/** So many notes or more make a run; so short are its notes. Units: quarters. */
const FEWEST = 5;
const SHORT = 0.125;
const FEWEST_GRACES = 4;

function groupsOf({ line }: Reading): Group[] {
  return [...tuplets(line), ...oddRuns(line), ...flourishes(line)].sort(
    (a, b) => (a.notes[0]?.start ?? 0) - (b.notes[0]?.start ?? 0),
  );
}

function tuplets(line: SoloLine): Group[] {
  const rows = rowsOf(line.played.flat(), (note) => note.signs.tuplet?.join(':') ?? null);
  return rows.flatMap((row) => {
    const [actual = 0, normal = 0] = row[0]?.signs.tuplet ?? [];
    const bracket = (row[0]?.length ?? 0) * actual;
    return !USUAL.has(actual) && actual >= FEWEST && normal > 0 && bracket > 0
      ? inBrackets(row, bracket)
      : [];
  });
}

/** Thirty-seconds and smaller in a row that do not come in twos. */
function oddRuns(line: SoloLine): Group[] {
  return rowsOf(line.played.flat(), (note) =>
    note.signs.tuplet === null && note.length <= SHORT + 1e-6 ? note.length.toFixed(4) : null,
  )
    .filter(({ length }) => length >= FEWEST && length % 2 === 1)
    .map((notes) => ({ notes, size: notes.length }));
}

/** Grace notes in a row. */
function flourishes(line: SoloLine): Group[] {
  return rowsOf(line.notes, ({ isGrace }) => (isGrace ? 'grace' : null))
    .filter(({ length }) => length >= FEWEST_GRACES)
    .map((notes) => ({ notes, size: notes.length }));
}

/** Notes one after the other of which the same is told; none of which nothing is. */
function rowsOf(notes: readonly LineNote[], sign: (note: LineNote) => string | null): LineNote[][] {
  const rows: { readonly own: string; readonly notes: LineNote[] }[] = [];
  let last: string | null = null;
  let end = -1;
  for (const note of notes) {
    const own = sign(note);
    const row = rows.at(-1);
    if (own !== null && own === last && Math.abs(note.start - end) < 1e-6) row?.notes.push(note);
    else if (own !== null) rows.push({ own, notes: [note] });
    last = own;
    end = note.start + note.length;
  }
  return rows.map((row) => row.notes);
}

function inBrackets(row: readonly LineNote[], bracket: number): Group[] {
  const start = row[0]?.start ?? 0;
  const groups = new Map<number, LineNote[]>();
  for (const note of row) {
    const n = Math.floor((note.start - start) / bracket + 1e-6);
    groups.set(n, [...(groups.get(n) ?? []), note]);
  }
  return [...groups.values()].map((notes) => ({ notes, size: notes.length }));
}
