import type { TakeMarks } from './takes.js';

export type { TakeMarks, TakeTap } from './takes.js';

/** Nothing marked: by itself, so that a page loads it without the schemas. */
export const NO_MARKS: TakeMarks = Object.freeze({ taps: [], fine: [], downbeats: [], beats: 4 });
