import type { Heard } from '../hear/heard.js';
import type { Ground, Likelihood } from './ground.js';
import { peakAt } from './worth.js';

/** A note that was reached. Shape: `note` its place in the asked notes; whether the player jumped to it. Units: frames */
export interface Reached {
  readonly note: number;
  readonly frame: number;
  readonly isJump: boolean;
}

/** The way of a take through the music. Units: frames; `fit` the mean log chance of the frames that sound */
export interface Way {
  readonly reached: readonly Reached[];
  readonly end: number;
}

const { log } = Math;
/** Frames overlap, so that each says only a part of something new (our own). */
const FRAME_WEIGHT = 0.4;
/** A silent frame between notes, and one that sounds there. */
const GAP = { silent: log(0.9), sounding: log(0.03) };
/** Another note in the place of one: what it costs at once, and by the frame. */
const WRONG = { entry: -4, sounding: log(0.5), silent: log(0.1), staying: 3 };
/** Before the first note: a count-in, talk. */
const BEFORE = { silent: log(0.6), sounding: log(0.09) };
/** A silent frame within a note. */
const HUSH = log(0.08);
/** What is left of an attack's chance where other pitches come anew. */
const OWN = 0.25;
/** An attack so faint says nothing of its pitch. */
const FAINTEST = 0.05;
/** What it costs to let a clear attack pass without a note. */
const IGNORED = -1.5;
/** A jump back to the beginning of a measure; into one; and forward. */
const JUMP = { back: -27, inside: -4, forward: -8 };
/** From a note to the next: short notes follow each other more readily. */
const LEAVE = { least: -0.7, longer: 0.2 };
/** From the end of a note: into silence, over the next note. */
const LEAVE_TO_GAP = log(0.08);
const SKIP = log(0.004);
/** A take that ends before the music does. */
const ENDS_EARLY = -6;
/** How clear an attack must be where the same note comes again: with none, so much of a chance is left. */
const FAINT = { same: 0.015, other: 0.35 };

/** What is looked for. Units: seconds a second of the written clock */
export interface GrossWish {
  readonly pace: number;
  /** Notes at which a measure begins. */
  readonly heads: ReadonlySet<number>;
}

/**
 * The likeliest way through the music, note by note: the player may pause anywhere, go back, leave something out.
 * Shape:  notes in the order in which they were reached
 * Source: Viterbi over notes and the gaps after them; after Nakamura, Nakamura and Sagayama, Real-time audio-to-score
 *         alignment of music performances containing errors and arbitrary repeats and skips, IEEE TASLP 24 (2016), from memory
 */
export function grossWay(ground: Ground, wish: GrossWish): Way {
  const walk = new Walk(ground, wish);
  for (let frame = 0; frame < ground.heard.frames; frame += 1) walk.step(frame);
  return walk.way();
}

/** Of each note three states: it sounds, another sounds in its place, and what is after it before the next. */
const enum Kind {
  Sounds,
  Wrong,
  Gap,
}
const KINDS = 3;

/** How a state was reached. Shape: Self stays; Note, Wrong and Gap come from the note before; Own from the note itself. */
const enum From {
  Self,
  Note,
  Wrong,
  Gap,
  Skip,
  Jump,
  Start,
  Own,
  OwnWrong,
}

/** What holds for every note of a frame. Units: log chances */
interface Moment {
  readonly frame: number;
  readonly isSilent: boolean;
  readonly attack: number;
  readonly jumpBest: number;
  readonly jumpNote: number;
  readonly same: number;
  readonly other: number;
  readonly ignored: number;
}

const NO_MOMENT: Moment = {
  ...{ frame: 0, isSilent: true, attack: 0, jumpBest: -Infinity, jumpNote: 0, same: 0, other: 0, ignored: 0 },
};

class Walk {
  private readonly count: number;
  /** The best way to each state: note by note, three each. */
  private now: Float64Array;
  private next: Float64Array;
  private before = 0;
  private readonly from: Uint8Array;
  /** The state at which a jump of each frame began. */
  private readonly jumps: Int32Array;
  private readonly stay: Float64Array;
  private readonly stayWrong: Float64Array;
  private readonly leave: Float64Array;
  private readonly gapStay: Float64Array;
  private readonly isSame: Uint8Array;
  private readonly entry: Float64Array;
  /** Notes within which other attacks are expected. */
  private readonly isBusy: Uint8Array;

  private readonly heard: Heard;
  private readonly likelihood: Likelihood;
  /** What the best way into a note is worth. */
  private into = 0;
  /** What an attack of this frame is worth to each note, by the pitches that come anew. */
  private readonly ownRise: Float64Array;
  /** What holds for every note of a frame. */
  private moment: Moment = NO_MOMENT;

