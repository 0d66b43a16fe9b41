import type { Reached, Way } from './gross.js';
import type { Ground } from './ground.js';
import { SILENT } from './likelihood.js';
import { turnsOf } from './turns.js';
import { unsteadiness } from './unsteadiness.js';
import { merged, openedWindows, windowsOf, type WeighedWay, type Window } from './windows.js';
import {
  AT_NOTE,
  attackWeight,
  beginningWorth,
  FRAME_WEIGHT,
  LEFT_OUT,
  MOST_SKIPPED,
  peakAt,
  summed,
  WRONG_FITS,
} from './worth.js';

/** How clear an attack counts: where the same note comes again; after a rest or a tongue; under a slur. */
const ATTACK_WEIGHT = { same: 1.4, tongued: 1, slurred: 0.35 };
/**
 * Another note in the place of one, or in a part of it: what it costs at once, over its whole time, by the frame beyond,
 * and by each turn of its pitch, for a wrong note is one note.
 */
const WRONG = { entry: -6, whole: -4, overtime: Math.log(0.25), turn: -3 };
/** So long a wrong note lasts, what goes on is something else: a share of what is written, and so much; a long one. Units: seconds */
const WRONG_LASTS = { share: 1.5, more: 0.25, long: 1.5 };
/** Who touches a wrong note first and mends it does so within this share of its time. */
const MENDED = 0.6;
/** Who stops and goes back lets go of the note before it is long over: what it costs to hold it on. */
const OVERHELD = -5;
/** What it costs to let a clear attack pass without a note; so many times as much once the note is over: in a stop nothing begins. */
const IGNORED = -2;
const IGNORED_LATE = 3;
/** And where it begins out of a silence: no note that is held does. Shape: as above; units of the silence: frames */
const IGNORED_ANEW = 3;
const SILENCE = { before: 3, long: 8 };
/** A jump back to the beginning of a measure; into one; and forward. */
const JUMP = { back: -14, inside: -4, forward: -6 };
/** Before the first note and after the last: a count-in, talk. */
const OUTSIDE = { silent: Math.log(0.6), sounding: Math.log(0.09) };
/** A take that ends before the music does; one that begins within it. */
const ENDS_EARLY = -5;
/** So clear is what begins. Shape: share of a clear attack */
const BEGINS = 0.12;
/** Intervals between notes that are looked at. Units: seconds */
const LONGEST = 20;
/** What stands so far behind the best way of its frame is not followed. */
const HOPELESS = 24;

/**
 * The way of a take anew, now that the tempo is known: what was taken for the next note because another was put in, and
 * what was taken for a jump because one was wrong, falls into place by when it came.
 * Shape:  as Way; the way that came in where it has no notes
 * Source: Viterbi over notes with explicit durations; after Cont (2010) and Nakamura, Nakamura and Sagayama (2016), from memory
 */
export function tempoWay(ground: Ground, way: Way, heads: ReadonlySet<number>): Way {
  if (way.reached.length === 0) return way;
  const windows = windowsOf(ground, way);
  const wish = { ground, heads, turns: turnsOf(ground.heard) };
  const found = new TempoWalk({ ...wish, windows, ...habits(ground, way) }).way();
  const opened = openedWindows(ground, found);
  if (opened.length === 0) return found;
  const all = merged([...windows, ...opened]);
  return new TempoWalk({ ...wish, windows: all, ...habits(ground, found) }).way();
}

type Habits = Pick<WalkWish, 'usual' | 'clear'>;

/** How a take sounds on the whole, by a way through it. */
function habits(ground: Ground, way: Way): Habits {
  return {
    usual: Math.max(WRONG_FITS, usualFit(ground, way)),
    clear: clearShare(ground, way),
  };
}

/** The share of a way's frames, the best of them, that tells how well its notes fit where they are right. */
const RIGHT = 0.8;

/**
 * How well what sounds usually fits the notes of a way: a choir or drums never fit as a flute does.
 * Units:  log chance a frame
 */
