import type { Heard } from '../hear/heard.js';
import type { AskedNote } from './asked-notes.js';
import { otherDrums, type Stroke } from './drums.js';
import type { Ground } from './ground.js';
import type { GrossWish, Reached, Way } from './gross.js';
import { summed } from './worth.js';

/** An attack must be so clear, and so far from a clearer one. Units: shares of a clear attack; frames */
const CLEAR = 0.22;
const APART = 3;
/** Paces that are told apart, each so much faster than the one before. */
const PACES = 25;
const PACE_STEP = 1.06;
/** A pace may move by so many steps from note to note, each at a cost; intervals that are not exact may stray farther. */
const PACE_MOVES = 3;
/** What it costs: a pace that moves; a note left out; a stop; to go back, and on. */
const COST = {
  move: 0.55,
  leftOut: 3.5,
  pause: 6,
  back: 13,
  inside: 2,
  forward: 5,
  start: 0.4,
};
/**
 * What an attack costs that is passed over, by its strength beside that of a usual stroke and by the square of it: a clear
 * one is as seldom no note as a note is left out, a faint one may be the room. Shape: `usual` is stronger than this share
 */
const IGNORED = { plain: 1, clear: 4, usual: 0.6 };
/**
 * What a stroke of a roll costs by the square of its strength, until the roll is over: they are even, softer than what
 * begins, and never alone. Shape: `lasts` times what is written. Units: `alone` seconds to its nearer neighbour
 */
const ROLL = { stroke: 1, lasts: 1.3, alone: 0.2 };
/** What is passed over before the music and after it costs so much by its strength, for people count in, and talk. */
const OUTSIDE = { before: 0.65, after: 1.3 };
/** Intervals up to so long are looked at, and longer ones where the music has them. Units: seconds; a factor */
const WINDOW = { least: 4, most: 12, share: 1.4 };

/**
 * The likeliest way through music of which strokes are heard: by their rhythm, at a pace that may move; and once more by
 * what they sound like, where that turns out to agree with the rhythm.
 * Shape:  as Way
 * Source: Viterbi over notes, strokes and paces; after Raphael, Automatic segmentation of acoustic musical signals using
 *         hidden Markov models, IEEE TPAMI 21 (1999), from memory
 */
export function strokeWay(ground: Ground, wish: GrossWish): Way {
  const { heard, notes, likelihood } = ground;
  const strokes = strokesOf(heard);
  if (strokes.length === 0 || notes.length === 0) return { reached: [], end: 0 };
  const found = new StrokeWalk({ ...ground, strokes, wish, misfits: null }).way();
  if (likelihood.tables.length < 2) return found;
  const misfits = otherDrums(ground, found, strokes);
  return misfits ? new StrokeWalk({ ...ground, strokes, wish, misfits }).way() : found;
}

/** Peaks of what comes anew, and how clear each is beside a usual one. */
function strokesOf(heard: Heard): Stroke[] {
  const peaks = peaksOf(heard);
  const sorted = peaks.map(({ strength }) => strength).sort((a, b) => a - b);
  const usual = sorted[Math.floor(sorted.length * IGNORED.usual)] ?? 1;
  return peaks.map((peak) => ({ ...peak, clear: Math.min(1, peak.strength / usual) }));
}

function peaksOf({ flux, frames }: Heard): Omit<Stroke, 'clear'>[] {
  const found: Omit<Stroke, 'clear'>[] = [];
  for (let frame = 1; frame < frames - 1; frame += 1) {
    const here = flux[frame] ?? 0;
    if (here < CLEAR || here < (flux[frame - 1] ?? 0) || here <= (flux[frame + 1] ?? 0)) continue;
    const last = found.at(-1);
    if (last && frame - last.frame <= APART) {
      if (here > last.strength) found[found.length - 1] = { frame, strength: Math.min(1, here) };
    } else found.push({ frame, strength: Math.min(1, here) });
  }
  return found;
}

interface StrokeWish extends Ground {
  readonly strokes: readonly Stroke[];
  readonly wish: GrossWish;
  /** What it costs that a stroke is a note: by table, stroke by stroke. Null where pitches do not tell. */
  readonly misfits: readonly Float32Array[] | null;
}

