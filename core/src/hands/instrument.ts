import { instrumentProfile } from '../reading/index.js';
import type { Score } from '../score/index.js';
import { TREBLE_LOW_BRASS, VALVE_INSTRUMENTS } from './instruments.data.js';
import type { ValveInstrument } from './valves.js';

/** What an instrument's hands can be settled with. */
export type HandSolver = 'slide' | 'fingers' | 'valves' | 'sticking' | 'bow' | 'strings';

/**
 * The valves of an instrument by its name on the part.
 * Shape:  null for one without valves that are known here
 */
export function valvesOf(
  name: string,
  { transposition }: Pick<Score, 'transposition'>,
): ValveInstrument | null {
  const lower = name.toLowerCase();
  if (/english horn|basset horn|alpine horn/u.test(lower)) return null;
  const own = VALVE_INSTRUMENTS.find(([one]) => lower.includes(one))?.[1];
  const shift = transposition.chromatic + 12 * transposition.octaveChange;
  return own && shift === TREBLE_LOW_BRASS ? { ...own, fundamental: 48 } : (own ?? null);
}

/** How far a left hand reaches without moving, by the instrument's name (common practice, no source). Units: semitones */
const REACHES: Readonly<Record<string, number>> = { violin: 7, viola: 7, cello: 5, bass: 3 };

/** The strings of an instrument by its name on the part. Shape: null for one without strings that are known here */
export function stringsOf(name: string): { readonly open: readonly number[]; readonly reach: number } | null {
  const { name: known, strings } = instrumentProfile(name);
  return strings.length === 0 ? null : { open: strings, reach: REACHES[known] ?? 5 };
}

/** The solver that settles an instrument's hands. Shape: null where a rule book says what there is to say */
export function handSolverOf(name: string, score: Pick<Score, 'transposition'>): HandSolver | null {
  const { family, hasSlide } = instrumentProfile(name);
  if (hasSlide) return 'slide';
  if (/clarinet/iu.test(name)) return 'fingers';
  if (valvesOf(name, score)) return 'valves';
  if (family === 'mallets' || family === 'drums') return 'sticking';
  return family === 'strings' ? 'bow' : null;
}
