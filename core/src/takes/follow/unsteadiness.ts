/** How far an interval stands from the tempo around: a share, and so many seconds; heavy tails for what is stretched. */
const UNSTEADY = { share: 0.07, seconds: 0.02, tail: 3 };
/** Any interval at all: a longer one may have a stop in it, a shorter one has nothing to excuse it. */
const ANY_INTERVAL = { longer: 0.007, shorter: 1e-5 };

/**
 * What an interval is worth beside the tempo around it, by its length.
 * Shape:  nothing has no length
 * Units:  frames in, log chances out; `hop` seconds a frame
 */
export function unsteadiness(most: number, expected: number, hop: number): Float64Array {
  const awaited = Math.max(0.02 / hop, expected);
  const wide = UNSTEADY.share + UNSTEADY.seconds / (awaited * hop);
  const { tail } = UNSTEADY;
  return new Float64Array(most + 1).map((_, length) => {
    if (length === 0) return -Infinity;
    const far = Math.log(length / awaited) / wide;
    const any = far > 0 ? ANY_INTERVAL.longer : ANY_INTERVAL.shorter;
    return Math.log(any + (1 + (far * far) / tail) ** (-(tail + 1) / 2));
  });
}
