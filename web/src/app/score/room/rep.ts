import type { Bpm } from '@vivid-cue/core/music';
import type { RepContext } from '@vivid-cue/core/readiness';

/** One rep as the panel shows it. */
export interface ShownRep {
  readonly id: string;
  readonly bpm: Bpm;
  readonly isClean: boolean;
  readonly isWaiting: boolean;
}

/** What the panel asks to be logged. Units: beats of the target's unit per minute. */
export interface RepWish {
  readonly bpm: Bpm;
  readonly context: RepContext;
  readonly isClean: boolean;
}
