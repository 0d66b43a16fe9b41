import type { Sound } from '../sound/sound.js';

/** Loudness is followed in such steps and windows. Units: seconds */
const STEP = 0.0025;
const WINDOW = 0.008;
/** An attack is looked for so far around. Units: seconds */
const AROUND = { before: 0.05, after: 0.045 };
/** A rise must be at least so large to be one. Units: dB */
const RISE = 4;
/** Where in its rise a note begins to be heard. */
const HEARD_AT = 0.3;

/**
 * When a note begins that was heard near a place: where its loudness has gone a part of the way up.
 * Shape:  the place itself where nothing rises clearly
 * Units:  seconds
 */
export function attackNear({ samples, rate }: Sound, seconds: number): number {
  const levels: number[] = [];
  const start = seconds - AROUND.before;
  const count = Math.round((AROUND.before + AROUND.after) / STEP);
  for (let n = 0; n <= count; n += 1) levels.push(levelAt(samples, rate, start + n * STEP));
  const low = lowestBeforeRise(levels);
  if (!low || low.rise < RISE) return seconds;
  const goal = low.level + HEARD_AT * low.rise;
  const at = levels.findIndex((level, n) => n >= low.at && level >= goal);
  return at < 0 ? seconds : start + at * STEP;
}

function levelAt(samples: Float32Array, rate: number, seconds: number): number {
  const from = Math.round((seconds - WINDOW / 2) * rate);
  const to = from + Math.round(WINDOW * rate);
  let sum = 0;
  for (let n = Math.max(0, from); n < to; n += 1) sum += (samples[n] ?? 0) ** 2;
  return 10 * Math.log10(sum / (to - from) + 1e-10);
}

/** The largest rise of a stretch, from its bottom. */
function lowestBeforeRise(levels: readonly number[]): { at: number; level: number; rise: number } | null {
  let [lowAt, best]: [number, { at: number; level: number; rise: number } | null] = [0, null];
  levels.forEach((level, n) => {
    if (level < (levels[lowAt] ?? 0)) lowAt = n;
    const rise = level - (levels[lowAt] ?? 0);
    if (!best || rise > best.rise) best = { at: lowAt, level: levels[lowAt] ?? 0, rise };
  });
  return best;
}
