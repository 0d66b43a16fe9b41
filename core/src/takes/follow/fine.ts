import type { Ground } from './ground.js';
import { SILENT } from './likelihood.js';
import { localPace } from './local-pace.js';
import { unsteadiness } from './unsteadiness.js';
import {
  attackWeight,
  beginningWorth,
  FRAME_WEIGHT,
  LEFT_OUT,
  MOST_SKIPPED,
  summed,
  WRONG_FITS,
} from './worth.js';

/** A note at its time. Units: frames; `sure` the chance that it begins within a few frames of there */
export interface Placed {
  readonly note: number;
  readonly frame: number;
  readonly sure: number;
}

/** A run through the music without a jump. */
export interface Run {
  readonly notes: readonly { readonly note: number; readonly frame: number }[];
  /** Where its last note is over. Units: frames */
  readonly end: number;
  /** Whether the player jumped to its first note. */
  readonly isJump: boolean;
}

/** Another note in the place of one, or in a part of it, costs so much at once. */
const WRONG_ENTRY = -6;
/** The first note after a jump stands where the way landed: what it costs to be so far from there. Units: seconds; log chance */
const LANDS = { seconds: 0.02, least: -10 };
/** How clear an attack counts: where the same note comes again; after a rest or a tongue; under a slur. */
const ATTACK_WEIGHT = { same: 2.2, tongued: 1.2, slurred: 0.35 };
/** A note is looked for so far around where it was found. Units: frames, and a share of the way to its neighbours */
const SEARCH = { least: 8, most: 45, share: 0.8 };
/** As near as this is the same place. Units: frames */
const NEAR = 6;

/**
 * A run placed anew: each note where pitch, attack and the tempo around it agree best, and how sure that is.
 * Shape:  as many notes as the run has
 * Source: explicit durations, forward–backward; after Cont, A coupled duration-focused architecture for real-time
 *         music-to-score alignment, IEEE TPAMI 32 (2010), from memory
 */
export function placeRun(ground: Ground, run: Run): Placed[] {
  let placed: Placed[] = run.notes.map(({ note, frame }) => ({ note, frame, sure: 0 }));
  if (placed.length === 0) return placed;
  const wrong = summed(ground.heard.frames, (n) => (ground.heard.isSilent[n] ? SILENT : WRONG_FITS));
  for (let round = 0; round < 2; round += 1)
    placed = new Lattice({
      ...ground,
      wrong,
      placed,
      end: run.end,
      landed: run.isJump ? (run.notes[0]?.frame ?? 0) : null,
    }).placed();
  return placed;
}

interface LatticeWish extends Ground {
  /** Sums up to each frame of what a wrong note is worth. */
  readonly wrong: Float64Array;
  readonly placed: readonly Placed[];
  readonly end: number;
  /** Where the player jumped to the first of them: null where nothing was played before. Units: frames */
  readonly landed: number | null;
}

/** A way into a note from one before it. Shape: `step` notes back. Units: frames */
interface Link {
  readonly step: number;
  /** What every length of the interval is worth, from one frame on. */
  readonly lengths: Float64Array;
}

/** Where each note may begin, and how well each way through these places fits. */
class Lattice {
  private readonly froms: number[];
  private readonly widths: number[];
  private readonly attacks: Float64Array[];
  private readonly sounds: Float64Array[];
  private readonly links: Link[][];
  private readonly hold: Float64Array;
  private readonly forward: Float64Array[] = [];
  private readonly backward: Float64Array[] = [];
  private readonly best: Float64Array[] = [];
  /** Where the best way came from: the place, and how many notes back. */
  private readonly came: Int16Array[] = [];
  private readonly steps: Uint8Array[] = [];

