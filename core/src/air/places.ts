import { roundTo } from '../base/index.js';
import { midiOf, toNumber, type QuarterCount } from '../music/index.js';
import { beatOf, isJoined, secondsOver, soloLine, type LineNote, type Pace } from '../reading/index.js';
import { inSpan, type Score, type Span } from '../score/index.js';
import { ADDED_HARM, BREATH_SECONDS, LONGISH_QUARTERS, LONG_QUARTERS, PLACE_HARM } from './harm.data.js';

/** What a breath is taken at. */
export type PlaceKind = keyof typeof PLACE_HARM;
/** What makes a place worse. */
export type AddedHarm = keyof typeof ADDED_HARM;

/**
 * A place where the sound may stop.
 * Shape:  `beat` printed, from 1: where a rest begins, else where the note before ends; on a bar line it belongs to the
 *         measure of that note, one beat past its last
 * Units:  `at` where the sound before ends, `resumes` where it goes on: quarters from the beginning, repeats not taken
 */
export interface AirPlace {
  readonly at: QuarterCount;
  readonly resumes: QuarterCount;
  readonly measureIndex: number;
  readonly beat: number;
  readonly kind: PlaceKind;
  /** The note whose end it is: its measure, and its ordinal there from 1. */
  readonly after: { readonly measureIndex: number; readonly ordinal: number };
  readonly added: readonly AddedHarm[];
  readonly harm: number;
}

/** A place as the notes have it, whatever the tempo. Units: `before` the length of the note before it, in quarters */
export type NotedPlace = Omit<AirPlace, 'harm'> & { readonly before: QuarterCount };

/** A stretch of music with the places in it. Units: quarters from the beginning */
export interface AirMusic {
  readonly start: QuarterCount;
  readonly end: QuarterCount;
  readonly places: readonly NotedPlace[];
}

/**
 * Every place between two notes of a span.
 * Shape:  rising; null where the span has no note
 * Units:  quarters
 * Source: docs/computation.md §5; common practice, no source
 */
export function airMusic(score: Score, span: Span): AirMusic | null {
  const notes = soloLine(score)
    .played.flat()
    .filter(({ measureIndex }) => inSpan(span, measureIndex));
  const [first, last] = [notes[0], notes.at(-1)];
  if (!first || !last) return null;
  const swells = crescendoEnds(score);
  const places = notes
    .slice(0, -1)
    .map((note, n) => placeBetween(note, notes[n + 1] ?? note, { score, swells }));
  return { start: first.start, end: last.start + last.length, places };
}

/** What a breath harms at each place at a tempo: the faster the music, the shorter its rests and its short notes. */
export function placesAt({ places }: AirMusic, pace: Pace): AirPlace[] {
  return places.map(({ before, ...place }) => {
    const isQuick =
      place.kind === 'rest' && secondsOver(pace, place.at, place.resumes) < BREATH_SECONDS - 1e-9;
    const kind = isQuick ? 'quick rest' : place.kind;
    const isShort =
      !isQuick &&
      kind !== 'rest' &&
      kind !== 'breath mark' &&
      secondsOver(pace, place.at - before, place.at) < BREATH_SECONDS;
    const added = [...place.added, ...(isShort ? (['short'] as const) : [])];
    const harm = PLACE_HARM[kind] + added.reduce((sum, name) => sum + ADDED_HARM[name], 0);
    return { ...place, kind, added, harm };
  });
}

interface Around {
  readonly score: Score;
  readonly swells: readonly number[];
}

function placeBetween(before: LineNote, next: LineNote, around: Around): NotedPlace {
  const { measures } = around.score;
  const at = before.start + before.length;
  const kind = kindOf(before, next, around.score);
  const index = measureBefore(around.score, at, kind === 'rest');
  const measure = measures[index];
  const beats = measure ? ((at - toNumber(measure.start)) * measure.meter.beatType) / 4 : 0;
  return {
    at,
    resumes: next.start,
    measureIndex: index,
    beat: roundTo(beats + 1, 3),
    kind,
    after: { measureIndex: before.measureIndex, ordinal: before.ordinal },
    added: kind === 'rest' ? [] : addedAt(before, next, around),
    before: before.length,
  };
}

/** The measure that a place belongs to: a rest to the one it begins in, a breath to the one of the note before it. */
function measureBefore({ measures }: Score, at: number, isRest: boolean): number {
  const reach = isRest ? at + 1e-6 : at - 1e-6;
  return Math.max(
    0,
    measures.findLastIndex(({ start }) => toNumber(start) <= reach),
  );
}

function kindOf(before: LineNote, next: LineNote, score: Score): PlaceKind {
  if (!isJoined(before, next)) return 'rest';
  if (before.signs.hasBreath) return 'breath mark';
  if (next.isSlurredInto) return 'inside a slur';
  if (before.signs.hasFermata) return 'hold';
  if (isLong(before, next)) return before.endsSlur || isCadence(before, score) ? 'phrase end' : 'long note';
  return toNumber(next.onset) === 0 ? 'bar line' : 'tongued note';
}

function isLong(before: LineNote, next: LineNote): boolean {
  return (
    before.length >= LONG_QUARTERS ||
    (before.length >= LONGISH_QUARTERS && before.length >= 2 * next.length - 1e-9)
  );
}

/** Whether a long note comes to rest: the first or fifth degree of the key, begun on a strong beat. */
function isCadence({ written, measureIndex, onset }: LineNote, { measures }: Score): boolean {
  const measure = measures[measureIndex];
  if (!written || !measure) return false;
  const half = toNumber(measure.length) / 2;
  const place = toNumber(onset);
  const isStrong = place === 0 || (Math.abs(place - half) < 1e-6 && half >= beatOf(measure.meter));
  const degrees = tonics(measure.fifths).flatMap((tonic) => [tonic, (tonic + 7) % 12]);
  return isStrong && degrees.includes(midiOf(written) % 12);
}

/** The first degrees of a signature: of its major and its minor key. Units: semitones above C */
function tonics(fifths: number): readonly [major: number, minor: number] {
  const major = (((fifths * 7) % 12) + 12) % 12;
  return [major, (major + 9) % 12];
}

function addedAt(before: LineNote, next: LineNote, { score, swells }: Around): AddedHarm[] {
  const fifths = score.measures[before.measureIndex]?.fifths ?? 0;
  const step = before.midi === null || next.midi === null ? null : next.midi - before.midi;
  const leads = tonics(fifths).some((tonic) => before.midi !== null && (before.midi + 1) % 12 === tonic);
  const isDown = toNumber(next.onset) === 0 && toNumber(before.onset) > 0;
  const isStep = step !== null && step !== 0 && Math.abs(step) <= 2;
  const all: readonly (readonly [AddedHarm, boolean])[] = [
    ['leading', leads && step === 1],
    ['crescendo', swells.some((end) => end > before.start + 1e-6 && end <= next.start + 1e-6)],
    ['resolution', isDown && isStep && next.length > before.length && !(leads && step === 1)],
  ];
  return all.flatMap(([name, isSo]) => (isSo ? [name] : []));
}

/** Where crescendos arrive. Units: quarters from the beginning */
function crescendoEnds({ marks, measures }: Score): number[] {
  const open = new Map<string, 'crescendo' | 'diminuendo'>();
  const ends: number[] = [];
  for (const { measureIndex, onset, type, number } of marks.hairpins) {
    const at = toNumber(measures[measureIndex]?.start ?? onset) + toNumber(onset);
    if (open.get(number) === 'crescendo') ends.push(at);
    if (type === 'stop') open.delete(number);
    else open.set(number, type);
  }
  return ends;
}