function usualFit(
  { likelihood: { tables, tableOf }, heard: { isSilent } }: Ground,
  { reached, end }: Way,
): number {
  const fits: number[] = [];
  for (const [n, { note, frame }] of reached.entries()) {
    const table = tables[tableOf[note] ?? 0];
    for (let at = frame; at < (reached[n + 1]?.frame ?? end); at += 1)
      if (!isSilent[at]) fits.push(table?.[at] ?? 0);
  }
  fits.sort((a, b) => b - a);
  const right = fits.slice(0, Math.ceil(RIGHT * fits.length));
  return right.length === 0 ? 0 : right.reduce((sum, fit) => sum + fit, 0) / right.length;
}

/** The share of all that begins clearly that begins with a note of a way: some tones never stand still. */
function clearShare({ heard: { flux, frames } }: Ground, { reached, end }: Way): number {
  const isNote = new Uint8Array(frames);
  for (const { frame } of reached) isNote.fill(1, Math.max(0, frame - AT_NOTE), frame + AT_NOTE + 1);
  let [own, all] = [0, 0];
  for (let frame = reached[0]?.frame ?? 0; frame < end; frame += 1) {
    const peak = peakAt(flux, frame);
    all += peak;
    if (isNote[frame]) own += peak;
  }
  return all === 0 ? 1 : own / all;
}

function isAfterSilence(isSilent: Uint8Array, frame: number): boolean {
  const end = frame - SILENCE.before;
  return end >= SILENCE.long && isSilent.subarray(end - SILENCE.long, end).every((one) => one === 1);
}

/** What a way is looked for with. Units: `turns` see turnsOf, `usual` see usualFit, `clear` see clearShare */
interface WalkWish {
  readonly ground: Ground;
  readonly windows: readonly Window[];
  readonly heads: ReadonlySet<number>;
  readonly turns: Uint8Array;
  readonly usual: number;
  readonly clear: number;
}

const NONE = -1;
const START = -2;

class TempoWalk {
  private readonly frames: number;
  /** The best way to each place: window by window. */
  private readonly values: Float64Array[];
  /** Where it came from: a window, and a frame; and whether by a jump. */
  private readonly cameWindow: Int32Array[];
  private readonly cameFrame: Int32Array[];
  private readonly isJump: Uint8Array[];
  private readonly ofNote: number[][];
  /** Sums up to each frame: of each table; of a wrong note, and beyond its time; of attacks that no note has; of what is outside. */
  private readonly tables: Float64Array[];
  private readonly wrong: Float64Array;
  private readonly overtime: Float64Array;
  private readonly passed: Float64Array;
  /** Whether something begins near a frame: who goes back begins a note. */
  private readonly attacks: Uint8Array;
  private readonly outside: Float64Array;
  /** The best way that may jump at each frame. */
  private readonly leave: Float64Array;
  private readonly leaveWindow: Int32Array;
  private readonly leaveFrame: Int32Array;
  private readonly hold: Float64Array;
  private readonly shapes = new Map<string, Float64Array>();

  private readonly ground: Ground;
  private readonly windows: readonly Window[];
  private readonly heads: ReadonlySet<number>;

