import type { Heard } from '../hear/heard.js';
import { fromOctave } from '../hear/octaves.js';
import { salienceAt, type Salience } from '../hear/salience.js';
import { CANDIDATES, surestChance, surestMidi } from '../hear/yin.js';
import type { AskedNote } from './asked-notes.js';
import type { Likelihood } from './ground.js';
import { summed } from './worth.js';

/** What a frame is worth that fits nothing: a wrong note, a noise. */
const FLOOR = 0.02;
/** A silent frame says little of which note it belongs to. */
export const SILENT = Math.log(0.25);
/** What a frame without a clear pitch is worth to every note. */
const UNPITCHED = 0.25;
/** What a pitch an octave or a twelfth beside is worth: ears and machines take one for the other. */
const OCTAVE = 0.2;
/** The neighbours of a note with an ornament. */
const NEIGHBOUR = 0.7;
/** What a frame is worth to notes of several pitches, of which a machine for one hears little. */
const CHORD_FLOOR = 0.1;
/** From so much of the strongest pitch of a frame on, a pitch rings with it; at so much it is as good as heard alone. */
const RINGS = { from: 0.45, whole: 0.9, worth: 0.75 };

/**
 * How well each frame fits each note.
 * Shape:  `shift` in semitones and `tuning` in cents are added to what is asked
 * Units:  log chances
 */
export function likelihoodOf(
  heard: Heard,
  notes: readonly AskedNote[],
  { shift, tuning }: { readonly shift: number; readonly tuning: number },
): Likelihood {
  const keys = new Map<string, number>();
  const tables: Float32Array[] = [];
  const rises: Float32Array[] = [];
  const tableOf = Int32Array.from(notes, (note) => {
    const key = `${note.midis.join(' ')}${note.isOrnamented ? '~' : ''}`;
    const known = keys.get(key);
    if (known !== undefined) return known;
    keys.set(key, tables.length);
    const pitches = note.midis.map((midi) => midi + shift + tuning / 100);
    tables.push(tableFor(heard, { pitches, isOrnamented: note.isOrnamented }));
    rises.push(riseFor(heard, pitches));
    return tables.length - 1;
  });
  const sums = tables.map((table) => summed(table.length, (frame) => table[frame] ?? SILENT));
  return { tableOf, tables, sums, rises };
}

/** Notes of the same pitches. Units: MIDI numbers as they are tuned */
interface Key {
  readonly pitches: readonly number[];
  readonly isOrnamented: boolean;
}

function tableFor(
  { frames, pitch: { midi, chance }, salience, isSilent }: Heard,
  { pitches, isOrnamented }: Key,
): Float32Array {
  const table = new Float32Array(frames);
  const floor = pitches.length > 1 ? CHORD_FLOOR : FLOOR;
  for (let frame = 0; frame < frames; frame += 1) {
    if (isSilent[frame]) {
      table[frame] = SILENT;
      continue;
    }
    let [fit, voiced] = [0, 0];
    for (let n = frame * CANDIDATES; n < (frame + 1) * CANDIDATES; n += 1) {
      const belief = chance[n] ?? 0;
      if (belief === 0) break;
      voiced += belief;
      let best = 0;
      for (const asked of pitches) best = Math.max(best, closeness((midi[n] ?? 0) - asked, isOrnamented));
      fit += belief * best;
    }
    const alone = fit + UNPITCHED * Math.max(0, 1 - voiced);
    const whole = pitches.length === 0 ? 1 : Math.min(1, Math.max(alone, ringing(salience, frame, pitches)));
    table[frame] = Math.log(floor + (1 - floor) * whole);
  }
  return table;
}

/** So long after its attack a pitch is clear. Units: frames */
const CLEAR_AFTER = 4;

/** How clearly pitches come anew in the frames after each. Shape: of several the clearest; one where nothing has a pitch */
function riseFor({ frames, salience }: Heard, pitches: readonly number[]): Float32Array {
  const table = new Float32Array(frames);
  if (!salience || pitches.length === 0) return table.fill(1);
  for (let frame = 0; frame < frames; frame += 1)
    for (let near = frame; near < Math.min(frames, frame + CLEAR_AFTER); near += 1)
      for (const midi of pitches)
        table[frame] = Math.max(table[frame] ?? 0, salienceAt(salience, 'rise', { frame: near, midi }));
  return table;
}

/** How clearly pitches ring in a frame among others. Shape: 0 to 1; of several the mean */
function ringing(salience: Salience | null, frame: number, pitches: readonly number[]): number {
  if (!salience) return 0;
  let sum = 0;
  for (const pitch of pitches) {
    const strength = salienceAt(salience, 'strength', { frame, midi: pitch });
    sum += Math.max(0, Math.min(1, (strength - RINGS.from) / (RINGS.whole - RINGS.from)));
  }
  return (RINGS.worth * sum) / pitches.length;
}

/** What a distance is worth. Units: semitones */
function closeness(semitones: number, isOrnamented: boolean): number {
  const far = Math.abs(semitones);
  const own = near(far);
  if (own > 0) return own;
  if (isOrnamented && far < 2.6) return NEIGHBOUR;
  return OCTAVE * near(fromOctave(far));
}

function near(far: number): number {
  if (far <= 0.45) return 1;
  return far >= 0.85 ? 0 : (0.85 - far) / 0.4;
}

/**
 * How far the take is tuned from the asked pitch.
 * Units:  cents, -50 to 50
 */
export function tuningOf({ frames, pitch, isSilent }: Heard): number {
  let [x, y] = [0, 0];
  for (let frame = 0; frame < frames; frame += 1) {
    const belief = surestChance(pitch, frame);
    if (belief < 0.7 || isSilent[frame]) continue;
    const angle = 2 * Math.PI * surestMidi(pitch, frame);
    x += belief * Math.cos(angle);
    y += belief * Math.sin(angle);
  }
  return x === 0 && y === 0 ? 0 : (Math.atan2(y, x) / (2 * Math.PI)) * 100;
}

/** A take that fits another octave or key must do so by this much. */
const CLEARLY = 1.25;

/**
 * By how many semitones the take is likely to lie beside what is asked: another octave, an instrument in another key.
 * Shape:  0 where nothing is clearly nearer
 * Units:  semitones
 */
export function shiftOf(
  { frames, pitch, isSilent }: Heard,
  notes: readonly AskedNote[],
  tuning: number,
): number {
  const heard = new Float64Array(160);
  const asked = new Float64Array(160);
  for (let frame = 0; frame < frames; frame += 1) {
    if (isSilent[frame]) continue;
    const place = Math.round(surestMidi(pitch, frame) - tuning / 100);
    if (surestChance(pitch, frame) > 0.5 && place > 0 && place < 160) heard[place] = (heard[place] ?? 0) + 1;
  }
  for (const { midis, lasts } of notes) for (const midi of midis) asked[midi] = (asked[midi] ?? 0) + lasts;
  const alike = (shift: number): number => {
    let sum = 0;
    for (let place = 30; place < 130; place += 1)
      sum += Math.sqrt((asked[place] ?? 0) * (heard[place + shift] ?? 0));
    return sum;
  };
  let best = 0;
  for (let shift = -26; shift <= 26; shift += 1) if (alike(shift) > alike(best)) best = shift;
  return alike(best) > CLEARLY * alike(0) ? best : 0;
}