  constructor({ heard, notes, likelihood }: Ground, { pace, heads }: GrossWish) {
    [this.heard, this.likelihood] = [heard, likelihood];
    const count = notes.length;
    this.count = count;
    this.now = new Float64Array(KINDS * count).fill(-Infinity);
    this.next = new Float64Array(KINDS * count);
    this.ownRise = new Float64Array(count);
    this.from = new Uint8Array(heard.frames * count * KINDS);
    this.jumps = new Int32Array(heard.frames);
    const framesOf = (seconds: number): number => Math.max(1.2, (seconds * pace) / heard.hop);
    this.stay = Float64Array.from(notes, ({ lasts }) => 0.5 * log(1 - 1 / framesOf(lasts)));
    this.stayWrong = Float64Array.from(notes, ({ lasts }) => -WRONG.staying / framesOf(lasts));
    this.leave = Float64Array.from(notes, ({ lasts }) => LEAVE.least - LEAVE.longer * log(framesOf(lasts)));
    this.gapStay = Float64Array.from(notes, (note, n) => {
      const rest = (notes[n + 1]?.clock ?? Infinity) - note.clock - note.lasts;
      return log(1 - 1 / Math.max(8, framesOf(Math.min(rest, 60))));
    });
    this.isSame = Uint8Array.from(notes, (_, n) =>
      likelihood.tableOf[n] === likelihood.tableOf[n - 1] ? 1 : 0,
    );
    this.isBusy = Uint8Array.from(notes, ({ isOrnamented }) => (isOrnamented ? 1 : 0));
    this.entry = Float64Array.from(notes, (_, n) => JUMP.back + (heads.has(n) ? 0 : JUMP.inside));
  }

  step(frame: number): void {
    const { heard } = this;
    const isSilent = heard.isSilent[frame] === 1;
    const flux = Math.max(heard.flux[frame - 1] ?? 0, heard.flux[frame] ?? 0, heard.flux[frame + 1] ?? 0);
    const attack = Math.min(1, flux);
    const [jumpFrom, jumpBest] = this.jumpSource();
    this.jumps[frame] = jumpFrom;
    this.moment = {
      ...{ frame, isSilent, attack, jumpBest, jumpNote: Math.floor(jumpFrom / KINDS) },
      same: log(FAINT.same + (1 - FAINT.same) * attack),
      other: log(FAINT.other + (1 - FAINT.other) * attack),
      ignored: IGNORED * peakAt(heard.flux, frame),
    };
    if (attack >= FAINTEST) this.weighRises(frame);
    for (let n = 0; n < this.count; n += 1) {
      const row = frame * this.count * KINDS + KINDS * n;
      this.sound(n, row);
      this.rest(n, row);
    }
    this.before += FRAME_WEIGHT * (isSilent ? BEFORE.silent : BEFORE.sounding) + this.moment.ignored;
    [this.now, this.next] = [this.next, this.now];
  }

  private weighRises(frame: number): void {
    const { rises, tableOf } = this.likelihood;
    const worth = rises.map((rise) => log(OWN + (1 - OWN) * (rise[frame] ?? 1)));
    for (let n = 0; n < this.count; n += 1) this.ownRise[n] = worth[tableOf[n] ?? 0] ?? 0;
  }

  /** A note sounds, or another in its place. */
  private sound(n: number, row: number): void {
    const { now, next, likelihood, moment } = this;
    const how = this.wayInto(n);
    const { into } = this;
    const own = KINDS * n;
    const passed = this.isBusy[n] ? 0 : moment.ignored;
    const table = likelihood.tables[likelihood.tableOf[n] ?? 0];
    const staying = (now[own] ?? 0) + (this.stay[n] ?? 0) + passed;
    next[own] =
      Math.max(into, staying) + FRAME_WEIGHT * (moment.isSilent ? HUSH : (table?.[moment.frame] ?? 0));
    this.from[row] = into > staying ? how : From.Self;
    const stayingWrong = (now[own + 1] ?? 0) + (this.stayWrong[n] ?? 0) + passed;
    const goingWrong = into + WRONG.entry;
    const wrong = moment.isSilent ? WRONG.silent : WRONG.sounding;
    next[own + 1] = Math.max(goingWrong, stayingWrong) + FRAME_WEIGHT * wrong;
    this.from[row + 1] = goingWrong > stayingWrong ? how : From.Self;
  }