  constructor({ ground, windows, heads, turns, usual, clear }: WalkWish) {
    [this.ground, this.windows, this.heads] = [ground, windows, heads];
    const { heard, likelihood } = ground;
    const { frames, isSilent } = heard;
    this.frames = frames;
    const widths = windows.map(({ from, to }) => to - from + 1);
    this.values = widths.map((width) => new Float64Array(width).fill(-Infinity));
    this.cameWindow = widths.map((width) => new Int32Array(width).fill(NONE));
    this.cameFrame = widths.map((width) => new Int32Array(width));
    this.isJump = widths.map((width) => new Uint8Array(width));
    this.ofNote = ground.notes.map(() => []);
    windows.forEach(({ note }, n) => this.ofNote[note]?.push(n));
    const ignored = IGNORED * clear;
    this.tables = likelihood.sums.map((sum) => sum.map((one) => FRAME_WEIGHT * one));
    this.wrong = summed(
      frames,
      (n) => FRAME_WEIGHT * (isSilent[n] ? SILENT : usual) + WRONG.turn * (turns[n] ?? 0),
    );
    this.overtime = summed(frames, (n) => (isSilent[n] ? 0 : FRAME_WEIGHT * WRONG.overtime));
    this.passed = summed(frames, (n) => {
      const peak = peakAt(heard.flux, n);
      return ignored * peak * (peak > 0 && isAfterSilence(isSilent, n) ? IGNORED_ANEW : 1);
    });
    this.outside = summed(
      frames,
      (n) =>
        FRAME_WEIGHT * (isSilent[n] ? OUTSIDE.silent : OUTSIDE.sounding) + ignored * peakAt(heard.flux, n),
    );
    this.attacks = Uint8Array.from(heard.flux, (_, n) =>
      Math.max(heard.flux[n - 1] ?? 0, heard.flux[n] ?? 0, heard.flux[n + 1] ?? 0) >= BEGINS ? 1 : 0,
    );
    this.leave = new Float64Array(frames + 1).fill(-Infinity);
    this.leaveWindow = new Int32Array(frames + 1);
    this.leaveFrame = new Int32Array(frames + 1);
    this.hold = new Float64Array(frames + 1);
    this.walk();
  }

  private walk(): void {
    const starting = this.windows.map((_, n) => n).sort((a, b) => this.from(a) - this.from(b));
    let next = 0;
    let open: number[] = [];
    for (let frame = 0; frame < this.frames; frame += 1) {
      while (next < starting.length && this.from(starting[next] ?? 0) <= frame) {
        open.push(starting[next] ?? 0);
        next += 1;
      }
      open = open.filter((window) => (this.windows[window]?.to ?? 0) >= frame);
      for (const window of open) this.enter(window, frame);
      for (const window of open) this.goOn(window, frame);
    }
  }

  private from(window: number): number {
    return this.windows[window]?.from ?? 0;
  }

  /** What a place is worth by itself, and whether the take begins there or jumps to it. */
  private enter(window: number, frame: number): void {
    const { note, from } = this.windows[window] ?? { note: 0, from: 0 };
    const [values, at] = [this.values[window], frame - from];
    if (!values) return;
    const inside = this.heads.has(note) ? 0 : JUMP.inside;
    const begins = (this.outside[frame] ?? 0) + (note === 0 ? 0 : JUMP.back + inside);
    if (begins > (values[at] ?? 0))
      this.set(window, at, { value: begins, window: START, frame: 0, isJump: false });
    const source = this.leaveWindow[frame] ?? 0;
    const left = this.windows[source]?.note ?? 0;
    if (note !== left + 1 && this.attacks[frame] === 1) {
      const value = (this.leave[frame] ?? 0) + JUMP.back + inside + (note > left ? JUMP.forward : 0);
      if (value > (values[at] ?? 0))
        this.set(window, at, { value, window: source, frame: this.leaveFrame[frame] ?? 0, isJump: true });
    }
    values[at] = (values[at] ?? 0) + this.attack(note, frame);
  }

  private set(window: number, at: number, came: Came): void {
    const [values, windows, frames, jumped] = [
      this.values[window],
      this.cameWindow[window],
      this.cameFrame[window],
      this.isJump[window],
    ];
    if (!values || !windows || !frames || !jumped) return;
    values[at] = came.value;
    windows[at] = came.window;
    frames[at] = came.frame;
    jumped[at] = came.isJump ? 1 : 0;
  }

  private attack(note: number, frame: number): number {
    const weight = attackWeight(this.ground, { note, before: note - 1 }, ATTACK_WEIGHT);
    return beginningWorth(this.ground, frame, weight);
  }

