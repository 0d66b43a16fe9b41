/**
 * Sound as it is analysed: one channel.
 * Units: samples from -1 to 1; `rate` samples a second
 */
export interface Sound {
  readonly samples: Float32Array;
  readonly rate: number;
}

/** How long a sound lasts. Units: seconds */
export function lengthOf({ samples, rate }: Sound): number {
  return samples.length / rate;
}
