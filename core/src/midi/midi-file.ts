import { writeMidi, type MidiEvent } from 'midi-file';
import { beatCount, midiOf, toNumber } from '../music/index.js';
import { instrumentProfile, type Pace } from '../reading/index.js';
import { inSpan, soundedNotes, type Score, type ScoreNote, type Span } from '../score/index.js';
import { PROGRAMS, SNARE } from './programs.data.js';

/** What is written of a score. Units: measure indexes; the pace as it is played */
export interface MidiWish {
  readonly span: Span;
  readonly pace: Pace;
  readonly instrument: string;
  readonly title: string;
}

/** Ticks of a quarter: divisible by every tuplet that is played (our own). */
const TICKS = 960;
/** A grace note is about so long. Units: quarters (our own) */
const GRACE = 1 / 8;
const LOUD = 88;
const MICROSECONDS_A_MINUTE = 60_000_000;
/** The channel of drums, from 0. Source: General MIDI Level 1, from memory */
export const DRUMS = 9;

interface Sounding {
  readonly start: number;
  readonly end: number;
  readonly key: number;
}

/**
 * A stretch of a score as a standard MIDI file: what sounds, at the pace it is to be played.
 * Shape:  format 0, begun with the stretch; tempo, meters and the sound of the instrument in it; grace notes before the beat
 * Units:  bytes
 * Source: Standard MIDI Files 1.0; program numbers of General MIDI Level 1
 */
export function midiFile(score: Score, { span, pace, instrument, title }: MidiWish): Uint8Array {
  const isStruck = instrumentProfile(instrument).family === 'drums';
  const channel = isStruck ? DRUMS : 0;
  const from = startOf(score, span.fromIndex);
  const timed = [
    ...tempoEvents(score, span, pace),
    ...soundings(score, span).flatMap(({ start, end, key }) =>
      noteEvents({ start: start - from, end: end - from, key, velocity: LOUD, channel }),
    ),
  ];
  const head: MidiEvent[] = [
    { deltaTime: 0, meta: true, type: 'trackName', text: ascii(title) },
    { deltaTime: 0, channel, type: 'programChange', programNumber: programOf(instrument) },
  ];
  return trackFile(head, timed, { ticks: TICKS, ringing: 0 });
}

/** A note that sounds. Units: quarters from the beginning; MIDI key and velocity */
interface SoundingNote {
  readonly start: number;
  readonly end: number;
  readonly key: number;
  readonly velocity: number;
  readonly channel: number;
}

/** A note on and off: what ends at a place does so before anything begins there. */
export function noteEvents({ start, end, key, velocity, channel }: SoundingNote): TimedEvent[] {
  return [
    { at: start, order: 2, event: { type: 'noteOn', channel, noteNumber: key, velocity } },
    { at: end, order: 0, event: { type: 'noteOff', channel, noteNumber: key, velocity: 0 } },
  ];
}

/**
 * A file of one track: what stands before the music, and events at their places.
 * Units:  bytes; `ticks` a quarter, `ringing` quarters after the last event
 * Source: Standard MIDI Files 1.0
 */
export function trackFile(
  head: readonly MidiEvent[],
  timed: readonly TimedEvent[],
  { ticks, ringing }: { readonly ticks: number; readonly ringing: number },
): Uint8Array {
  const end: MidiEvent = { deltaTime: Math.round(ringing * ticks), meta: true, type: 'endOfTrack' };
  const track = [...head, ...inOrder(timed, ticks), end];
  return Uint8Array.from(
    writeMidi({ header: { format: 0, numTracks: 1, ticksPerBeat: ticks }, tracks: [track] }),
  );
}

/** An event at its place. Units: quarters; of two at one place the lower order comes first */
export interface TimedEvent {
  readonly at: number;
  readonly order: number;
  readonly event: object;
}

function inOrder(timed: readonly TimedEvent[], ticks: number): MidiEvent[] {
  let last = 0;
  return [...timed]
    .sort((a, b) => a.at - b.at || a.order - b.order)
    .map(({ at, event }) => {
      const tick = Math.max(last, Math.round(at * ticks));
      const deltaTime = tick - last;
      last = tick;
      return { deltaTime, ...event } as MidiEvent;
    });
}

/** Tempos and meters where they change. */
function tempoEvents(score: Score, span: Span, pace: Pace): TimedEvent[] {
  const [from, end] = [startOf(score, span.fromIndex), startOf(score, span.endIndex)];
  const begun = pace.segments.filter(({ at }) => at <= from).at(-1) ?? pace.segments[0];
  const changes = pace.segments.filter(({ at }) => at > from && at < end);
  const tempos = [...(begun ? [{ ...begun, at: from }] : []), ...changes].map(({ at, quarterBpm }) => ({
    at: at - from,
    order: 1,
    event: {
      ...{ meta: true, type: 'setTempo' },
      microsecondsPerBeat: Math.round(MICROSECONDS_A_MINUTE / quarterBpm),
    },
  }));
  let known = '';
  const meters = score.measures
    .slice(span.fromIndex, span.endIndex)
    .flatMap(({ meter, start }): TimedEvent[] => {
      const beats = beatCount(meter);
      const name = `${beats}/${meter.beatType}`;
      if (name === known) return [];
      known = name;
      const event = {
        ...{ meta: true, type: 'timeSignature', numerator: beats, denominator: meter.beatType },
        ...{ metronome: 24, thirtyseconds: 8 },
      };
      return [{ at: toNumber(start) - from, order: 1, event }];
    });
  return [...tempos, ...meters];
}

/** What sounds in a stretch: ties joined, grace notes before their note. Units: quarters from the beginning */
function soundings(score: Score, span: Span): Sounding[] {
  const inside = ({ measureIndex }: ScoreNote): boolean => inSpan(span, measureIndex);
  const placed = (note: ScoreNote, key: number): Sounding => {
    const start = startOf(score, note.measureIndex) + toNumber(note.onset);
    const length = toNumber(note.length);
    return note.isGrace
      ? { start: Math.max(startOf(score, span.fromIndex), start - GRACE), end: start, key }
      : { start, end: start + length, key };
  };
  const strokes = score.notes.filter(({ written, isRest }) => written === null && !isRest);
  return [
    ...soundedNotes(score)
      .filter(inside)
      .map((note) => placed(note, midiOf(note.sounding))),
    ...strokes.filter(inside).map((note) => placed(note, SNARE)),
  ];
}

function startOf({ measures }: Score, index: number): number {
  const measure = measures[index];
  if (measure) return toNumber(measure.start);
  const last = measures.at(-1);
  return last ? toNumber(last.start) + toNumber(last.length) : 0;
}

/** The sound of an instrument by its name. Shape: 0 to 127, the piano where it is not known */
export function programOf(instrument: string): number {
  const name = instrument.toLowerCase();
  return PROGRAMS.find(([one]) => name.includes(one))?.[1] ?? 0;
}

/** Names in MIDI files are plain letters. */
function ascii(text: string): string {
  return text.normalize('NFKD').replace(/[^\x20-\x7e]/gu, '');
}
