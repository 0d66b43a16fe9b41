import type { Vocabulary } from '@vivid-cue/core/music';
import type { ScaleNoteValue } from '@vivid-cue/core/scale';

const VALUES: readonly (readonly [ScaleNoteValue, string, string])[] = [
  ['half', 'half notes', 'minims'],
  ['quarter', 'quarter notes', 'crotchets'],
  ['eighth', 'eighth notes', 'quavers'],
  ['eighth-triplet', 'eighth triplets', 'triplet quavers'],
  ['sixteenth', 'sixteenth notes', 'semiquavers'],
];

/** Note values of scales in the studio's words. */
export function noteValueChoices(vocabulary: Vocabulary): { value: ScaleNoteValue; label: string }[] {
  return VALUES.map(([value, us, uk]) => ({ value, label: vocabulary === 'uk' ? uk : us }));
}
