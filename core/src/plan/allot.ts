/** Something that minutes are given to. Shape: `worth` of so many minutes is rising and concave; at most `most` minutes */
export interface Claim {
  readonly id: string;
  readonly most: number;
  readonly worth: (minutes: number) => number;
}

/**
 * Gives out minutes piece by piece, each to where it is worth most: with concave worths nothing better can be done.
 * Shape:  minutes by id, without those that get none
 * Units:  minutes; `piece` the smallest amount
 * Source: greedy choice is optimal for separable concave worths under one sum (Fox 1966, from memory)
 */
export function allot(
  claims: readonly Claim[],
  { minutes, piece }: { readonly minutes: number; readonly piece: number },
): Map<string, number> {
  const given = new Map<string, number>();
  const next = claims.map((claim) => ({ claim, has: 0, gain: claim.worth(piece) }));
  for (let left = minutes; left >= piece - 1e-9; left -= piece) {
    let best: (typeof next)[number] | null = null;
    for (const one of next)
      if (
        one.has + piece <= one.claim.most + 1e-9 &&
        one.gain > 1e-12 &&
        (best === null || one.gain > best.gain)
      )
        best = one;
    if (best === null) break;
    best.has += piece;
    best.gain = best.claim.worth(best.has + piece) - best.claim.worth(best.has);
    given.set(best.claim.id, best.has);
  }
  return given;
}
