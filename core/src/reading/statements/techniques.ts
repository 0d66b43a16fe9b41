import { groupBy } from '../../base/index.js';
import { raw, type Finder, type Reading } from '../findings/finding-parts.js';
import type { NotePlace } from '../findings/finding.js';
import type { Family, InstrumentProfile } from '../demands/profiles.js';
import type { LineNote, SoloLine } from '../line/solo-line.js';
import { listed, measuresText, numberAt } from './places.js';

/** What is asked of the hands beside notes, and what to do about it (common practice, no source). */
const ADVICE: Readonly<Record<string, string>> = {
  'Double stops': 'tune the lower note first, then both',
  'Two notes at once': 'settle which hand takes which, the same each time',
  Chords: 'settle how they are broken, and which notes are held',
  Harmonics: 'find the place first without the bow',
  'Open strings or harmonics': 'the small circle means one or the other: settle which',
  'Stopped notes': 'settle the transposition of the fingering, and blow firmly',
  'Open again': 'leave time for the hand to come out',
  Pizzicato: 'settle how the bow is held meanwhile',
  Arco: 'have the bow ready a beat before',
  'With mute': 'settle when it goes in and out',
  'Without mute': 'take it out in time',
  'Left-hand or snap pizzicato': 'try it at the tempo first',
  Tremolo: 'settle whether it is measured, and how many strokes it has',
  Rolls: 'settle the strokes, and tie or separate what follows',
  Flams: 'keep the grace note low and the same each time',
  Drags: 'keep both grace notes low, before the beat',
  Ruffs: 'keep the grace notes low, before the beat',
  'On the bridge': 'settle how near, and where it ends',
  'On the fingerboard': 'settle how near, and where it ends',
  'With the wood': 'settle with which part of the stick',
  'Flutter tongue': 'try it on a long note first',
  'Rim or edge': 'settle where on the head',
  'Thumb position': 'settle where the thumb goes down',
};

const SIGNS: Readonly<Record<string, string>> = {
  harmonic: 'Harmonics',
  'open-string': 'Open strings or harmonics',
  stopped: 'Stopped notes',
  'snap-pizzicato': 'Left-hand or snap pizzicato',
  'thumb-position': 'Thumb position',
};

const WORDS: readonly (readonly [RegExp, string])[] = [
  [/\bpizz/iu, 'Pizzicato'],
  [/\barco\b/iu, 'Arco'],
  [/\bcon sord|\bwith mute|\bmuted\b/iu, 'With mute'],
  [/\bsenza sord|\bmute off|\bwithout mute/iu, 'Without mute'],
  [/\bsul pont/iu, 'On the bridge'],
  [/\bsul tast/iu, 'On the fingerboard'],
  [/\bcol legno/iu, 'With the wood'],
  [/\bflutter|\bflatter|\bfrull/iu, 'Flutter tongue'],
  [/\b(?:stopped|gestopft|bouch[eé])\b/iu, 'Stopped notes'],
  [/\brim\b|\bedge of/iu, 'Rim or edge'],
];

/**
 * Ways of playing beside the usual one: double stops and chords, harmonics, pizzicato, mutes, stopped notes, rolls, flams.
 * Shape:  one finding a technique
 * Source: MusicXML 4.0, elements technical, tremolo, grace and words; the names are common practice
 */
export const techniques: Finder = (from) => {
  const byName = groupBy([...ofTheNotes(from), ...ofTheWords(from)], ({ name }) => name);
  // What ends another way of playing is told with it.
  return [...byName]
    .filter(([name]) => !BEGUN_BY[name] || !byName.has(BEGUN_BY[name]))
    .map(([name, all]) => {
      const places = [...new Set(all.map(({ index }) => index))].sort((a, b) => a - b);
      const ends = Object.entries(BEGUN_BY).flatMap(([end, begun]) =>
        begun === name ? (byName.get(end) ?? []) : [],
      );
      const backAt = [...new Set(ends.map(({ index }) => index))];
      const back = ends[0]
        ? `; ${ends[0].name.toLowerCase()} in ${listed(backAt.map((index) => numberAt(from.score, index)))}`
        : '';
      return raw('technique', {
        title: `${name} in ${measuresText(from.score, places).replace(/^measures? /u, '')}.`,
        sentence: `${all.length === 1 ? 'Once' : `${all.length} times`}${back}: ${ADVICE[name] ?? 'settle how it is played'}.`,
        places: [...places, ...backAt].sort((a, b) => a - b),
        notes: all.filter(({ note }) => note > 0),
        detail: name,
      });
    });
};

const BEGUN_BY: Readonly<Record<string, string>> = { Arco: 'Pizzicato', 'Without mute': 'With mute' };

type Named = NotePlace & { readonly name: string };

/** The techniques that stand at notes, each with its measure and note. */
export function techniquesAtNotes(line: SoloLine, profile: InstrumentProfile): Named[] {
  return ofTheNotes({ line, profile });
}

function ofTheNotes({ line, profile: { family } }: Pick<Reading, 'line' | 'profile'>): Named[] {
  return line.byMeasure.flatMap((notes, index) =>
    notes.flatMap((note, n): Named[] => {
      const names = note.isGrace ? [] : namesOf(note, gracesBefore(notes, n), family);
      return names.map((name) => ({ name, index, note: note.ordinal }));
    }),
  );
}

function gracesBefore(notes: readonly LineNote[], n: number): number {
  let count = 0;
  while (notes[n - 1 - count]?.isGrace) count += 1;
  return count;
}

/** Who can play several notes at once. */
const SEVERAL: ReadonlySet<Family> = new Set(['strings', 'mallets', 'keys']);

function namesOf({ signs, chordSize }: LineNote, graces: number, family: Family): string[] {
  const isStruck = family === 'drums' || family === 'mallets';
  return [
    ...signs.techniques.flatMap((sign) => SIGNS[sign] ?? []),
    ...(SEVERAL.has(family) && chordSize === 2 && family !== 'keys'
      ? [family === 'strings' ? 'Double stops' : 'Two notes at once']
      : []),
    ...(SEVERAL.has(family) && chordSize > 2 && family !== 'keys' ? ['Chords'] : []),
    ...(signs.tremolo > 0 && !(isStruck && signs.tremolo < 3) ? [isStruck ? 'Rolls' : 'Tremolo'] : []),
    ...(family === 'drums' && graces > 0 ? [graces === 1 ? 'Flams' : graces === 2 ? 'Drags' : 'Ruffs'] : []),
  ];
}

function ofTheWords({ score }: Reading): Named[] {
  return score.marks.words.flatMap(({ measureIndex, text }) =>
    WORDS.filter(([is]) => is.test(text)).map(([, name]) => ({ name, index: measureIndex, note: 0 })),
  );
}