  /** From a place of a note to every place of the notes after it. */
  private goOn(window: number, frame: number): void {
    const { note, from, pace } = this.windows[window] ?? { note: 0, from: 0, pace: 1 };
    const own = this.values[window]?.[frame - from] ?? -Infinity;
    if (own < (this.leave[frame] ?? 0) - HOPELESS) return;
    const { notes, heard } = this.ground;
    let last = frame + 1;
    for (let step = 1; step <= 1 + MOST_SKIPPED; step += 1)
      for (const next of this.ofNote[note + step] ?? []) {
        const to = this.windows[next]?.to ?? 0;
        if (this.from(next) - frame < LONGEST / heard.hop) last = Math.max(last, to);
      }
    const awaited = Math.max(2, ((notes[note]?.lasts ?? 0.5) * pace) / heard.hop);
    last = Math.min(this.frames, Math.max(last, Math.round(frame + 3 * awaited)));
    last = this.fillHold(note, frame, { last, awaited, own });
    for (let step = 1; step <= 1 + MOST_SKIPPED; step += 1) {
      const after = notes[note + step];
      if (!after) break;
      const written = (after.clock - (notes[note]?.clock ?? 0)) * pace;
      const shape = this.shape(written / heard.hop);
      const skipped = (step - 1) * LEFT_OUT;
      for (const next of this.ofNote[note + step] ?? [])
        this.push(next, { window, frame, own: own + skipped, shape, last });
    }
    this.pushLeave(window, { frame, own, awaited, last });
  }

  private push(next: number, { window, frame, own, shape, last }: Push): void {
    const { from = 0, to = 0 } = this.windows[next] ?? {};
    const [values, cameWindow, cameFrame] = [this.values[next], this.cameWindow[next], this.cameFrame[next]];
    if (!values || !cameWindow || !cameFrame) return;
    const end = Math.min(to, last);
    const most = shape.length - 1;
    for (let at = Math.max(from, frame + 1); at <= end; at += 1) {
      const value = own + (this.hold[at - frame] ?? 0) + (shape[Math.min(most, at - frame)] ?? 0);
      if (value <= (values[at - from] ?? 0)) continue;
      values[at - from] = value;
      cameWindow[at - from] = window;
      cameFrame[at - from] = frame;
    }
  }

  /** Who goes back has played some of the note. */
  private pushLeave(
    window: number,
    {
      frame,
      own,
      awaited,
      last,
    }: { readonly frame: number; readonly own: number; readonly awaited: number; readonly last: number },
  ): void {
    const due = this.dueAfter(frame, awaited);
    const due0 = this.overtime[due] ?? 0;
    for (let at = frame + Math.ceil(Math.min(0.3 * awaited, 10)); at <= last; at += 1) {
      const over = at > due ? Math.max(OVERHELD, (this.overtime[at] ?? 0) - due0) : 0;
      const value = own + (this.hold[at - frame] ?? 0) + over;
      if (value <= (this.leave[at] ?? 0)) continue;
      this.leave[at] = value;
      this.leaveWindow[at] = window;
      this.leaveFrame[at] = frame;
    }
  }

  /**
   * What it is worth that a note, or another in its place or in a part of it, sounds from a frame to each after it.
   * Shape:  gives the last frame that is worth going on from
   */
  private fillHold(note: number, frame: number, { last, awaited, own: before = Infinity }: HoldWish): number {
    const table = this.tables[this.ground.likelihood.tableOf[note] ?? 0];
    if (!table) return frame;
    const { wrong, passed, hold, leave } = this;
    const busy = this.ground.notes[note]?.isOrnamented ? 0 : 1;
    const slope = WRONG.whole / Math.min(awaited, WRONG_LASTS.long / this.ground.heard.hop);
    const [own0, wrong0] = [table[frame] ?? 0, wrong[frame] ?? 0];
    const passed0 = passed[Math.min(this.frames, frame + AT_NOTE + 1)] ?? 0;
    // The best place to change from the own pitch to another, and back.
    let [toWrong, toOwn] = [own0 - wrong0, wrong0 - own0];
    const due = this.dueAfter(frame, awaited);
    const mended = frame + Math.round(MENDED * awaited);
    const due0 = this.overtime[due] ?? 0;
    const passedDue = passed[due] ?? 0;
    for (let at = frame + 1; at <= last; at += 1) {
      const [own, other] = [table[at] ?? 0, (wrong[at] ?? 0) + slope * (at - frame)];
      const gone = passed[Math.max(0, at - AT_NOTE)] ?? 0;
      const late = at > due ? (IGNORED_LATE - 1) * Math.min(0, gone - passedDue) : 0;
      const ignored = busy * Math.min(0, gone - passed0) + late;
      const whole = own - own0;
      const begun = toWrong - own0 + other + WRONG.entry;
      const early = toOwn - wrong0 + own + WRONG.entry;
      const over = at > due ? (this.overtime[at] ?? 0) - due0 : 0;
      const value = Math.max(whole, begun + over, early) + ignored;
      hold[at - frame] = value;
      if (before + value < (leave[at] ?? 0) - 2 * HOPELESS) return at;
      toWrong = Math.max(toWrong, own - other);
      if (at <= mended) toOwn = Math.max(toOwn, other - own);
    }
    return last;
  }