class StrokeWalk {
  private readonly count: number;
  /** How far back the note before may be without a stop. Units: seconds */
  private readonly window: number;
  private readonly size: number;
  private readonly values: Float32Array[] = [];
  /** Whether the best way to each state is a jump. */
  private readonly jumped: Uint8Array[] = [];
  private readonly sources: Int32Array[] = [];
  /** Strength of all attacks before each. */
  private readonly strengths: Float64Array;
  /** What it costs that all of them belong to no note. */
  private readonly passed: Float64Array;
  /** The same where they are strokes of a roll. */
  private readonly rolled: Float64Array;
  /** The best value of each state over strokes that are long ago, and which stroke that was. */
  private readonly older: Float32Array;
  private readonly olderAt: Int32Array;
  private olderTo = 0;
  /** The best state before each stroke: a jump begins there. */
  private jump = { value: -Infinity, stroke: -1, state: -1 };

  private readonly heard: Heard;
  private readonly notes: readonly AskedNote[];
  private readonly strokes: readonly Stroke[];
  private readonly wish: GrossWish;
  private readonly misfits: readonly Float32Array[];

  constructor({ heard, notes, likelihood: { tableOf }, strokes, wish, misfits }: StrokeWish) {
    [this.heard, this.notes, this.strokes, this.wish] = [heard, notes, strokes, wish];
    const none = new Float32Array(strokes.length);
    this.misfits = notes.map((_, note) => misfits?.[tableOf[note] ?? 0] ?? none);
    this.count = notes.length;
    this.size = notes.length * PACES;
    const longest = Math.max(...notes.map(({ clock }, n) => (notes[n + 1]?.clock ?? clock) - clock));
    this.window = Math.max(WINDOW.least, Math.min(WINDOW.most, WINDOW.share * longest * wish.pace));
    this.strengths = summed(strokes.length, (k) => strokes[k]?.strength ?? 0);
    this.passed = summed(strokes.length, (k) => ignoredCost(strokes[k]));
    this.rolled = summed(strokes.length, (k) => this.rolledCost(k));
    this.older = new Float32Array(this.size).fill(-Infinity);
    this.olderAt = new Int32Array(this.size).fill(-1);
    strokes.forEach((_, k) => {
      this.step(k);
    });
  }

  private secondsAt(k: number): number {
    return (this.strokes[k]?.frame ?? 0) * this.heard.hop;
  }

  /** Attacks between two strokes that belong to no note; within a roll, while it lasts, they belong to it. */
  private ignored(from: number, to: number, note: number): number {
    if (this.notes[note]?.isOrnamented !== true) return this.lostSince(from + 1, to);
    const over = this.rollOver(from, note);
    let end = to;
    while (end > from + 1 && this.secondsAt(end - 1) > over) end -= 1;
    return (this.rolled[end] ?? 0) - (this.rolled[from + 1] ?? 0) + this.lostSince(end, to);
  }

  /** When a roll that begins with a stroke is over at the latest. Units: seconds */
  private rollOver(stroke: number, note: number): number {
    return this.secondsAt(stroke) + ROLL.lasts * (this.notes[note]?.lasts ?? 0) * this.wish.pace;
  }

  /** What it costs that a stroke is one of a roll. */
  private rolledCost(k: number): number {
    const stroke = this.strokes[k];
    const isNear = [k - 1, k + 1].some(
      (n) => this.strokes[n] && Math.abs(this.secondsAt(n) - this.secondsAt(k)) <= ROLL.alone,
    );
    return isNear ? ROLL.stroke * (stroke?.strength ?? 0) ** 2 : ignoredCost(stroke);
  }

