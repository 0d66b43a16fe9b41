/**
 * How long one full bow lasts at a dynamic: slow and light at piano, fast at forte.
 * Units:  seconds
 * Source: common practice, no source; the numbers are our own and stand in the studio's eyes wherever they are used
 */
export const BOW_SECONDS: Readonly<Record<string, number>> = {
  ppp: 12,
  pp: 10,
  p: 8,
  mp: 6.5,
  mf: 5,
  f: 3.5,
  ff: 2.5,
  fff: 2,
};

/** What a change of bow harms that is not printed: between slurred notes, within a held one; less on a downbeat (our own). */
export const SPLIT_HARM = { between: 3, within: 5, downbeat: 2 } as const;
