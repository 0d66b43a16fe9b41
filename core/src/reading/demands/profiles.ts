import { midiOf, parsePitch, type Semitones } from '../../music/index.js';
import { scaleInstrument } from '../../scale/index.js';
import { pairRules, type PairRules } from './awkward-pairs.js';
import {
  OPEN_STRINGS,
  OTHER_NAMES,
  REGISTER_BREAKS,
  REGISTER_NAMES,
  type FAMILY_WEIGHTS,
} from './profiles.data.js';

/** The families of instruments that weigh demands alike. */
export type Family = keyof typeof FAMILY_WEIGHTS;

/**
 * What an instrument makes hard.
 * Shape:  `breaks` are the written notes below each register break, `range` null where it is not known
 * Units:  MIDI numbers of written pitches
 * Source: see profiles.data.ts and sheet/instrument-ranges.data.ts
 */
export interface InstrumentProfile {
  readonly name: string;
  readonly family: Family;
  readonly breaks: readonly number[];
  readonly range: { readonly low: Semitones; readonly high: Semitones } | null;
  /** Open strings, the lowest first; empty for others. */
  readonly strings: readonly Semitones[];
  /** Whether a slide makes its notes: a slur on it is a soft tongue. */
  readonly hasSlide: boolean;
  /** Pairs of notes that it makes awkward. */
  readonly pairs: PairRules;
}

/**
 * The profile of an instrument by its name on the part.
 * Shape:  the longest known name in the text that is more than a register; without one a woodwind with no breaks and no range
 * Source: see profiles.data.ts
 */
export function instrumentProfile(text: string): InstrumentProfile {
  const known = knownNames(text).sort(
    ([a], [b]) => Number(isRegister(a)) - Number(isRegister(b)) || b.length - a.length,
  )[0];
  const ranged = scaleInstrument(text);
  return {
    name: known?.[0] ?? text,
    family: known?.[1] ?? 'woodwind',
    breaks: (known?.[2] ?? []).flatMap((below) => {
      const pitch = parsePitch(below);
      return pitch ? [midiOf(pitch)] : [];
    }),
    range: ranged.ok ? { low: midiOf(ranged.value.low), high: midiOf(ranged.value.high) } : null,
    strings: (OPEN_STRINGS[known?.[0] ?? ''] ?? []).map(midiFrom),
    hasSlide: known?.[0] === 'trombone',
    pairs: pairRules(known?.[0] ?? ''),
  };
}

function midiFrom(name: string): Semitones {
  const pitch = parsePitch(name);
  return pitch ? midiOf(pitch) : 0;
}

function isRegister(name: string): boolean {
  return REGISTER_NAMES.includes(name);
}

/** The known instruments that a text names, in full or as parts shorten them. */
function knownNames(text: string): (typeof REGISTER_BREAKS)[number][] {
  const name = text.toLowerCase();
  const others = OTHER_NAMES.filter(([short]) => name.includes(short)).map(([, full]) => full);
  return REGISTER_BREAKS.filter(([one]) => name.includes(one) || others.includes(one));
}

/** Who plays with breath. */
const BREATHING: ReadonlySet<Family> = new Set(['woodwind', 'brass', 'voice']);

/** Whether an instrument is played with breath. */
export function isBlown({ family }: Pick<InstrumentProfile, 'family'>): boolean {
  return BREATHING.has(family);
}
