import { midiOf, parsePitch, type Semitones } from '../../music/index.js';
import { scaleInstrument } from '../../scale/index.js';
import { pairRules, type PairRules } from './awkward-pairs.js';
import { REGISTER_BREAKS, type FAMILY_WEIGHTS } from './profiles.data.js';

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
  /** Pairs of notes that it makes awkward. */
  readonly pairs: PairRules;
}

/**
 * The profile of an instrument by its name on the part.
 * Shape:  the longest known name in the text; without one a woodwind with no breaks and no range
 * Source: see profiles.data.ts
 */
export function instrumentProfile(text: string): InstrumentProfile {
  const name = text.toLowerCase();
  const known = REGISTER_BREAKS.filter(([one]) => name.includes(one)).sort(
    (a, b) => b[0].length - a[0].length,
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
    pairs: pairRules(known?.[0] ?? ''),
  };
}
