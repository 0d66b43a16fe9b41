import { capital } from '../../base/index.js';
import { letterName, toNumber } from '../../music/index.js';
import { spelledNumber } from './numbers.js';
import { raw, type Finder, type Reading } from '../findings/finding-parts.js';
import type { NotePlace, RawFinding } from '../findings/finding.js';
import type { LineNote } from '../line/solo-line.js';
import { beatOf } from '../line/pace.js';
import { runningValue } from '../inventory/inventory.js';
import { firstOf, measuresText, numberAt, runsIn } from './places.js';

/** So many notes off the beat in a row are a pattern of their own. */
const FEWEST_OFF_BEATS = 3;
/** Beyond so many places they are told together. */
const MOST_PLACES = 3;
const NEAR = 1e-6;
/** Values to count in where the running one does not fit. */
const SMALLER = [
  ['eighth', 0.5],
  ['sixteenth', 0.25],
  ['thirty-second', 0.125],
] as const;

type Kind = 'bar' | 'tied' | 'beat' | 'off';

interface Held extends NotePlace {
  readonly kind: Kind;
  readonly text: string;
  /** The last measure in which it sounds. */
  readonly until: number;
}

/**
 * What is held over a bar line or a beat and not struck anew, with its length in the value that runs there, and notes
 * that come off the beat in a row.
 * Shape:  neighbouring measures are one finding; more than three places are told together
 * Source: common practice, no source
 */
export const heldOver: Finder = (from) => {
  const all = [...tiesAndBars(from), ...offBeats(from)].sort((a, b) => a.index - b.index || a.note - b.note);
  if (all.length === 0) return [];
  const groups = runsIn(all.flatMap(({ index, until }) => [index, until])).map(([first, last]) =>
    all.filter(({ index }) => index >= first && index <= last),
  );
  const told = groups.filter(({ length }) => length > 0);
  return told.length > MOST_PLACES ? [finding(from, all)] : told.map((group) => finding(from, group));
};

function finding({ score }: Reading, held: readonly Held[]): RawFinding {
  const places = [...new Set(held.flatMap(({ index, until }) => [index, until]))].sort((a, b) => a - b);
  const kinds = new Set(held.map(({ kind }) => kind));
  const texts = [...new Set(held.map(({ text }) => text))];
  const isSame = kinds.size === 1 && texts.length > 4;
  return raw('tie', {
    title: kinds.has('bar')
      ? 'Held over the bar line.'
      : kinds.has('tied')
        ? 'A tie to be counted.'
        : 'Off the beat.',
    sentence: isSame
      ? `In ${measuresText(score, places)}: feel the beat that is not struck.`
      : `${capital(firstOf(texts))}: feel the beat that is not struck.`,
    places,
    notes: held.map(({ index, note }) => ({ index, note })),
    detail: held.map(({ kind, note }) => `${kind}${note}`).join(' '),
  });
}

function tiesAndBars(from: Reading): Held[] {
  const { score, line } = from;
  return line.played.flat().flatMap((note): Held[] => {
    const measure = score.measures[note.measureIndex];
    if (!measure || note.signs.tremolo > 0) return [];
    const end = note.start + note.length;
    const barEnd = toNumber(measure.start) + toNumber(measure.length);
    const place = toNumber(note.onset);
    const base = { index: note.measureIndex, note: note.ordinal };
    const name = note.written ? letterName(note.written) : 'The note';
    if (end > barEnd + NEAR) {
      const until = score.measures.findLastIndex(({ start }) => toNumber(start) < end - NEAR);
      const isEntered = line.played[until]?.some(({ start }) => Math.abs(start - end) < NEAR) ?? false;
      const ends =
        toNumber(score.measures[until]?.start ?? measure.start) +
        toNumber(score.measures[until]?.length ?? measure.length);
      // A long note that fills the next measure, or ends in a rest, is only long.
      if (!isEntered && (place < NEAR || Math.abs(ends - end) < NEAR)) return [];
      const text = `${name} is held from ${numberAt(score, note.measureIndex)} into ${numberAt(score, until)}, ${lengthText(from, note)}`;
      return [{ ...base, kind: 'bar', text, until }];
    }
    if (note.printed.length > 1 && end < barEnd - NEAR)
      return [
        {
          ...base,
          kind: 'tied',
          text: `${name} in ${measure.number} lasts ${lengthText(from, note)}`,
          until: note.measureIndex,
        },
      ];
    return [];
  });
}

function lengthText({ line }: Reading, note: LineNote): string {
  const running = runningValue(line.played[note.measureIndex] ?? []);
  const isWhole = ([, unit]: readonly [string, number]): boolean =>
    Math.abs(note.length / unit - Math.round(note.length / unit)) < NEAR;
  const [name, unit] = [running, ...SMALLER].find(isWhole) ?? running;
  const count = note.length / unit;
  return isWhole([name, unit])
    ? `${spelledNumber(Math.round(count))} ${name.replace('-triplet', ' triplet')}${Math.round(count) === 1 ? '' : 's'}`
    : `${Number(note.length.toFixed(2))} quarters`;
}

/** Notes in a row that begin between the beats, with nothing on the beats between them. */
function offBeats({ score, line }: Reading): Held[] {
  const rows: LineNote[][] = [];
  let row: LineNote[] = [];
  for (const note of line.played.flat()) {
    const measure = score.measures[note.measureIndex];
    const beat = measure ? beatOf(measure.meter) : 1;
    const place = (((toNumber(note.onset) / beat) % 1) + 1) % 1;
    const isOff = place > NEAR && place < 1 - NEAR;
    const isAfter = row.length === 0 || note.start - (row.at(-1)?.start ?? 0) <= beat + NEAR;
    const isWide = note.start - (row.at(-1)?.start ?? -Infinity) > beat - NEAR;
    if (isOff && isAfter && (row.length === 0 || isWide)) row.push(note);
    else {
      rows.push(row);
      row = isOff ? [note] : [];
    }
  }
  rows.push(row);
  return rows
    .filter(({ length }) => length >= FEWEST_OFF_BEATS)
    .flatMap((notes) =>
      notes.map((note) => ({
        index: note.measureIndex,
        note: note.ordinal,
        kind: 'off' as const,
        text: `in ${numberAt(score, note.measureIndex)} every note comes off the beat`,
        until: note.measureIndex,
      })),
    );
}
