import type { Way } from './gross.js';
import type { Ground } from './ground.js';

/** An attack that stands out. Shape: `clear` its strength beside that of a usual stroke. Units: frames; 0 to 1 */
export interface Stroke {
  readonly frame: number;
  readonly strength: number;
  readonly clear: number;
}

/** What tells so much of the drum is listened to; what the sound of another one then costs, where it tells all. */
const TELLS = { least: 0.3, other: 3 };
/** The pitch of a stroke is heard from here to there after it; what is so alike may be it too. Units: frames; log chance */
const RINGS = { from: 2, to: 14, alike: 0.3 };
/** Its colour is what comes anew from here to there; what is so alike may be the same. Units: frames; cosine */
const COLOUR = { from: -1, to: 8, alike: 0.02 };

/**
 * What it costs that each stroke is a note of another drum, or of another of its pitches: by the pitches that are asked,
 * or by what each drum sounds like in this take, whichever agrees better with a way that knows only the rhythm.
 * Shape:  by table, stroke by stroke; null where neither tells
 */
export function otherDrums(ground: Ground, found: Way, strokes: readonly Stroke[]): Float32Array[] | null {
  const at = new Map(strokes.map(({ frame }, k) => [frame, k]));
  const struck = found.reached.map(({ note, frame }): Struck => ({ note, k: at.get(frame) ?? -1 }));
  const told = [misfitsOf(ground, strokes), learntMisfits(ground, struck, strokes)].map((misfits) => ({
    misfits,
    telling: tellingOf(ground, struck, misfits),
  }));
  const [best] = told.sort((a, b) => b.telling - a.telling);
  if (!best || best.telling < TELLS.least) return null;
  return best.misfits.map((one) => one.map((misfit) => misfit * best.telling * TELLS.other));
}

/** A note of a way, and its place among the strokes. */
interface Struck {
  readonly note: number;
  readonly k: number;
}

/** Which notes each stroke is not, by pitch. Shape: by table, stroke by stroke: 0 for the one that fits best, else 1 */
function misfitsOf(
  { heard, likelihood: { tables, sums } }: Ground,
  strokes: readonly Stroke[],
): Float32Array[] {
  const fits = strokes.map(({ frame }, k) => {
    const to = Math.min(heard.frames, frame + RINGS.to, strokes[k + 1]?.frame ?? heard.frames);
    const from = Math.min(to - 1, frame + RINGS.from);
    return sums.map((sum) => ((sum[to] ?? 0) - (sum[from] ?? 0)) / (to - from));
  });
  const best = fits.map((fit) => Math.max(...fit));
  return tables.map((_, table) =>
    Float32Array.from(fits, (fit, k) => ((fit[table] ?? 0) >= (best[k] ?? 0) - RINGS.alike ? 0 : 1)),
  );
}

/** The same by what the other strokes of each drum sound like, as a way gives them to it. Shape: as misfitsOf */
function learntMisfits(
  ground: Ground,
  struck: readonly Struck[],
  strokes: readonly Stroke[],
): Float32Array[] {
  const { tableOf, tables } = ground.likelihood;
  const names = ground.notes.map(({ midis }) => midis.join(' '));
  const drums = [...new Set(names)];
  const drumOfNote = names.map((name) => drums.indexOf(name));
  const colours = coloursOf(ground, strokes);
  const own = new Int32Array(strokes.length).fill(-1);
  const sums = drums.map(() => new Float64Array(colours[0]?.length ?? 0));
  for (const { note, k } of struck) {
    own[k] = drumOfNote[note] ?? -1;
    const sum = sums[drumOfNote[note] ?? -1] ?? [];
    colours[k]?.forEach((one, n) => {
      sum[n] = (sum[n] ?? 0) + one;
    });
  }
  const likes = colours.map((colour, k) => sums.map((sum, drum) => alike(colour, sum, own[k] === drum)));
  return tables.map((_, table) => {
    const drum = drumOfNote[tableOf.indexOf(table)] ?? 0;
    return Float32Array.from(likes, (like) =>
      (like[drum] ?? 0) >= Math.max(...like) - COLOUR.alike ? 0 : 1,
    );
  });
}

/** What each stroke sounds like: what comes anew with it, pitch by pitch. Shape: of length one */
function coloursOf({ heard: { salience, frames } }: Ground, strokes: readonly Stroke[]): Float32Array[] {
  return strokes.map(({ frame }) => {
    const colour = new Float32Array(salience?.count ?? 0);
    const [from, to] = [Math.max(0, frame + COLOUR.from), Math.min(frames, frame + COLOUR.to)];
    for (let at = from; at < to; at += 1)
      for (let n = 0; n < colour.length; n += 1)
        colour[n] = Math.max(colour[n] ?? 0, salience?.rise[at * colour.length + n] ?? 0);
    const length = Math.hypot(...colour);
    return colour.map((one) => one / Math.max(1e-9, length));
  });
}

/** How alike a colour is to a sum of colours, of which it may be one itself. Shape: cosine */
function alike(colour: Float32Array, sum: Float64Array, isOwn: boolean): number {
  let [dot, square] = [0, 0];
  sum.forEach((all, n) => {
    const one = colour[n] ?? 0;
    const others = all - (isOwn ? one : 0);
    dot += others * one;
    square += others * others;
  });
  return dot / Math.max(1e-9, Math.sqrt(square));
}

/** How far what strokes sound like agrees with the notes of a way. Shape: 0 as by chance, 1 always */
function tellingOf(
  { likelihood: { tableOf } }: Ground,
  struck: readonly Struck[],
  misfits: readonly Float32Array[],
): number {
  if (struck.length === 0) return 0;
  const right = struck.filter(({ note, k }) => misfits[tableOf[note] ?? 0]?.[k] === 0);
  const among = misfits.map((one) => one.filter((misfit) => misfit === 0).length / one.length);
  const chance = struck.reduce((sum, { note }) => sum + (among[tableOf[note] ?? 0] ?? 0), 0) / struck.length;
  return chance >= 1 ? 0 : Math.max(0, (right.length / struck.length - chance) / (1 - chance));
}
