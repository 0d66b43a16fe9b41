import { raw, type Finder, type Reading } from '../findings/finding-parts.js';
import { isBlown } from '../demands/profiles.js';
import { secondsBetween } from '../line/pace.js';
import type { LineNote } from '../line/solo-line.js';
import { firstOf, numberAt, secondsText } from './places.js';

/** From so many seconds on a stretch is planned, from so many it is hard (common practice, no source). */
const PLANNED_SECONDS = 8;
const HARD_SECONDS = 12;
/** Shorter ones are not named. */
const SHORT_SECONDS = 3;

interface Stretch {
  readonly from: LineNote;
  readonly to: LineNote;
  readonly seconds: number;
  readonly ends: 'rest' | 'breath' | 'hold' | 'end';
}

/**
 * The stretches between printed breaths and rests, with their seconds, and where phrases end within the longest.
 * Shape:  one finding, none for those who play without breath and for short stretches
 * Units:  seconds at the pace of the reading
 * Source: common practice, no source
 */
export const breaths: Finder = (from) => {
  if (!isBlown(from.profile)) return [];
  const stretches = stretchesOf(from);
  const longest = stretches.reduce<Stretch | null>((a, b) => (a && a.seconds >= b.seconds ? a : b), null);
  if (!longest || longest.seconds < PLANNED_SECONDS) return [];
  const hard = stretches.filter(({ seconds }) => seconds >= PLANNED_SECONDS);
  const within = phraseEnds(from, longest);
  const named = stretches.filter(({ seconds }) => seconds >= SHORT_SECONDS);
  const told =
    named.length <= MOST_NAMED
      ? named.map((one, n) => stretchText(from, one, n))
      : hard
          .toSorted((a, b) => b.seconds - a.seconds)
          .map((one) => `${stretchText(from, one, 0)} from ${numberAt(from.score, one.from.measureIndex)}`);
  return [
    raw('breath', {
      importance: longest.seconds >= HARD_SECONDS ? 0.6 : 0.45,
      title: `${secondsText(longest.seconds)} without a printed breath.`,
      sentence: `${firstOf(told)}.${
        within.length > 0
          ? ` Phrases end in ${firstOf(within, 6)}: settle which of them breathe.`
          : ' Settle where to breathe before the first run.'
      }`,
      places: [...new Set(hard.map(({ from: { measureIndex } }) => measureIndex))],
      detail: stretches.map(({ ends }) => ends).join(' '),
    }),
  ];
};

/** Of more stretches only the long ones are named. */
const MOST_NAMED = 4;

function stretchText({ score }: Reading, { seconds, ends, to }: Stretch, n: number): string {
  const where = numberAt(score, to.measureIndex);
  const goal = {
    rest: `the rest in ${where}`,
    breath: `the breath in ${where}`,
    hold: `the hold in ${where}`,
    end: 'the end',
  }[ends];
  return `${n === 0 ? '' : 'then '}${secondsText(seconds)} to ${goal}`;
}

function stretchesOf({ line, pace }: Reading): Stretch[] {
  const notes = line.played.flat();
  const found: Stretch[] = [];
  let first: LineNote | null = null;
  notes.forEach((note, n) => {
    first ??= note;
    const next = notes[n + 1];
    const end = note.start + note.length;
    const isSilent = next !== undefined && next.start > end + 1e-6;
    const ends = isSilent ? 'rest' : note.signs.hasBreath ? 'breath' : note.signs.hasFermata ? 'hold' : 'end';
    if (next && ends === 'end') return;
    const seconds = secondsBetween(pace, first.start, end);
    if (seconds !== null) found.push({ from: first, to: note, seconds, ends });
    first = null;
  });
  return found;
}

/** Long notes within a stretch after which a phrase may end. */
function phraseEnds({ score, breathingPlaces, indexOf }: Reading, { from, to }: Stretch): string[] {
  return [
    ...new Set(
      breathingPlaces
        .filter(({ kind, measure }) => {
          const index = indexOf(measure);
          return kind === 'long note' && index >= from.measureIndex && index < to.measureIndex;
        })
        .map(({ measure }) => numberAt(score, indexOf(measure))),
    ),
  ];
}
