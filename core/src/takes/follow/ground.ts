import type { Heard } from '../hear/heard.js';
import type { AskedNote } from './asked-notes.js';

/** How well each frame fits each note. */
export interface Likelihood {
  /** Which table a note has: notes of the same pitches share one. */
  readonly tableOf: Int32Array;
  /** Log chances by frame. */
  readonly tables: readonly Float32Array[];
  /** Their sums up to each frame. */
  readonly sums: readonly Float64Array[];
  /** How clearly its pitches come anew, by frame: 0 to 1. */
  readonly rises: readonly Float32Array[];
}

/** What a way through the music is looked for in. */
export interface Ground {
  readonly heard: Heard;
  readonly notes: readonly AskedNote[];
  readonly likelihood: Likelihood;
}
