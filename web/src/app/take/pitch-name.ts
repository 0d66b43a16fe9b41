/** The twelve pitches from C on. */
export const PITCH_NAMES = ['C', 'C♯', 'D', 'E♭', 'E', 'F', 'F♯', 'G', 'A♭', 'A', 'B♭', 'B'];

/** How a sounding pitch is called, C4 the middle C. Units: MIDI number */
export function pitchName(midi: number): string {
  return `${PITCH_NAMES[((midi % 12) + 12) % 12] ?? ''}${Math.floor(midi / 12) - 1}`;
}

/** The nearest name. Units: hertz */
export function nearestPitchName(hertz: number): string {
  return pitchName(Math.round(69 + 12 * Math.log2(hertz / 440)));
}
