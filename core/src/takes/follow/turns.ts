import type { Heard } from '../hear/heard.js';
import { fromOctave } from '../hear/octaves.js';
import { surestChance, surestMidi } from '../hear/yin.js';

/** A pitch stands from so sure on, for so long, and within so little. Units: chance; frames; semitones */
const STANDS = { sure: 0.5, frames: 4, within: 0.4 };
/** So far from the one before it is another, and so far from an octave. Units: semitones */
const OTHER = 0.75;

/**
 * Where a pitch that stands gives way to another one: a new note, however softly it is joined on. Vibrato is none, and
 * neither is an octave, which a machine mistakes.
 * Shape:  one for each frame in the middle between two pitches, else zero
 */
export function turnsOf({ frames, pitch }: Pick<Heard, 'frames' | 'pitch'>): Uint8Array {
  const turns = new Uint8Array(frames);
  let [stood, until] = [0, -1];
  let [from, low, high] = [0, 0, 0];
  for (let frame = 0; frame < frames; frame += 1) {
    const midi = surestChance(pitch, frame) < STANDS.sure ? 0 : surestMidi(pitch, frame);
    if (midi === 0) {
      from = frame + 1;
      continue;
    }
    if (from === frame) [low, high] = [midi, midi];
    else if (Math.max(high, midi) - Math.min(low, midi) > STANDS.within)
      [from, low, high] = [frame, midi, midi];
    else [low, high] = [Math.min(low, midi), Math.max(high, midi)];
    if (frame - from + 1 < STANDS.frames) continue;
    const here = (low + high) / 2;
    const far = Math.abs(here - stood);
    if (stood > 0 && far > OTHER && Math.abs(fromOctave(far)) > OTHER) turns[(from + until) >> 1] = 1;
    [stood, until] = [here, frame];
  }
  return turns;
}
