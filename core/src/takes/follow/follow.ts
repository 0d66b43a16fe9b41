import { hertzOf } from '../../music/index.js';
import { hear, type Compass, type Heard } from '../hear/heard.js';
import { surestChance } from '../hear/yin.js';
import type { Sound } from '../sound/sound.js';
import type { AskedMusic, AskedNote } from './asked-notes.js';
import { attackNear } from './attack.js';
import { placeRun, type Run } from './fine.js';
import { grossWay, type Way } from './gross.js';
import type { Ground } from './ground.js';
import { likelihoodOf, shiftOf, tuningOf } from './likelihood.js';
import { strokeWay } from './strokes.js';
import { tempoWay } from './tempo-way.js';
import { localPace } from './local-pace.js';

/**
 * A note of the music that was heard.
 * Shape:  `asked` its place in the music's notes; `run` counts the runs between jumps from 0; `expected` how long it is to
 *         the next note at the tempo around, null for the last of a run
 * Units:  seconds from the beginning of the take; confidence and shares of its time 0 to 1
 */
export interface FollowedNote {
  readonly asked: number;
  readonly run: number;
  readonly seconds: number;
  /** Where it is over: the next note, or the end of the run. */
  readonly end: number;
  readonly expected: number | null;
  /** How long its beginning takes to rise: null where none was clear. */
  readonly blur: number | null;
  /** How fast the written clock runs around it. */
  readonly pace: number;
  readonly confidence: number;
  readonly isSure: boolean;
}

/** A take laid along the music. */
export interface FollowedTake {
  readonly notes: readonly FollowedNote[];
  readonly heard: Heard;
  /** By how many semitones it sounds beside what is written. */
  readonly shift: number;
  /** Units: cents */
  readonly tuning: number;
  /** The share of what sounds that fits the note it is laid to; one where nothing has a pitch. */
  readonly fit: number;
  /** How far intervals stand from the tempo around them: the factor, as a logarithm, that 70 % of them keep to. */
  readonly stray: number;
  /** Whether it was laid by its strokes, whatever their pitches. */
  readonly isByStrokes: boolean;
}

/** Lays a take along the music that was asked. Shape: `tell` hears the share that is done */
export function followTake(
  sound: Sound,
  music: AskedMusic,
  tell: (done: number) => void = () => undefined,
): FollowedTake {
  const { notes } = music;
  const heard = hear(sound, compassOf(notes), (done) => tell(done * 0.7));
  const tuning = tuningOf(heard);
  const shift = shiftOf(heard, notes, tuning);
  const likelihood = likelihoodOf(heard, notes, { shift, tuning });
  const ground = { heard, notes, likelihood };
  const heads = new Set(music.measures.map((_, pass) => notes.findIndex((note) => note.pass === pass)));
  const wish = { pace: roughPace(heard, music), heads };
  const place = (way: Way): Laid => laid(way, { ...ground, shift, tuning });
  if (!notes.some(({ midis }) => midis.length > 0))
    return { heard, shift, tuning, ...place(strokeWay(ground, wish)), isByStrokes: true };
  const gross = grossWay(ground, wish);
  tell(0.8);
  const byPitch = place(tempoWay(ground, gross, heads));
  tell(0.95);
  const found = byPitch.fit < RINGING ? byRhythm() : null;
  return {
    ...{ heard, shift, tuning },
    ...(found ?? byPitch),
    isByStrokes: found !== null,
  };

  /** Drums that ring are heard by their strokes rather than by their pitches. */
  function byRhythm(): Laid | null {
    const way = strokeWay(ground, wish);
    const strokes = clarityOf(ground) < PITCHED ? unpitched(ground) : ground;
    const found = laid(way, { ...strokes, shift, tuning });
    const isWhole = found.notes.length >= WHOLE * notes.length && found.notes.length >= byPitch.notes.length;
    return isWhole && found.stray < STEADY ? found : null;
  }
}

/** The same where no pitch can be heard: none can be wrong, and none tells where a note is. */
function unpitched({ heard, notes }: Ground): Ground {
  const strokes = notes.map((note) => ({ ...note, midis: [] }));
  return { heard, notes: strokes, likelihood: likelihoodOf(heard, strokes, { shift: 0, tuning: 0 }) };
}

/** Where less of the sound fits the pitches that were asked, rhythm alone is tried. */
const RINGING = 0.72;
/** It is taken where it finds so many of the notes, and so steady. Shape: shares */
const WHOLE = 0.8;
const STEADY = 0.2;

/** Below this the ear for pitches finds none in what sounds, and none can be wrong. Shape: mean chance of the likeliest */
const PITCHED = 0.4;

/** How clearly what sounds has pitches. Shape: 0 to 1 */
function clarityOf({ heard: { frames, pitch, isSilent } }: Ground): number {
  let [clear, sounding] = [0, 0];
  for (let frame = 0; frame < frames; frame += 1) {
    if (isSilent[frame]) continue;
    sounding += 1;
    clear += surestChance(pitch, frame);
  }
  return clear / Math.max(1, sounding);
}

type Laid = Pick<FollowedTake, 'notes' | 'fit' | 'stray'>;

/** Every note of a way at its time. */
function laid(way: Way, around: Ground & { readonly shift: number; readonly tuning: number }): Laid {
  const { heard } = around;
  const notes = runsOf(way).flatMap((run, n) =>
    timed(placeRun(around, run), { ...around, run: n, end: run.end * heard.hop }),
  );
  return { notes, fit: fitOf(notes, around), stray: strayOf(notes) };
}

