/**
 * Sound as it is handed over, piece by piece.
 * Shape:  `skipped` samples among them, or before them, that never came, silence in their place; no samples in a last one
 *         that only ends
 * Units:  samples; `rate` samples a second
 */
export interface Block {
  readonly samples: Float32Array<ArrayBuffer>;
  readonly skipped: number;
  readonly rate: number;
  readonly isLast: boolean;
}

/** A block is about a tenth of a second. Units: samples */
const BLOCK = 4096;
/** A piece may come later than usual by less than this; one that stays late stands after something that never came. Units: seconds */
const LATE = 0.005;
/** Clocks of microphone and machine drift apart; so much of it is taken up with each piece. */
const DRIFT = 0.02;

/** A piece that came. Units: samples; by how many seconds later than the one before promised */
interface Piece {
  readonly samples: Float32Array;
  readonly late: number;
}

/**
 * Blocks of what a microphone's track hands over. What its clock skipped is silence, so that the time of the rest stays
 * right, and is counted.
 */
export class TrackBlocks {
  private readonly block = new Float32Array(BLOCK);
  private at = 0;
  private skipped = 0;
  private rate = 0;
  /** When the next piece is due. Units: seconds on the track's own clock */
  private due: number | null = null;
  /** The newest piece: whether something is missing before it, the next one says. */
  private newest: Piece | null = null;

  constructor(private readonly take: (block: Block) => void) {}

  /** The next piece of the track; several channels become one. */
  add(piece: AudioData): void {
    const seconds = piece.timestamp / 1e6;
    this.rate = piece.sampleRate;
    let late = this.due === null ? 0 : seconds - this.due;
    const missing = Math.min(this.newest?.late ?? 0, late);
    if (missing > LATE) {
      this.skip(Math.round(missing * this.rate));
      late -= missing;
    }
    this.put(this.newest?.samples ?? []);
    this.newest = { samples: mixed(piece), late };
    this.due = seconds - late * (late > LATE ? 1 : 1 - DRIFT) + piece.numberOfFrames / this.rate;
  }

  /** Forgets what has come since the last whole block: a recording begins now. */
  begin(): void {
    this.newest = null;
    this.empty();
  }

  /** Hands over what has come since the last whole block. */
  end(): void {
    this.put(this.newest?.samples ?? []);
    this.newest = null;
    this.send(true);
  }

  private skip(samples: number): void {
    this.skipped += samples;
    this.put(new Float32Array(samples));
  }

  private put(samples: Iterable<number>): void {
    for (const sample of samples) {
      this.block[this.at] = sample;
      this.at += 1;
      if (this.at === BLOCK) this.send(false);
    }
  }

  private send(isLast: boolean): void {
    const { skipped, rate } = this;
    this.take({ samples: this.block.slice(0, this.at), skipped, rate, isLast });
    this.empty();
  }

  private empty(): void {
    this.at = 0;
    this.skipped = 0;
  }
}

function mixed(piece: AudioData): Float32Array {
  const { numberOfFrames: frames, numberOfChannels: channels } = piece;
  const out = new Float32Array(frames);
  const channel = new Float32Array(frames);
  for (let planeIndex = 0; planeIndex < channels; planeIndex += 1) {
    piece.copyTo(channel, { planeIndex, format: 'f32-planar' });
    for (let n = 0; n < frames; n += 1) out[n] = (out[n] ?? 0) + (channel[n] ?? 0) / channels;
  }
  return out;
}