  private step(k: number): void {
    const values = new Float32Array(this.size).fill(-Infinity);
    const jumped = new Uint8Array(this.size);
    const sources = new Int32Array(this.size).fill(-1);
    this.values.push(values);
    this.jumped.push(jumped);
    this.sources.push(sources);
    const own = this.strokes[k]?.strength ?? 0;
    this.begin(k, values);
    this.jumpTo(values, jumped, sources);
    const first = this.firstInWindow(k);
    while (this.olderTo < first) this.age(this.olderTo);
    for (let before = first; before < k; before += 1) this.link(before, k);
    this.afterPause(k, first);
    let best = -Infinity;
    let bestAt = -1;
    for (let state = 0; state < this.size; state += 1) {
      const misfit = this.misfits[Math.floor(state / PACES)]?.[k] ?? 0;
      const value = (values[state] ?? -Infinity) + own - misfit;
      values[state] = value;
      if (value > best) [best, bestAt] = [value, state];
    }
    const [stroke, note] = [this.jump.stroke, Math.floor(this.jump.state / PACES)];
    const isRoll =
      this.notes[note]?.isOrnamented === true && this.secondsAt(k) <= this.rollOver(stroke, note);
    const jump = this.jump.value - (isRoll ? this.rolledCost(k) : ignoredCost(this.strokes[k]));
    this.jump = best > jump ? { value: best, stroke: k, state: bestAt } : { ...this.jump, value: jump };
  }

  /** The music may begin with any stroke; what came before was no music. */
  private begin(k: number, values: Float32Array): void {
    const lead = -OUTSIDE.before * (this.strengths[k] ?? 0);
    const middle = stepOf(this.wish.pace);
    for (let note = 0; note < this.count; note += 1) {
      const late = note === 0 ? 0 : COST.back + (this.wish.heads.has(note) ? 0 : COST.inside);
      for (let pace = 0; pace < PACES; pace += 1)
        values[note * PACES + pace] = lead - late - COST.start * Math.abs(pace - middle);
    }
  }

  private jumpTo(values: Float32Array, jumped: Uint8Array, sources: Int32Array): void {
    const { value, stroke, state } = this.jump;
    if (state < 0) return;
    const [from, pace] = [Math.floor(state / PACES), state % PACES];
    for (let note = 0; note < this.count; note += 1) {
      if (note === from + 1) continue;
      const cost =
        COST.back + (this.wish.heads.has(note) ? 0 : COST.inside) + (note > from ? COST.forward : 0);
      const at = note * PACES + pace;
      if (value - cost <= (values[at] ?? 0)) continue;
      values[at] = value - cost;
      jumped[at] = 1;
      sources[at] = stroke * this.size + state;
    }
  }

  private firstInWindow(k: number): number {
    const from = this.secondsAt(k) - this.window;
    let first = this.olderTo;
    while (first < k && this.secondsAt(first) < from) first += 1;
    return first;
  }

  /** A stroke gets too old for an interval; it may still be the last before a stop. */
  private age(k: number): void {
    const values = this.values[k];
    const lost = ignoredCost(this.strokes[k]);
    for (let state = 0; state < this.size; state += 1) {
      const value = values?.[state] ?? -Infinity;
      const held = (this.older[state] ?? -Infinity) - lost;
      if (value >= held) [this.older[state], this.olderAt[state]] = [value, k];
      else this.older[state] = held;
    }
    this.olderTo = k + 1;
  }

  /** From notes at an earlier stroke to the next notes at this one. */
  private link(before: number, k: number): void {
    const seconds = this.secondsAt(k) - this.secondsAt(before);
    const values = this.values[before];
    if (!values) return;
    for (let note = 1; note < this.count; note += 1) {
      this.linkOne({ values, before, k, seconds, note, from: note - 1 });
      if (note > 1) this.linkOne({ values, before, k, seconds, note, from: note - 2 });
    }
  }