function strayOf(notes: readonly FollowedNote[]): number {
  const far = notes.flatMap(({ expected, seconds, end }) =>
    expected === null ? [] : [Math.abs(Math.log(Math.max(1e-3, end - seconds) / Math.max(1e-3, expected)))],
  );
  far.sort((a, b) => a - b);
  return far[Math.floor(far.length * 0.7)] ?? Infinity;
}

function compassOf(notes: readonly AskedNote[]): Compass | null {
  const midis = notes.flatMap((note) => note.midis);
  if (midis.length === 0) return null;
  // An octave below and above are looked for too: a take may lie there.
  return { lowest: Math.max(26, Math.min(...midis) - 12), highest: Math.min(108, Math.max(...midis) + 12) };
}

/** How fast the take goes on the whole: what sounds, beside what is written. Units: seconds a second of the written clock */
function roughPace({ frames, hop, isSilent }: Heard, { seconds }: AskedMusic): number {
  let [sounding, quiet] = [0, Infinity];
  for (let frame = 0; frame < frames; frame += 1) {
    quiet = isSilent[frame] ? quiet + hop : 0;
    if (quiet < 0.5) sounding += hop;
  }
  return Math.max(0.4, Math.min(2.5, sounding / Math.max(1, seconds)));
}

/** Stretches without a jump. */
function runsOf({ reached, end }: Way): Run[] {
  const runs: { notes: { note: number; frame: number }[]; end: number; isJump: boolean }[] = [];
  for (const { note, frame, isJump } of reached) {
    const last = runs.at(-1);
    if (!last || isJump) {
      if (last) last.end = frame;
      runs.push({ notes: [{ note, frame }], end, isJump: last !== undefined });
    } else last.notes.push(...between(last.notes.at(-1), note, frame), { note, frame });
  }
  return runs;
}

/** Notes that the way went over, where they would have been: whether they were played is settled with the tempo. */
function between(
  before: { readonly note: number; readonly frame: number } | undefined,
  note: number,
  frame: number,
): { note: number; frame: number }[] {
  if (!before) return [];
  const count = Math.max(0, note - before.note - 1);
  return Array.from({ length: count }, (_, n) => ({
    note: before.note + n + 1,
    frame: Math.round(before.frame + ((n + 1) / (count + 1)) * (frame - before.frame)),
  }));
}

interface Around extends Ground {
  readonly run: number;
  readonly end: number;
  readonly shift: number;
  readonly tuning: number;
}

function timed(
  placed: readonly { readonly note: number; readonly frame: number; readonly sure: number }[],
  { run, end, shift, tuning, ...ground }: Around,
): FollowedNote[] {
  const { heard, notes } = ground;
  const hertz = (asked: AskedNote | undefined): number | null =>
    asked?.midis[0] === undefined ? null : hertzOf(asked.midis[0] + shift + tuning / 100);
  const attacks = placed.map(({ note, frame }, n) => {
    const before = notes[placed[n - 1]?.note ?? -1];
    const seconds = frame * heard.hop;
    return attackNear(heard.sound, { seconds, hertz: hertz(notes[note]), before: hertz(before) });
  });
  const times = attacks.map(({ seconds }) => seconds);
  const clocks = placed.map(({ note }) => notes[note]?.clock ?? 0);
  const pace = localPace(clocks, times);
  return placed.map(({ note, frame, sure }, n): FollowedNote => {
    const next = times[n + 1];
    const fit = fitBetween(ground, note, [frame, placed[n + 1]?.frame ?? Math.round(end / heard.hop)]);
    const confidence = sure * (0.3 + 0.7 * fit);
    return {
      ...{ asked: note, run, seconds: times[n] ?? 0, end: next ?? end, pace: pace[n] ?? 1 },
      blur: attacks[n]?.blur ?? null,
      expected: next === undefined ? null : ((clocks[n + 1] ?? 0) - (clocks[n] ?? 0)) * (pace[n] ?? 1),
      ...{ confidence, isSure: confidence >= SURE },
    };
  });
}

/** From here on a place is sure enough for a number. */
const SURE = 0.5;

/** The share of the sounding frames of a stretch that fit a note; one where nothing sounds. */
function fitBetween(
  { likelihood: { tables, tableOf }, heard: { isSilent } }: Ground,
  note: number,
  [from, to]: readonly [from: number, to: number],
): number {
  const table = tables[tableOf[note] ?? 0];
  let [fit, sounding] = [0, 0];
  for (let frame = from + 2; frame < to - 2; frame += 1) {
    if (isSilent[frame]) continue;
    sounding += 1;
    fit += Math.exp(table?.[frame] ?? 0);
  }
  return sounding === 0 ? 1 : fit / sounding;
}

function fitOf(
  notes: readonly FollowedNote[],
  { likelihood: { tables, tableOf }, heard: { hop, frames, isSilent } }: Ground,
): number {
  let fit = 0;
  for (const { asked, seconds, end } of notes) {
    const table = tables[tableOf[asked] ?? 0];
    for (let frame = Math.round(seconds / hop); frame < end / hop; frame += 1)
      if (!isSilent[frame]) fit += Math.exp(table?.[frame] ?? 0);
  }
  let sounding = 0;
  for (let frame = 0; frame < frames; frame += 1) if (!isSilent[frame]) sounding += 1;
  return sounding === 0 ? 0 : fit / sounding;
}
