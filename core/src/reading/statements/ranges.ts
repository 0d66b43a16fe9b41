import { pitchName, type Semitones } from '../../music/index.js';
import { raw, type Finder, type Reading } from '../findings/finding-parts.js';
import type { Family } from '../demands/profiles.js';
import { isJoined, isWritten, type WrittenNote } from '../line/solo-line.js';
import { secondsBetween } from '../line/pace.js';
import { firstOf, measuresText, numberAt } from './places.js';

/** So near the end of the compass a note is worth care. Units: semitones (our own knee). */
const NEAR_END = 3;

/**
 * The lowest and the highest place; outside the usual compass it is a question of octave or clef.
 * Shape:  one finding for a line with pitches
 * Units:  written pitches
 * Source: scale/instrument-ranges.data.ts
 */
export const ranges: Finder = ({ score, line, profile }) => {
  const notes = line.notes.filter(isWritten);
  const [low, high] = [extreme(notes, -1), extreme(notes, 1)];
  const [lowest, highest] = [low[0], high[0]];
  if (!lowest || !highest) return [];
  const place = placeIn(profile, lowest, highest);
  const at = (all: readonly WrittenNote[]): number[] => [
    ...new Set(all.map(({ measureIndex }) => measureIndex)),
  ];
  const [bottom, top] = [pitchName(lowest.written), pitchName(highest.written)];
  const isOutside = place === 'below' || place === 'above';
  const shown = [...(place === 'above' ? [] : at(low)), ...(place === 'below' ? [] : at(high))];
  const valve = profile.hasSlide ? ' without the valve' : '';
  const title = {
    below: `${bottom} lies below the usual compass${valve}.`,
    above: `${top} lies above the usual compass.`,
    top: `${top} is near the top of the instrument.`,
    bottom: `${bottom} is near the bottom of the instrument.`,
    within: `From ${bottom} to ${top}.`,
  }[place];
  return [
    raw('range', {
      importance: isOutside ? 0.72 : place === 'within' ? 0.3 : 0.55,
      title,
      sentence: `Lowest ${bottom} in ${measuresText(score, at(low))}, highest ${top} in ${measuresText(score, at(high))}${isOutside ? ': is it the octave, the clef, or meant so?' : '.'}`,
      places: [...new Set(shown)].sort((a, b) => a - b),
      notes: [...low, ...high].map(({ measureIndex, ordinal }) => ({ index: measureIndex, note: ordinal })),
      detail: `${bottom} ${top}`,
    }),
  ];
};

/** How the ends of a line lie in the compass; open strings and bars of a keyboard are no ends. */
function placeIn(
  { range, family }: Reading['profile'],
  { midi: low }: WrittenNote,
  { midi: high }: WrittenNote,
): 'below' | 'above' | 'top' | 'bottom' | 'within' {
  if (!range) return 'within';
  if (low < range.low) return 'below';
  if (high > range.high) return 'above';
  if (family === 'mallets') return 'within';
  if (range.high - high <= NEAR_END) return 'top';
  return low - range.low <= NEAR_END && family !== 'strings' ? 'bottom' : 'within';
}

function extreme(notes: readonly WrittenNote[], way: 1 | -1): WrittenNote[] {
  const furthest = notes.reduce<Semitones | null>(
    (found, { midi }) => (found === null || (midi - found) * way > 0 ? midi : found),
    null,
  );
  return notes.filter(({ midi }) => midi === furthest);
}

/** A leap this wide, in less time than this, is prepared by itself; slurred on brass it crosses partials. */
const WIDE: Readonly<Record<Family, { readonly semitones: number; readonly slurred: number }>> = {
  woodwind: { semitones: 15, slurred: 12 },
  brass: { semitones: 12, slurred: 8 },
  strings: { semitones: 17, slurred: 15 },
  mallets: { semitones: 17, slurred: 17 },
  keys: { semitones: 17, slurred: 17 },
  voice: { semitones: 10, slurred: 9 },
  drums: { semitones: Infinity, slurred: Infinity },
};
const LEAP_SECONDS = 1.2;
/** With sticks an octave is far in so little time. */
const QUICK_SECONDS = 0.35;
const QUICK_LEAP = 12;

/**
 * Wide leaps where there is little time for them.
 * Shape:  one finding, the widest first
 * Units:  semitones; knees by family are our own, common practice, no source
 */
export const leaps: Finder = (from) => {
  const { score, profile } = from;
  const wide = leapsOf(from).sort((a, b) => b.semitones - a.semitones || a.note.start - b.note.start);
  const [first] = wide;
  if (!first) return [];
  const places = [...new Set(wide.map(({ note }) => note.measureIndex))].sort((a, b) => a - b);
  const texts = wide.map(
    ({ note, next }) =>
      `${pitchName(note.written)}–${pitchName(next.written)} in ${numberAt(score, note.measureIndex)}`,
  );
  const isSlurred = profile.family === 'brass' && wide.some(({ next }) => next.isSlurredInto);
  const advice =
    profile.family === 'mallets' || profile.family === 'keys'
      ? 'look at the landing, not at the start'
      : profile.family === 'strings'
        ? 'settle strings and shift, and hear it before it is played'
        : isSlurred
          ? 'it crosses partials under the slur: sing it, then bend into it'
          : 'hear it before it is played';
  return [
    raw('leap', {
      importance: Math.min(0.62, 0.4 + first.semitones / 100),
      title: `${wide.length === 1 ? 'A wide leap' : `${wide.length} wide leaps`}.`,
      sentence: `${firstOf(texts)}: ${advice}.`,
      places,
      notes: wide.map(({ note }) => ({ index: note.measureIndex, note: note.ordinal })),
      detail: texts.map((text) => text.replace(/ in .*$/u, '')).join(' '),
    }),
  ];
};

interface Leap {
  readonly note: WrittenNote;
  readonly next: WrittenNote;
  readonly semitones: Semitones;
}

function leapsOf({ line, profile, pace }: Reading): Leap[] {
  const notes = line.played.flat();
  const limits = WIDE[profile.family];
  return notes.flatMap((note, n): Leap[] => {
    const next = notes[n + 1];
    if (!next || !isWritten(note) || !isWritten(next)) return [];
    if (!isJoined(note, next)) return [];
    const semitones = Math.abs(next.midi - note.midi);
    const seconds = secondsBetween(pace, note.start, next.start) ?? 0;
    const isQuick = profile.family === 'mallets' && seconds <= QUICK_SECONDS;
    const limit = isQuick ? QUICK_LEAP : next.isSlurredInto ? limits.slurred : limits.semitones;
    return semitones >= limit && seconds <= LEAP_SECONDS ? [{ note, next, semitones }] : [];
  });
}
