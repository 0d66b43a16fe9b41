import { hannWindow } from '../hear/hann.js';
import type { Sound } from '../sound/sound.js';

/** Loudness is followed in such steps. Units: seconds */
const STEP = 0.0025;
/** A beginning is looked for so far around. Units: seconds */
const AROUND = { before: 0.085, after: 0.045 };
/** What is heard of a note: windows of so many periods, not shorter than this. Units: seconds */
const WINDOW = { periods: 3, least: 0.02, stroke: 0.008 };
/** Partials that are followed, where the note before has none. */
const PARTIALS = 5;
/** Where in its rise a note begins. Shape: share of the way from the quiet before it to its first strength */
const BEGINS_AT = 0.2;
/** From where on it has risen: how long that takes says how blurred the beginning is. Shape: as above */
const RISEN_AT = 0.8;
/** A rise must be at least so large to be one: the strength after it beside that before. */
const RISE = 1.6;

/** Where a beginning is looked for. Units: seconds; hertz, null where nothing has a pitch */
export interface AttackWish {
  readonly seconds: number;
  readonly hertz: number | null;
  /** The pitch that may still sound. */
  readonly before: number | null;
}

/** When a note begins, and how long it takes to rise: null where nothing rises clearly. Units: seconds */
export interface Attack {
  readonly seconds: number;
  readonly blur: number | null;
}

/**
 * When a note begins that was heard near a place: where its own partials begin to rise, whatever else still rings.
 * Shape:  the place itself where nothing rises clearly
 * Units:  seconds
 */
export function attackNear(sound: Sound, { seconds, hertz, before }: AttackWish): Attack {
  const partials = hertz === null ? [] : ownPartials(hertz, before === hertz ? null : before, sound.rate);
  const start = seconds - AROUND.before;
  const count = Math.round((AROUND.before + AROUND.after) / STEP);
  const strengthAt =
    partials.length > 0 && hertz !== null ? partialStrength(sound, hertz, partials) : level(sound);
  const strengths = Array.from({ length: count + 1 }, (_, n) => strengthAt(start + n * STEP));
  const rise = riseTo(strengths, Math.round(AROUND.before / STEP));
  return rise
    ? { seconds: start + rise.begins * STEP, blur: (rise.risen - rise.begins) * STEP }
    : { seconds, blur: null };
}

/** Partials of a note that the one before does not have as well. */
function ownPartials(hertz: number, before: number | null, rate: number): number[] {
  return Array.from({ length: PARTIALS }, (_, n) => (n + 1) * hertz).filter((partial) => {
    if (partial > rate * 0.45) return false;
    if (before === null) return true;
    const nearest = Math.max(1, Math.round(partial / before)) * before;
    return nearest / before > PARTIALS + 3 || Math.abs(12 * Math.log2(partial / nearest)) > 0.7;
  });
}

function partialStrength(
  { samples, rate }: Sound,
  hertz: number,
  partials: readonly number[],
): (at: number) => number {
  const length = Math.round(Math.max(WINDOW.least, WINDOW.periods / hertz) * rate);
  const window = hannWindow(length);
  return (at) => {
    const first = Math.round(at * rate) - (length >> 1);
    let sum = 0;
    for (const partial of partials) {
      // Goertzel's way of one bin of a Fourier transform.
      const turn = 2 * Math.cos((2 * Math.PI * partial) / rate);
      let [one, two] = [0, 0];
      for (let n = 0; n < length; n += 1) {
        const now = (samples[first + n] ?? 0) * (window[n] ?? 0) + turn * one - two;
        [two, one] = [one, now];
      }
      sum += Math.sqrt(Math.max(0, one * one + two * two - turn * one * two)) / length;
    }
    return sum;
  };
}

function level({ samples, rate }: Sound): (at: number) => number {
  const length = Math.round(WINDOW.stroke * rate);
  return (at) => {
    const first = Math.round(at * rate) - (length >> 1);
    let sum = 0;
    for (let n = first; n < first + length; n += 1) sum += (samples[n] ?? 0) ** 2;
    return Math.sqrt(sum / length);
  };
}

/** The rise that leads to the strength at and after the middle: from where to where. */
function riseTo(
  strengths: readonly number[],
  middle: number,
): { readonly begins: number; readonly risen: number } | null {
  let [top, bottom] = [middle, middle];
  for (let n = middle; n < strengths.length; n += 1) if (at(strengths, n) > at(strengths, top)) top = n;
  // Down the slope from there, over small steps back up.
  bottom = top;
  for (let n = top; n >= 0 && at(strengths, n) < at(strengths, top) * 1.05; n -= 1)
    if (at(strengths, n) < at(strengths, bottom)) bottom = n;
  const [low, high] = [at(strengths, bottom), at(strengths, top)];
  if (high < low * RISE) return null;
  const reaches = (share: number): number => crossing(strengths, [bottom, top], low + share * (high - low));
  return { begins: reaches(BEGINS_AT), risen: reaches(RISEN_AT) };
}

/** Where strengths first reach a goal, between two of them. */
function crossing(
  strengths: readonly number[],
  [from, to]: readonly [from: number, to: number],
  goal: number,
): number {
  for (let n = from; n <= to; n += 1) {
    const here = at(strengths, n);
    if (here < goal) continue;
    const last = at(strengths, n - 1);
    return n === from || here === last ? n : n - 1 + (goal - last) / (here - last);
  }
  return to;
}

function at(strengths: readonly number[], n: number): number {
  return strengths[n] ?? 0;
}
