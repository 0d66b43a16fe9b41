/** A machine takes octaves and twelfths for each other. Units: semitones */
const TAKEN_FOR_EACH_OTHER = [12, 19, 24];

/** How far an interval is from one that is easily heard wrong. Units: semitones */
export function fromOctave(semitones: number): number {
  return Math.min(...TAKEN_FOR_EACH_OTHER.map((far) => Math.abs(Math.abs(semitones) - far)));
}
