const A4 = { midi: 69, hertz: 440 } as const;

/**
 * The frequency of a sounding pitch.
 * Units:  MIDI number; hertz
 * Source: ISO 16:1975, A4 = 440 Hz; equal temperament
 */
export function hertzOf(midi: number): number {
  return A4.hertz * 2 ** ((midi - A4.midi) / 12);
}