  /** The best way into a note, whichever way it is then played. Written out, because it is walked millions of times. */
  private wayInto(n: number): From {
    const { now, moment } = this;
    const last = KINDS * (n - 1);
    const leave = this.leave[n - 1] ?? 0;
    let into = this.before - 3 + (n === 0 ? 0 : (this.entry[n] ?? 0));
    let how: From = From.Start;
    if (n > 0) {
      const step = (now[last] ?? 0) + leave + (this.isSame[n] ? moment.same - moment.other : 0);
      if (step > into) [into, how] = [step, From.Note];
      const wrong = (now[last + 1] ?? 0) + leave;
      if (wrong > into) [into, how] = [wrong, From.Wrong];
      const gap = (now[last + 2] ?? 0) - 2.5;
      if (gap > into) [into, how] = [gap, From.Gap];
    }
    if (n > 1) {
      const skip = (now[last - KINDS] ?? 0) + (this.leave[n - 2] ?? 0) + SKIP;
      if (skip > into) [into, how] = [skip, From.Skip];
    }
    if (n !== moment.jumpNote + 1) {
      const jump = moment.jumpBest + (this.entry[n] ?? 0) + (n > moment.jumpNote ? JUMP.forward : 0);
      if (jump > into) [into, how] = [jump, From.Jump];
    }
    // An attack of another pitch is not its own.
    const own = moment.attack < FAINTEST ? 0 : moment.attack * (this.ownRise[n] ?? 0);
    this.into = into + moment.other + own;
    return how;
  }

  /** After a note, before the next. */
  private rest(n: number, row: number): void {
    const { now, next, moment } = this;
    const own = KINDS * n;
    const leave = (this.leave[n] ?? 0) + LEAVE_TO_GAP;
    const resting = (now[own + 2] ?? 0) + (this.gapStay[n] ?? 0) + moment.ignored;
    const [fall, fallWrong] = [(now[own] ?? 0) + leave, (now[own + 1] ?? 0) + leave];
    const sounding = n === this.count - 1 ? BEFORE.sounding : GAP.sounding;
    next[own + 2] =
      Math.max(resting, fall, fallWrong) + FRAME_WEIGHT * (moment.isSilent ? GAP.silent : sounding);
    const falls = fall >= fallWrong ? From.Own : From.OwnWrong;
    this.from[row + 2] = resting >= fall && resting >= fallWrong ? From.Self : falls;
  }

  /** Where a jump begins that comes now: a player who goes back stops first, if only for a moment. */
  private jumpSource(): [from: number, best: number] {
    const { now } = this;
    let [from, best] = [0, -Infinity];
    for (let n = 0; n < this.count; n += 1) {
      const leave = (this.leave[n] ?? 0) - 3;
      for (let kind: Kind = Kind.Sounds; kind < KINDS; kind += 1) {
        const value = (now[KINDS * n + kind] ?? 0) + (kind === Kind.Gap ? -1.5 : leave);
        if (value > best) [from, best] = [KINDS * n + kind, value];
      }
    }
    return [from, best];
  }

  way(): Way {
    const reached: Reached[] = [];
    let state = this.last();
    let end = -1;
    for (let frame = this.heard.frames - 1; frame >= 0 && state >= 0; frame -= 1) {
      const note = Math.floor(state / KINDS);
      const kind: Kind = state % KINDS;
      const how: From = this.from[frame * this.count * KINDS + state] ?? From.Self;
      if (kind === Kind.Gap) {
        if (how !== From.Self) state = KINDS * note + (how === From.Own ? Kind.Sounds : Kind.Wrong);
        continue;
      }
      if (end < 0) end = frame + 1;
      if (how === From.Self) continue;
      reached.push({ note, frame, isJump: how === From.Jump });
      if (how === From.Start) break;
      state = this.cameFrom(note, how, frame);
    }
    return { reached: reached.reverse(), end: Math.max(0, end) };
  }

  private cameFrom(note: number, how: From, frame: number): number {
    if (how === From.Note) return KINDS * (note - 1) + Kind.Sounds;
    if (how === From.Wrong) return KINDS * (note - 1) + Kind.Wrong;
    if (how === From.Gap) return KINDS * (note - 1) + Kind.Gap;
    if (how === From.Skip) return KINDS * (note - 2) + Kind.Sounds;
    return this.jumps[frame] ?? 0;
  }

  /** Where the take most likely ends; the end of the music is nearer than any other place. */
  private last(): number {
    let [state, best] = [-1, this.before - 20];
    this.now.forEach((value, at) => {
      const near = value + (at >= KINDS * (this.count - 1) ? 0 : ENDS_EARLY);
      if (near > best) [state, best] = [at, near];
    });
    return state;
  }
}
