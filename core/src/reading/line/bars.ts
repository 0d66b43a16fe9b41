import { pitchName, toNumber } from '../../music/index.js';
import type { DynamicMark, Score } from '../../score/index.js';
import { articulationOf } from './articulation.js';
import { hairpinRanges } from './hairpins.js';
import { divisionOf } from './grouping.js';
import type { LineNote, SoloLine } from './solo-line.js';

/** A note as repeats see it. */
export interface Token {
  readonly pitch: string;
  readonly rhythm: string;
  readonly articulation: string;
  /** Grace notes and ornaments: "slashed grace note D5, trill"; "none". */
  readonly ornament: string;
  /** Fermata and breath mark; "none". */
  readonly hold: string;
  /** The printed bow stroke, "down-bow" or "up-bow"; null where none is printed: it goes as it comes. */
  readonly bowing: string | null;
  readonly ordinal: number;
}

/** A measure as repeats see it. Shape: `key` is equal for equal notes and equal signs after the first note. */
export interface Bar {
  readonly tokens: readonly Token[];
  readonly key: string;
  /** The dynamic printed at its beginning, and the one that holds there. */
  readonly printed: string | null;
  readonly level: string | null;
  readonly inside: string;
  /** How an odd meter is divided, "2+2+3"; null in other meters and where nothing tells. */
  readonly grouping: string | null;
}

/** Every measure as repeats see it. */
export function barsOf(score: Score, line: SoloLine): Bar[] {
  const { measures, marks } = score;
  const dynamics = measures.map((): DynamicMark[] => []);
  for (const mark of marks.dynamics) dynamics[mark.measureIndex]?.push(mark);
  const hairpins = measures.map((): string[] => []);
  for (const { kind, fromIndex, startNote, lastIndex } of hairpinRanges(score, line)) {
    hairpins[fromIndex]?.push(`${kind} from note ${startNote}`);
    for (let index = fromIndex + 1; index <= lastIndex; index += 1) hairpins[index]?.push(`${kind} going on`);
  }
  let level: string | null = null;
  return measures.map((measure, index) => {
    const graces = gracesOf(line.byMeasure[index] ?? []);
    const tokens = (line.played[index] ?? []).map((note) => tokenOf(note, graces.get(note) ?? []));
    const own = dynamics[index] ?? [];
    const printed = own.find(({ onset }) => onset.num === 0)?.mark ?? null;
    const later = own.filter(({ onset }) => onset.num !== 0).map(({ mark }) => mark);
    const inside = [...later, ...(hairpins[index] ?? [])].join(', ');
    level = printed ?? level;
    const grouping = divisionOf(measure, line.played[index] ?? []);
    const bar = { tokens, printed, level, inside, grouping };
    level = later.at(-1) ?? level;
    const key = JSON.stringify([
      tokens.map(({ ordinal: _, bowing: __, ...heard }) => Object.values(heard)),
      inside,
      grouping,
    ]);
    return { ...bar, key };
  });
}

/** Whether no note is printed with another bow stroke. */
export function isSameBowing(a: Bar, b: Bar): boolean {
  return a.tokens.every(({ bowing }, n) => {
    const other = b.tokens[n]?.bowing ?? null;
    return bowing === null || other === null || bowing === other;
  });
}

/** A mark that only one of two measures prints makes no difference where the same level holds in the other. */
export function isSameLevel(a: Bar, b: Bar): boolean {
  return (a.printed === null && b.printed === null) || a.level === b.level;
}

function tokenOf(note: LineNote, graces: readonly LineNote[]): Token {
  const { ornaments, ornamentAccidental, hasFermata, hasBreath } = note.signs;
  const altered = ornamentAccidental === null ? '' : ` with ${ornamentAccidental}`;
  const signs = ornaments.map((name) => `${name.replaceAll('-', ' ')}${altered}`);
  return {
    pitch: note.written ? pitchName(note.written) : 'x',
    rhythm: `${toNumber(note.onset).toFixed(4)}:${note.length.toFixed(4)}`,
    articulation: articulationOf(note) + (note.endsSlur ? '.' : ''),
    ornament: listed([...graces.map(graceText), ...signs]),
    hold: listed([...(hasFermata ? ['fermata'] : []), ...(hasBreath ? ['breath mark'] : [])]),
    bowing: note.signs.techniques.find((one) => one === 'down-bow' || one === 'up-bow') ?? null,
    ordinal: note.ordinal,
  };
}

function listed(texts: readonly string[]): string {
  return texts.join(', ') || 'none';
}

function graceText({ written, signs }: LineNote): string {
  return `${signs.graceSlash ? 'slashed ' : ''}grace note${written ? ` ${pitchName(written)}` : ''}`;
}

/** The grace notes of a measure by the note they lead to; those at its end by the note they follow. */
function gracesOf(notes: readonly LineNote[]): ReadonlyMap<LineNote, readonly LineNote[]> {
  const found = new Map<LineNote, LineNote[]>();
  let waiting: LineNote[] = [];
  let last: LineNote | undefined;
  for (const note of notes) {
    if (note.isGrace) {
      waiting.push(note);
      continue;
    }
    if (waiting.length > 0) found.set(note, waiting);
    waiting = [];
    last = note;
  }
  if (last && waiting.length > 0) found.set(last, [...(found.get(last) ?? []), ...waiting]);
  return found;
}
