/** Instruments offered while typing; any other can be written. */
export const INSTRUMENTS = [
  'flute', 'oboe', 'clarinet', 'bass clarinet', 'bassoon', 'alto saxophone', 'tenor saxophone', 'baritone saxophone', 'horn', 'trumpet',
  'trombone', 'bass trombone', 'euphonium', 'tuba', 'percussion', 'violin', 'viola', 'cello', 'double bass', 'harp', 'piano', 'voice', 'guitar',
] as const;
