import { capital } from '../../base/index.js';
import { raw, type Finder, type Reading } from '../findings/finding-parts.js';
import type { LineNote } from '../line/solo-line.js';
import { spelledNumber } from './numbers.js';
import { firstOf, numberAt } from './places.js';

/** Tuplets that any player counts without a thought. */
const USUAL: ReadonlySet<number> = new Set([2, 3, 4, 6, 8]);

interface Group {
  readonly notes: readonly LineNote[];
  readonly size: number;
}

/**
 * Groups of five, seven, eleven notes in the time of another number: none added, none left out.
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

function groupsOf({ line }: Reading): Group[] {
  const found: Group[] = [];
  let row: LineNote[] = [];
  const close = (): void => {
    const [actual = 0, normal = 0] = row[0]?.signs.tuplet ?? [];
    const unit = ((row[0]?.length ?? 0) * actual) / (normal || 1);
    const bracket = normal * unit;
    if (!USUAL.has(actual) && actual >= 5 && bracket > 0) found.push(...inBrackets(row, bracket));
    row = [];
  };
  for (const note of line.played.flat()) {
    const own = note.signs.tuplet?.join(':');
    if (own === undefined || own !== row[0]?.signs.tuplet?.join(':')) close();
    if (own !== undefined) row.push(note);
  }
  close();
  return found;
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
