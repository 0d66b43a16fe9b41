import { asSeconds, toNumber, type QuarterCount, type Seconds } from '../music/index.js';
import { beatOf, secondsOver, secondsTo, soloLine, type LineNote, type Pace } from '../reading/index.js';
import { inSpan, type Score, type Span } from '../score/index.js';
import { chooseStops, type Stop } from './choose-stops.js';
import { BOW_SECONDS, SPLIT_HARM } from './bow.data.js';
import { levels, USUAL_LEVEL } from './levels.js';

/**
 * One bow: the notes under a slur, or one note with its ties.
 * Shape:  `level` the dynamic printed last before it, mf where none is; `splits` where more bows would be taken, empty
 *         where one is enough
 * Units:  quarters from the beginning; seconds it lasts and one bow lasts at its level
 */
export interface BowStroke {
  readonly from: QuarterCount;
  readonly to: QuarterCount;
  readonly measureIndex: number;
  readonly notes: number;
  readonly level: string;
  readonly seconds: Seconds;
  readonly usable: Seconds;
  readonly splits: readonly QuarterCount[];
  /** How many times faster the music must go for one bow; under 1 where it may go slower. */
  readonly oneBowSpeed: number;
}

/**
 * How long each bow lasts against what a bow can at its dynamic, and where the long ones would be split.
 * Shape:  in the order of the music
 * Units:  seconds
 * Source: docs/computation.md §5; the seconds of a bow are common practice, no source
 */
export function bowStrokes(score: Score, span: Span, pace: Pace): BowStroke[] {
  const levelAt = levels(score);
  return strokesOf(soloLine(score).played.flat())
    .filter(([first]) => first && inSpan(span, first.measureIndex))
    .flatMap((notes) => strokeOf(notes, { score, pace, levelAt }));
}

function strokesOf(notes: readonly LineNote[]): LineNote[][] {
  const strokes: LineNote[][] = [];
  for (const note of notes) {
    const last = strokes.at(-1);
    if (note.isSlurredInto && last) last.push(note);
    else strokes.push([note]);
  }
  return strokes;
}

interface Facts {
  readonly score: Score;
  readonly pace: Pace;
  readonly levelAt: (at: number) => string;
}

function strokeOf(notes: readonly LineNote[], { score, pace, levelAt }: Facts): BowStroke[] {
  const [first, last] = [notes[0], notes.at(-1)];
  if (!first || !last) return [];
  const [from, to] = [first.start, last.start + last.length];
  const level = levelAt(from);
  const usable = asSeconds(BOW_SECONDS[level] ?? BOW_SECONDS[USUAL_LEVEL] ?? 0);
  const seconds = secondsOver(pace, from, to);
  return [
    {
      ...{ from, to, level, seconds, usable },
      measureIndex: first.measureIndex,
      notes: notes.length,
      splits: seconds <= usable ? [] : splitsOf(notes, { score, pace, usable }),
      oneBowSpeed: seconds / usable,
    },
  ];
}

/** Where more bows are taken: between notes before within one, on a bar line and a beat before elsewhere. */
function splitsOf(
  notes: readonly LineNote[],
  { score, pace, usable }: Omit<Facts, 'levelAt'> & { readonly usable: Seconds },
): number[] {
  const [first, last] = [notes[0], notes.at(-1)];
  if (!first || !last) return [];
  const end = last.start + last.length;
  const places = notes.flatMap((note, n) => [
    ...(n > 0 ? [{ at: note.start, isBetween: true }] : []),
    ...beatsWithin(note, score).map((at) => ({ at, isBetween: false })),
  ]);
  const stops = places.map(({ at, isBetween }): Stop => {
    const time = secondsTo(pace, at);
    const isDown = score.measures.some(({ start }) => Math.abs(toNumber(start) - at) < 1e-6);
    const harm = (isBetween ? SPLIT_HARM.between : SPLIT_HARM.within) - (isDown ? SPLIT_HARM.downbeat : 0);
    return { until: time, from: time, harm, pin: null };
  });
  const reach = { start: secondsTo(pace, first.start), end: secondsTo(pace, end), usable };
  return (chooseStops(stops, reach) ?? []).flatMap((n) => places[n]?.at ?? []);
}

/** The beats that a held note sounds over. Units: quarters from the beginning */
function beatsWithin({ start, length, measureIndex }: LineNote, { measures }: Score): number[] {
  const beats: number[] = [];
  for (const measure of measures.slice(measureIndex)) {
    const from = toNumber(measure.start);
    if (from >= start + length - 1e-6) break;
    const beat = beatOf(measure.meter);
    for (let at = from; at < from + toNumber(measure.length) - 1e-6; at += beat)
      if (at > start + 1e-6 && at < start + length - 1e-6) beats.push(at);
  }
  return beats;
}
