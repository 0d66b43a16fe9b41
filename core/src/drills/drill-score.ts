import { AS_WRITTEN, midiOf, toNumber, transposePitch, type BeatUnit, type Bpm } from '../music/index.js';
import { lineAsMusicXml, type Score, type Span } from '../score/index.js';
import type { Drill } from './drill.js';

/** What a drill's score says beside its notes. Units: beats per minute. */
export interface DrillHead {
  readonly work: string;
  readonly tempo: { readonly bpm: Bpm; readonly unit: BeatUnit } | null;
}

/**
 * A drill as a score.
 * Shape:  MusicXML; null for a drill without notes of its own
 * Source: MusicXML 4.0
 */
export function drillScore(
  { title, measures }: Drill,
  { instrument, transposition, measures: places }: Pick<Score, 'instrument' | 'transposition' | 'measures'>,
  { work, tempo, from }: DrillHead & { readonly from: Span },
): string | null {
  if (measures.length === 0) return null;
  return lineAsMusicXml({
    title: work === '' ? title : `${work}: ${title}`,
    instrument,
    transposition,
    clef: places[from.fromIndex]?.clef ?? null,
    tempo,
    measures,
  });
}

/** One note as it sounds. Units: MIDI numbers of sounding pitches, null for a stroke; quarters from the beginning. */
export interface SoundedDrillNote {
  readonly midi: number | null;
  readonly start: number;
  readonly length: number;
}

/**
 * The notes of a drill as they sound, tied notes joined.
 * Shape:  in time order
 * Units:  quarters
 */
export function drillSound(
  { measures }: Pick<Drill, 'measures'>,
  { transposition }: Pick<Score, 'transposition'>,
): SoundedDrillNote[] {
  const sounds: { midi: number | null; start: number; length: number }[] = [];
  let at = 0;
  let isTied = false;
  for (const { notes } of measures)
    for (const note of notes) {
      const length = toNumber(note.length);
      const midis: (number | null)[] = note.isRest
        ? []
        : note.pitches.length === 0
          ? [null]
          : note.pitches.map((pitch) => midiOf(transposePitch(pitch, transposition ?? AS_WRITTEN)));
      for (const midi of midis) {
        const held = isTied ? sounds.findLast((one) => one.midi === midi) : undefined;
        if (held) held.length += length;
        else sounds.push({ midi, start: at, length });
      }
      isTied = note.isTied;
      at += length;
    }
  return sounds;
}