  /** When a note that began in a frame is over at the latest, if nobody stops in it. Units: frames */
  private dueAfter(frame: number, awaited: number): number {
    const lasts = WRONG_LASTS.share * awaited + WRONG_LASTS.more / this.ground.heard.hop;
    return Math.min(this.frames, frame + Math.round(lasts));
  }

  /** What an interval is worth beside the tempo around it, by its length. Units: frames */
  private shape(awaited: number): Float64Array {
    const key = awaited.toFixed(1);
    const known = this.shapes.get(key);
    if (known) return known;
    const shape = unsteadiness(Math.ceil(awaited * 4 + 200), awaited, this.ground.heard.hop);
    this.shapes.set(key, shape);
    return shape;
  }

  way(): WeighedWay {
    const [window0, frame0, end] = this.last();
    let [window, frame] = [window0, frame0];
    const reached: Reached[] = [];
    const worth: number[] = [];
    while (window >= 0) {
      const { note = 0, from = 0 } = this.windows[window] ?? {};
      reached.push({ note, frame, isJump: this.isJump[window]?.[frame - from] === 1 });
      worth.push(this.values[window]?.[frame - from] ?? -Infinity);
      const [before, at] = [
        this.cameWindow[window]?.[frame - from] ?? NONE,
        this.cameFrame[window]?.[frame - from] ?? 0,
      ];
      [window, frame] = [before, at];
    }
    return { reached: reached.reverse(), end, worth: worth.reverse() };
  }

  /** Where the take most likely ends. */
  private last(): [window: number, frame: number, end: number] {
    const { notes, heard } = this.ground;
    let found: [number, number, number] = [NONE, 0, 0];
    let best = -Infinity;
    const all = this.outside[this.frames] ?? 0;
    for (let window = this.windows.length - 1; window >= 0; window -= 1) {
      const { note = 0, from = 0, pace = 1 } = this.windows[window] ?? {};
      const lasts = Math.max(3, Math.round(((notes[note]?.lasts ?? 0.5) * pace) / heard.hop));
      const early = note === notes.length - 1 ? 0 : ENDS_EARLY;
      this.values[window]?.forEach((own, at) => {
        const frame = from + at;
        const last = Math.min(this.frames, frame + 2 * lasts);
        // No ending of it can be worth more.
        if (own + early + all - (this.outside[last] ?? 0) <= best) return;
        this.fillHold(note, frame, { last, awaited: lasts });
        for (let end = frame + Math.min(lasts >> 1, last - frame); end <= last; end += 1) {
          const value = own + early + (this.hold[end - frame] ?? 0) + all - (this.outside[end] ?? 0);
          if (value > best) [best, found] = [value, [window, frame, end]];
        }
      });
    }
    return found;
  }
}

/** How a place was reached. Shape: `window` START where the take begins there */
interface Came {
  readonly value: number;
  readonly window: number;
  readonly frame: number;
  readonly isJump: boolean;
}

/** How long a note is held. Units: frames; `own` what its place is worth, where hopeless ways need not be filled */
interface HoldWish {
  readonly last: number;
  readonly awaited: number;
  readonly own?: number;
}

interface Push {
  readonly window: number;
  readonly frame: number;
  readonly own: number;
  readonly shape: Float64Array;
  readonly last: number;
}
