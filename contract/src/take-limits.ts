import { LONGEST_TAKE_MINUTES } from '@vivid-cue/core/takes';

/** What a take may have; a little more than the longest, because clocks of sound cards differ. Units: bytes, seconds */
export const TAKE_LIMITS = Object.freeze({
  seconds: LONGEST_TAKE_MINUTES * 60 + 5,
  /** What goes in one request. */
  chunkBytes: 512 * 1024,
  /** One form of one take. */
  formBytes: 160 * 1024 * 1024,
});

/** A form in which a take is kept: its sound as 16-bit FLAC, and the file that was brought, as it came. */
export type TakeForm = 'sound' | 'original';

/** Kinds of files that may be kept as they came. */
export const ORIGINAL_KINDS = [
  'audio/wav',
  'audio/flac',
  'audio/mpeg',
  'audio/mp4',
  'audio/aac',
  'audio/ogg',
  'audio/webm',
] as const;

/** The kind of a brought file. */
export type OriginalKind = (typeof ORIGINAL_KINDS)[number];