  private linkOne({ values, before, k, seconds, note, from }: LinkWish): void {
    const written = (this.notes[note]?.clock ?? 0) - (this.notes[from]?.clock ?? 0);
    if (written <= 0) return;
    const wanted = stepOf(seconds / written);
    const wide = loose(written);
    const moves = PACE_MOVES * wide;
    if (wanted < -moves - 1 || wanted > PACES + moves) return;
    const [now, jumped, sources] = [this.values[k], this.jumped[k], this.sources[k]];
    if (!now || !jumped || !sources) return;
    const isSkip = from < note - 1;
    const ignored = this.ignored(before, k, from) + (isSkip ? COST.leftOut : 0);
    const [low, high] = [
      Math.max(0, Math.ceil(wanted - moves)),
      Math.min(PACES - 1, Math.floor(wanted + moves)),
    ];
    for (let pace = low; pace <= high; pace += 1) {
      const far = Math.abs(pace - wanted) / wide;
      const value = (values[from * PACES + pace] ?? -Infinity) - ignored - COST.move * far * far;
      // The pace follows what was played, by half where an interval is exact.
      const next = Math.max(0, Math.min(PACES - 1, Math.round(pace + (0.5 / wide) * (wanted - pace))));
      const at = note * PACES + next;
      if (value <= (now[at] ?? -Infinity)) continue;
      now[at] = value;
      jumped[at] = 0;
      sources[at] = before * this.size + from * PACES + pace;
    }
  }

  /** The next note after a stop of any length. */
  private afterPause(k: number, first: number): void {
    const [now, jumped, sources] = [this.values[k], this.jumped[k], this.sources[k]];
    if (!now || !jumped || !sources) return;
    for (let note = 1; note < this.count; note += 1) {
      for (let pace = 0; pace < PACES; pace += 1) {
        const from = (note - 1) * PACES + pace;
        let [best, stroke] = [
          (this.older[from] ?? -Infinity) - this.lostSince(this.olderTo, k),
          this.olderAt[from] ?? -1,
        ];
        for (let before = first; before < k; before += 1) {
          const value = (this.values[before]?.[from] ?? -Infinity) - this.ignored(before, k, note - 1);
          if (value > best) [best, stroke] = [value, before];
        }
        const at = note * PACES + pace;
        if (stroke < 0 || best - COST.pause <= (now[at] ?? -Infinity)) continue;
        now[at] = best - COST.pause;
        jumped[at] = 0;
        sources[at] = stroke * this.size + from;
      }
    }
  }

  private lostSince(from: number, to: number): number {
    return (this.passed[to] ?? 0) - (this.passed[from] ?? 0);
  }

  way(): Way {
    let [k, state] = this.last();
    const end = Math.min(
      this.heard.frames,
      this.strokes[k] ? (this.strokes[k]?.frame ?? 0) + Math.round(0.4 / this.heard.hop) : 0,
    );
    const reached: Reached[] = [];
    while (k >= 0 && state >= 0) {
      const isJump = this.jumped[k]?.[state] === 1;
      reached.push({ note: Math.floor(state / PACES), frame: this.strokes[k]?.frame ?? 0, isJump });
      const source = this.sources[k]?.[state] ?? -1;
      [k, state] = source < 0 ? [-1, -1] : [Math.floor(source / this.size), source % this.size];
    }
    return { reached: reached.reverse(), end };
  }

  private last(): [stroke: number, state: number] {
    let [stroke, state, best] = [-1, -1, -Infinity];
    this.values.forEach((values, k) => {
      const rest =
        OUTSIDE.after * ((this.strengths[this.strokes.length] ?? 0) - (this.strengths[k + 1] ?? 0));
      values.forEach((value, at) => {
        const early = at >= this.size - PACES ? 0 : COST.pause;
        if (value - rest - early > best) [stroke, state, best] = [k, at, value - rest - early];
      });
    });
    return [stroke, state];
  }
}

interface LinkWish {
  readonly values: Float32Array;
  readonly before: number;
  readonly k: number;
  readonly seconds: number;
  readonly note: number;
  readonly from: number;
}

/** What it costs that an attack belongs to no note. */
function ignoredCost({ clear }: Pick<Stroke, 'clear'> = { clear: 0 }): number {
  return IGNORED.plain * clear + IGNORED.clear * clear * clear;
}

/** A pace as a step on the scale of paces: the middle is as written. Units: seconds a second of the written clock */
function stepOf(pace: number): number {
  return (PACES - 1) / 2 + Math.log(Math.max(1e-3, pace)) / Math.log(PACE_STEP);
}

/** Short intervals are less exact, as shares. Units: seconds at the written pace */
function loose(written: number): number {
  return 1 + 0.012 / Math.max(0.03, written) / (PACE_STEP - 1);
}