  constructor(private readonly wish: LatticeWish) {
    const { placed, notes, heard, likelihood } = wish;
    this.hold = new Float64Array(heard.frames + 1);
    const frames = placed.map(({ frame }) => frame);
    const clocks = placed.map(({ note }) => notes[note]?.clock ?? 0);
    const pace = localPace(
      clocks,
      frames.map((frame) => frame * heard.hop),
    );
    this.froms = frames.map((frame, n) => Math.max(0, frame - reach(frame - (frames[n - 1] ?? 0))));
    this.widths = frames.map((frame, n) => {
      const last = Math.min(heard.frames, frame + reach((frames[n + 1] ?? wish.end) - frame));
      return last - (this.froms[n] ?? 0) + 1;
    });
    this.sounds = placed.map(
      ({ note }) => likelihood.sums[likelihood.tableOf[note] ?? 0] ?? new Float64Array(heard.frames + 1),
    );
    this.attacks = frames.map((_, n) => this.attacksOf(n));
    this.links = frames.map((_, n) =>
      Array.from({ length: Math.min(n, 1 + MOST_SKIPPED) }, (__, k) => {
        const from = n - k - 1;
        const expected = ((clocks[n] ?? 0) - (clocks[from] ?? 0)) * (pace[from] ?? 1);
        const most = (this.froms[n] ?? 0) + (this.widths[n] ?? 0) - (this.froms[from] ?? 0);
        return {
          step: k + 1,
          lengths: unsteadiness(Math.max(1, most), expected / heard.hop, heard.hop).map(
            (one) => one + k * LEFT_OUT,
          ),
        };
      }),
    );
  }

  placed(): Placed[] {
    this.goForward();
    this.goBackward();
    return this.read();
  }

  /** What the beginning of a note is worth by itself, place by place. */
  private attacksOf(n: number): Float64Array {
    const { placed } = this.wish;
    const ends = { note: placed[n]?.note ?? 0, before: placed[n - 1]?.note ?? -1 };
    const weight = attackWeight(this.wish, ends, ATTACK_WEIGHT);
    const from = this.froms[n] ?? 0;
    return new Float64Array(this.widths[n] ?? 1).map((_, place) =>
      beginningWorth(this.wish, from + place, weight),
    );
  }

  private goForward(): void {
    for (let n = 0; n < this.wish.placed.length; n += 1) {
      const width = this.widths[n] ?? 1;
      const [best, total] = [new Float64Array(width), new Float64Array(width)];
      const [came, steps] = [new Int16Array(width), new Uint8Array(width)];
      this.best.push(best);
      this.forward.push(total);
      this.came.push(came);
      this.steps.push(steps);
      for (let place = 0; place < width; place += 1) {
        const own = this.attacks[n]?.[place] ?? 0;
        if (n === 0) {
          best[place] = own + this.lead(place);
          total[place] = own + this.lead(place);
        } else this.reach(n, place, own);
      }
    }
  }

  /** Before the first note of all nothing of it sounds; where the player jumped to it is known from what was left. */
  private lead(place: number): number {
    const [sounds, from] = [this.sounds[0], this.froms[0] ?? 0];
    const { heard, landed } = this.wish;
    if (landed === null) return FRAME_WEIGHT * ((sounds?.[from] ?? 0) - (sounds?.[from + place] ?? 0));
    return Math.max(LANDS.least, (-Math.abs(from + place - landed) * heard.hop) / LANDS.seconds);
  }

  /** The best way, and all ways, into a place of a note. */
  private reach(n: number, place: number, own: number): void {
    const frame = (this.froms[n] ?? 0) + place;
    let [most, came, back] = [-Infinity, 0, 1];
    const all = new LogSum();
    for (const { step, lengths } of this.links[n] ?? []) {
      const from = n - step;
      const start = this.froms[from] ?? 0;
      const [sounds, before, ways] = [this.sounds[from], this.forward[from], this.best[from]];
      if (!sounds || !before || !ways) continue;
      const hold = this.held(sounds, frame, start);
      const last = Math.min(before.length, frame - start);
      for (let at = 0; at < last; at += 1) {
        const length = frame - start - at;
        const value = (hold[length] ?? 0) + (lengths[length] ?? -Infinity);
        const way = (ways[at] ?? -Infinity) + value;
        if (way > most) [most, came, back] = [way, at, step];
        all.add((before[at] ?? -Infinity) + value);
      }
    }
    const [best, total, cames, steps] = [this.best[n], this.forward[n], this.came[n], this.steps[n]];
    if (!best || !total || !cames || !steps) return;
    best[place] = own + most;
    total[place] = own + all.value();
    cames[place] = came;
    steps[place] = back;
  }

