import { roundTo, upperMedian } from '../../base/index.js';
import { hertzOf } from '../../music/index.js';
import { hear, type Heard } from '../hear/heard.js';
import { fromOctave } from '../hear/octaves.js';
import { surestChance, surestMidi } from '../hear/yin.js';
import { loudnessOf } from '../sound/loudness.js';
import { ANALYSIS_RATE, resampled } from '../sound/resample.js';
import { lengthOf, type Sound } from '../sound/sound.js';

/**
 * How a long tone was held.
 * Shape:  its longest unbroken stretch; beginning and end of the tone left out of the spreads
 * Units:  seconds; standard deviations in dB and cents; `driftCents` from beginning to end; `hertz` its middle pitch
 */
export interface LongTone {
  readonly seconds: number;
  readonly levelSpreadDb: number;
  readonly pitchSpreadCents: number;
  readonly driftCents: number;
  readonly hertz: number;
}

/** Any pitch of any instrument. Units: MIDI numbers */
const COMPASS = { lowest: 26, highest: 104 };
/** A gap so short is no end. Units: seconds */
const BREAK = 0.12;
/** A tone is at least so long. Units: seconds */
const SHORTEST = 0.5;
/** What is left out at either end: the attack and the release. Units: seconds */
const EDGE = 0.25;

/**
 * The longest tone of a sound.
 * Shape:  null where none is held for half a second
 * Units:  see LongTone
 * Source: the design; slopes by Theil (1950) and Sen (1968)
 */
export function longTone(take: Sound): LongTone | null {
  const sound = resampled(take, ANALYSIS_RATE);
  if (lengthOf(sound) < SHORTEST) return null;
  const heard = hear(sound, COMPASS);
  const stretch = longestStretch(heard);
  const seconds = (stretch.to - stretch.from) * heard.hop;
  if (seconds < SHORTEST) return null;
  const edge = Math.min(Math.round(EDGE / heard.hop), Math.floor((stretch.to - stretch.from) / 4));
  const frames = Array.from(
    { length: stretch.to - stretch.from - 2 * edge },
    (_, n) => stretch.from + edge + n,
  );
  const cents = frames
    .filter((frame) => surestChance(heard.pitch, frame) > 0.4)
    .map((frame) => ({ at: frame * heard.hop, cents: surestMidi(heard.pitch, frame) * 100 }));
  const middle = upperMedian(cents.map((one) => one.cents)) ?? 0;
  const near = cents.filter((one) => Math.abs(one.cents - middle) < 150);
  return {
    seconds: roundTo(seconds, 3),
    levelSpreadDb: roundTo(
      levelSpread(
        sound,
        frames.map((frame) => frame * heard.hop),
      ),
      2,
    ),
    pitchSpreadCents: roundTo(deviation(near.map((one) => one.cents)), 2),
    driftCents: roundTo(slopeOf(near) * (seconds - 2 * edge * heard.hop), 2),
    hertz: roundTo(hertzOf(middle / 100), 2),
  };
}

/** The longest stretch of one pitch, short breaks bridged. Units: frames, half-open */
function longestStretch({ frames, hop, isSilent, pitch: track }: Heard): { from: number; to: number } {
  const most = Math.ceil(BREAK / hop);
  let [best, from, last, pitch] = [{ from: 0, to: 0 }, -1, -1, 0];
  for (let frame = 0; frame < frames; frame += 1) {
    if (isSilent[frame] || surestChance(track, frame) < 0.3) continue;
    const midi = surestMidi(track, frame);
    const isOther = Math.abs(midi - pitch) > 0.9 && fromOctave(midi - pitch) >= 0.9;
    if (from < 0 || frame - last > most || isOther) [from, pitch] = [frame, midi];
    else if (Math.abs(midi - pitch) <= 0.9) pitch += (midi - pitch) * 0.05;
    last = frame;
    if (last + 1 - from > best.to - best.from) best = { from, to: last + 1 };
  }
  return best;
}

/** The spread of the loudness in blocks of a tenth of a second. Units: dB */
function levelSpread(sound: Sound, times: readonly number[]): number {
  const loudness = loudnessOf(sound);
  const [first, last] = [times[0] ?? 0, times.at(-1) ?? 0];
  const levels: number[] = [];
  for (let at = first; at + 0.1 <= last + 1e-9; at += 0.1) levels.push(loudness.between(at, at + 0.1));
  return deviation(levels);
}

function deviation(values: readonly number[]): number {
  if (values.length < 2) return 0;
  const mean = values.reduce((sum, one) => sum + one, 0) / values.length;
  return Math.sqrt(values.reduce((sum, one) => sum + (one - mean) ** 2, 0) / (values.length - 1));
}

/** Slopes between places at least a third of the way apart. Units: cents a second */
function slopeOf(points: readonly { readonly at: number; readonly cents: number }[]): number {
  const step = Math.max(1, Math.floor(points.length / 120));
  const some = points.filter((_, n) => n % step === 0);
  const slopes: number[] = [];
  for (let a = 0; a < some.length; a += 1)
    for (let b = a + Math.ceil(some.length / 3); b < some.length; b += 1) {
      const [first, second] = [some[a], some[b]];
      if (first && second && second.at > first.at)
        slopes.push((second.cents - first.cents) / (second.at - first.at));
    }
  return upperMedian(slopes) ?? 0;
}
