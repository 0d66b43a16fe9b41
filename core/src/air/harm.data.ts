/**
 * What a breath harms, by where it is taken: less is better, 0 harms nothing.
 * Source: the order is the one of docs/computation: rests, printed marks, phrase ends, long notes, bar lines, between
 * tongued notes, inside a slur; common practice, no source. The numbers between are our own.
 */
export const PLACE_HARM = {
  rest: 0,
  'quick rest': 1,
  'breath mark': 1,
  hold: 2,
  'phrase end': 3,
  'long note': 6,
  /** Marked by the instructor where the notes are not known. */
  'marked place': 6,
  'bar line': 10,
  'tongued note': 14,
  'inside a slur': 40,
} as const;

/** What makes a place worse. Source: as above */
export const ADDED_HARM = {
  /** After a note that leads up into the next. */
  leading: 8,
  /** Where a crescendo arrives. */
  crescendo: 8,
  /** Before a step into a longer note on the downbeat. */
  resolution: 6,
  /** After a note too short to give away its end. */
  short: 8,
} as const;

/** A breath takes so long; a shorter rest is no full one (our own). Units: seconds */
export const BREATH_SECONDS = 0.35;
/** A note of so many quarters, or twice the next and this many, lets go (our own knees). */
export const LONG_QUARTERS = 2;
export const LONGISH_QUARTERS = 1;
