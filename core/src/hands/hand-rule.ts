import type { CueKind } from '../cue-kinds/index.js';
import type { Semitones } from '../music/index.js';

/**
 * A pattern of written notes; everything that is said of it must hold.
 * Shape:  `pairs` two notes in either order; `notes` one of them; `intoFromBelow` one of them after a lower note;
 *         `leapFrom` an interval of so many semitones and more; `longerThan` what the note lasts
 * Units:  semitones, seconds
 */
export interface RulePattern {
  readonly pairs?: readonly string[];
  readonly notes?: readonly string[];
  readonly intoFromBelow?: readonly string[];
  readonly leapFrom?: Semitones;
  readonly longerThan?: number;
  readonly isSlurred?: boolean;
  readonly isQuick?: boolean;
}

/** Advice for a pattern on an instrument. Shape: `source` the class that it comes from */
export interface HandRule {
  readonly id: string;
  readonly instrument: string;
  readonly kind: CueKind;
  readonly source: 'chart' | 'practice' | 'studio';
  readonly pattern: RulePattern;
  readonly advice: string;
}
