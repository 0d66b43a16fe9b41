import { withSigns } from '../../music/index.js';
import type { Score, Span } from '../../score/index.js';
import type { FindingKind, RawFinding } from './finding.js';
import { IMPORTANCE } from './importance.data.js';
import type { OrnamentRule } from './ornament-rules.js';
import type { MusicReading } from '../read-music.js';
import type { SoloLine } from '../line/solo-line.js';

/** Turns one kind of the reading into findings. */
export type Finder = (from: Reading) => RawFinding[];

/**
 * What findings are made from.
 * Shape: `indexOf` gives the index of a printed number, of one that stands twice the first; the rules are the sheet's
 */
export interface Reading extends MusicReading {
  /** The runs of measures that are asked; none for all of the score. */
  readonly asked: readonly Span[];
  readonly score: Score;
  readonly line: SoloLine;
  readonly indexOf: (number: string) => number;
  readonly ornamentRules: readonly OrnamentRule[];
}

/** Two stretches are seen side by side up to so many measures. */
export const WIDEST_PAIR = 2;

/** The measures that a text such as "9" or "9-12" names. */
export function spanOf(indexOf: Reading['indexOf'], text: string): Span {
  const [from = '', to = from] = text.split('-');
  return { fromIndex: indexOf(from), endIndex: indexOf(to) + 1 };
}

/** A finding of a kind, with what it does not say left empty. */
export function raw(
  kind: FindingKind,
  finding: Partial<RawFinding> & Pick<RawFinding, 'title' | 'sentence'>,
): RawFinding {
  return {
    kind,
    importance: IMPORTANCE[kind],
    places: [],
    notes: [],
    pair: null,
    detail: '',
    ...finding,
    title: withSigns(finding.title),
    sentence: withSigns(finding.sentence),
  };
}
