import { unitGlyph, unitWords, type BeatUnit, type TempoBound, type Vocabulary } from '@vivid-cue/core/music';
import type { TempoOnWire } from '@vivid-cue/contract';

/** How a tempo binds, in the words of a sheet. */
export const BOUND_CHOICES: readonly { readonly value: TempoBound; readonly label: string }[] = [
  { value: 'exact', label: 'exactly' },
  { value: 'about', label: 'about' },
  { value: 'range', label: 'between' },
  { value: 'min', label: 'at least' },
  { value: 'max', label: 'at most' },
  { value: 'words', label: 'words only' },
  { value: 'none', label: 'not stated' },
];

const UNITS: readonly BeatUnit[] = [
  'quarter',
  'dotted-quarter',
  'eighth',
  'half',
  'dotted-half',
  'dotted-eighth',
  'sixteenth',
  'whole',
];

/** The note values that sheets count, in the studio's words. */
export function unitChoices(
  vocabulary: Vocabulary,
): readonly { readonly value: BeatUnit; readonly label: string }[] {
  return UNITS.map((value) => ({ value, label: `${unitGlyph(value)}  ${unitWords(value, vocabulary)}` }));
}

/** What the tempo fields of one part hold. */
export interface TempoFields {
  readonly bound: TempoBound;
  readonly beatUnit: BeatUnit | null;
  readonly low: number | null;
  readonly high: number | null;
  readonly words: string;
}

/**
 * The fields as a tempo mark.
 * Shape:  numbers only where the bound wants them
 * Units:  beats of the unit per minute
 * Errors: none; the contract's schema says what is missing
 */
export function tempoFrom({ bound, beatUnit, low, high, words }: TempoFields): TempoOnWire {
  const hasNumber = bound !== 'words' && bound !== 'none';
  const top = bound === 'range' ? high : low;
  return {
    beatUnit: hasNumber ? beatUnit : null,
    bpmMin: hasNumber && bound !== 'max' ? low : null,
    bpmMax: hasNumber && bound !== 'min' ? top : null,
    bound,
    words: words.trim() === '' ? null : words.trim(),
  };
}

/**
 * A tempo mark spread over the fields.
 * Shape:  the inverse of tempoFrom
 * Units:  beats of the unit per minute
 */
export function fieldsFrom({ beatUnit, bpmMin, bpmMax, bound, words }: TempoOnWire): TempoFields {
  return {
    bound,
    beatUnit: beatUnit ?? 'quarter',
    low: bpmMin ?? bpmMax,
    high: bound === 'range' ? bpmMax : null,
    words: words ?? '',
  };
}
