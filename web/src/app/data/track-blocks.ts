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
/** A microphone may hand its sound over later than usual by less than this; more was not heard at all. Units: seconds */
const LATE = 0.015;
/** Clocks of microphone and machine drift apart; so much of it is taken up with each piece. */
const DRIFT = 0.02;

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

  constructor(private readonly take: (block: Block) => void) {}

  /** The next piece of the track; several channels become one. */
  add(piece: AudioData): void {
    const { numberOfFrames: frames, numberOfChannels: channels, sampleRate: rate } = piece;
    this.rate = rate;
    const seconds = piece.timestamp / 1e6;
    const late = this.due === null ? 0 : seconds - this.due;
    if (late > LATE) this.skip(Math.round(late * rate));
    this.due = late > LATE || this.due === null ? seconds : this.due + late * DRIFT;
    this.due += frames / rate;
    const mixed = new Float32Array(frames);
    const channel = new Float32Array(frames);
    for (let planeIndex = 0; planeIndex < channels; planeIndex += 1) {
      piece.copyTo(channel, { planeIndex, format: 'f32-planar' });
      for (let n = 0; n < frames; n += 1) mixed[n] = (mixed[n] ?? 0) + (channel[n] ?? 0) / channels;
    }
    for (const sample of mixed) this.put(sample);
  }

  /** Forgets what has come since the last whole block: a recording begins now. */
  begin(): void {
    this.at = 0;
    this.skipped = 0;
  }

  /** Hands over what has come since the last whole block. */
  end(): void {
    this.send(true);
  }

  private skip(samples: number): void {
    for (let n = 0; n < samples; n += 1) this.put(0);
    this.skipped += samples;
  }

  private put(sample: number): void {
    this.block[this.at] = sample;
    this.at += 1;
    if (this.at === BLOCK) this.send(false);
  }

  private send(isLast: boolean): void {
    const { skipped, rate } = this;
    this.take({ samples: this.block.slice(0, this.at), skipped, rate, isLast });
    this.begin();
  }
}
