import { withSigns } from '@vivid-cue/core/music';
import type { RulePattern } from '@vivid-cue/core/hands';
import type { StudioRule } from '@vivid-cue/contract';

/** In which of three ways a rule names its notes. */
export type PatternWay = 'pairs' | 'notes' | 'intoFromBelow';

/** The ways in words, with how their notes are typed. */
export const WAYS: readonly {
  readonly value: PatternWay;
  readonly label: string;
  readonly example: string;
}[] = [
  { value: 'pairs', label: 'from one note to another, either way', example: 'A4 Bb4, A5 Bb5' },
  { value: 'notes', label: 'at a note', example: 'Bb4, F#5' },
  { value: 'intoFromBelow', label: 'into a note from below', example: 'D5' },
];

/** Notes in the way that a rule names them. */
export function wayOf(way: PatternWay, names: readonly string[]): StudioRule['pattern'] {
  if (way === 'pairs') return { pairs: [...names] };
  return way === 'notes' ? { notes: [...names] } : { intoFromBelow: [...names] };
}

/** What a rule speaks at: "A4 to B♭4 or back, quick". */
export function patternText(pattern: RulePattern): string {
  const list = (names: readonly string[] | undefined): string => (names ?? []).map(withSigns).join(', ');
  const said = [
    pattern.pairs ? `${list(pattern.pairs.map((pair) => pair.replace(' ', ' to ')))} or back` : '',
    pattern.notes ? `at ${list(pattern.notes)}` : '',
    pattern.intoFromBelow ? `into ${list(pattern.intoFromBelow)} from below` : '',
    pattern.leapFrom === undefined ? '' : `leaps of ${pattern.leapFrom} half steps and more`,
    pattern.isQuick === true ? 'quick' : '',
    pattern.isSlurred === true ? 'slurred' : '',
    pattern.longerThan === undefined ? '' : `longer than ${pattern.longerThan} s`,
  ];
  return said.filter((text) => text !== '').join(', ');
}