  /**
   * What it is worth that a note, or another in a part of it, sounds between one frame and each up to another, before it
   * or after.
   * Shape:  by how far they are apart
   */
  private held(sounds: Float64Array, frame: number, far: number): Float64Array {
    const { hold } = this;
    const { wrong } = this.wish;
    const [own0, other0] = [sounds[frame] ?? 0, wrong[frame] ?? 0];
    const way = Math.sign(far - frame);
    let [toWrong, toOwn] = [-Infinity, -Infinity];
    for (let length = 0; length <= Math.abs(far - frame); length += 1) {
      const at = frame + way * length;
      const [own, other] = [sounds[at] ?? 0, wrong[at] ?? 0];
      toWrong = Math.max(toWrong, own - other);
      toOwn = Math.max(toOwn, other - own);
      const [from, to] = way < 0 ? [own, own0] : [own0, own];
      const [wrongFrom, wrongTo] = way < 0 ? [other, other0] : [other0, other];
      const partly = Math.max(toWrong - from + wrongTo, toOwn - wrongFrom + to);
      hold[length] = Math.max(FRAME_WEIGHT * (to - from), FRAME_WEIGHT * partly + WRONG_ENTRY);
    }
    return hold;
  }

  private goBackward(): void {
    const { placed, end } = this.wish;
    for (let n = placed.length - 1; n >= 0; n -= 1) {
      const [from, sounds] = [this.froms[n] ?? 0, this.sounds[n]];
      this.backward[n] = new Float64Array(this.widths[n] ?? 1).map((_, place) => {
        const begun = sounds?.[from + place] ?? 0;
        if (n === placed.length - 1)
          return FRAME_WEIGHT * ((sounds?.[Math.max(from + place, end)] ?? begun) - begun);
        return this.onward(n, from + place);
      });
    }
  }

  /** All ways from a place of a note to the end of the run. */
  private onward(n: number, frame: number): number {
    const sounds = this.sounds[n];
    const all = new LogSum();
    if (!sounds) return all.value();
    const last = n + 1 + MOST_SKIPPED;
    let highest = frame;
    for (let to = n + 1; to <= last; to += 1)
      highest = Math.max(highest, (this.froms[to] ?? 0) + (this.widths[to] ?? 1) - 1);
    const hold = this.held(sounds, frame, highest);
    for (let to = n + 1; to <= last; to += 1) {
      const [after, attacks, next] = [this.backward[to], this.attacks[to], this.froms[to] ?? 0];
      const lengths = this.links[to]?.[to - n - 1]?.lengths;
      if (!after || !attacks || !lengths) break;
      for (let at = Math.max(0, frame + 1 - next); at < after.length; at += 1)
        all.add(
          (hold[next + at - frame] ?? 0) +
            (lengths[next + at - frame] ?? -Infinity) +
            (attacks[at] ?? 0) +
            (after[at] ?? -Infinity),
        );
    }
    return all.value();
  }

  private read(): Placed[] {
    const { placed } = this.wish;
    const out: Placed[] = [];
    let [n, place] = [placed.length - 1, -1];
    while (n >= 0) {
      const [best, forward, backward] = [this.best[n], this.forward[n], this.backward[n]];
      if (!best || !forward || !backward) break;
      if (place < 0) place = bestOf(best.map((value, at) => value + (backward[at] ?? 0)));
      const sure = massNear(forward, backward, place);
      out.push({ note: placed[n]?.note ?? 0, frame: (this.froms[n] ?? 0) + place, sure });
      [n, place] = [n - Math.max(1, this.steps[n]?.[place] ?? 1), this.came[n]?.[place] ?? 0];
    }
    return out.reverse();
  }
}

function reach(toNeighbour: number): number {
  return Math.round(Math.max(SEARCH.least, Math.min(SEARCH.most, toNeighbour * SEARCH.share)));
}

function bestOf(values: Float64Array): number {
  return values.reduce((best, value, at) => (value > (values[best] ?? -Infinity) ? at : best), 0);
}

/** The share of all ways that begin the note near a place. */
function massNear(forward: Float64Array, backward: Float64Array, place: number): number {
  const [near, all] = [new LogSum(), new LogSum()];
  for (let at = 0; at < forward.length; at += 1) {
    const way = (forward[at] ?? -Infinity) + (backward[at] ?? -Infinity);
    all.add(way);
    if (Math.abs(at - place) <= NEAR) near.add(way);
  }
  return all.value() === -Infinity ? 0 : Math.exp(near.value() - all.value());
}

/** The logarithm of a sum of which the logarithms come one by one. */
class LogSum {
  private high = -Infinity;
  private sum = 0;

  add(value: number): void {
    if (value <= this.high) {
      if (value > this.high - 30) this.sum += Math.exp(value - this.high);
      return;
    }
    this.sum = this.high === -Infinity ? 1 : this.sum * Math.exp(this.high - value) + 1;
    this.high = value;
  }

  value(): number {
    return this.sum === 0 ? -Infinity : this.high + Math.log(this.sum);
  }
}
