import type { Ground } from './ground.js';

/** Frames overlap, so that each says only a part of something new, where notes have durations (our own). */
export const FRAME_WEIGHT = 0.25;
/** How well a wrong note fits its own pitch, where the right ones do not tell. Units: log chance a frame */
export const WRONG_FITS = Math.log(0.83);
/** What it costs to leave a note out, and how many may be at once. */
export const LEFT_OUT = -5;
export const MOST_SKIPPED = 2;

/** An attack belongs to a note that begins so near. Units: frames */
export const AT_NOTE = 3;

/** How clear an attack counts: where the same note comes again; after a rest or a tongue; under a slur. */
export interface AttackWeight {
  readonly same: number;
  readonly tongued: number;
  readonly slurred: number;
}

/** What the weight of a note's attack is, after another note. Shape: places of both in the asked notes, -1 for none */
export function attackWeight(
  { notes, likelihood: { tableOf } }: Ground,
  { note, before }: { readonly note: number; readonly before: number },
  weight: AttackWeight,
): number {
  if (before >= 0 && tableOf[note] === tableOf[before]) return weight.same;
  return notes[note]?.isSlurred ? weight.slurred : weight.tongued;
}

/** Out of a silence that goes on, no note begins: what it costs, where so many frames after one are silent. */
const IN_SILENCE = { worth: -6, frames: 5 };

/** How well a note may begin in a frame, by what comes anew there, as much as that counts. Units: log chance */
export function beginningWorth(
  { heard: { flux, isSilent } }: Pick<Ground, 'heard'>,
  frame: number,
  weight: number,
): number {
  const clear = Math.min(1.5, Math.max(flux[frame] ?? 0, 0.8 * (flux[frame + 1] ?? 0)));
  const end = Math.min(isSilent.length, frame + 1 + IN_SILENCE.frames);
  let isInSilence = frame + 1 < end;
  for (let at = frame + 1; isInSilence && at < end; at += 1) isInSilence = isSilent[at] === 1;
  return weight * Math.log(0.05 + clear) + (isInSilence ? IN_SILENCE.worth : 0);
}

/** How clear an attack stands in a frame, where it is the clearest around. Shape: 0 to 1 */
export function peakAt(flux: Float32Array, frame: number): number {
  const here = flux[frame] ?? 0;
  if (here < 0.25) return 0;
  for (let near = frame - 2; near <= frame + 2; near += 1) if ((flux[near] ?? 0) > here) return 0;
  return Math.min(1, here);
}

/** Sums up to each frame. Shape: one more than there are frames */
export function summed(frames: number, of: (frame: number) => number): Float64Array {
  const sum = new Float64Array(frames + 1);
  for (let frame = 0; frame < frames; frame += 1) sum[frame + 1] = (sum[frame] ?? 0) + of(frame);
  return sum;
}
