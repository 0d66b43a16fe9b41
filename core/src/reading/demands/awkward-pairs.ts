import { midiOf, parsePitch, pitchName } from '../../music/index.js';
import type { Score } from '../../score/index.js';
import { AWKWARD_PAIRS } from './awkward-pairs.data.js';
import { isJoined, isWritten, type SoloLine } from '../line/solo-line.js';

/**
 * Two neighbouring notes that the instrument makes awkward.
 * Shape:  `note` is the ordinal of the first in its measure; pitches as written
 * Source: awkward-pairs.data.ts
 */
export interface AwkwardPair {
  readonly measure: string;
  readonly note: number;
  readonly from: string;
  readonly to: string;
  readonly why: string;
}

/** Reasons by "lower higher" in MIDI numbers. */
export type PairRules = ReadonlyMap<string, string>;

/**
 * The pairs that an instrument makes awkward.
 * Shape:  the instrument by the name of its profile; empty for instruments without rules
 * Units:  MIDI numbers of written pitches
 * Source: awkward-pairs.data.ts
 */
export function pairRules(instrument: string): PairRules {
  const rules = new Map<string, string>();
  for (const [name, pairs, why] of AWKWARD_PAIRS) {
    if (instrument !== name) continue;
    for (const pair of pairs) {
      const [a, b] = pair.map((text) => parsePitch(text));
      if (a && b) rules.set(pairKey(midiOf(a), midiOf(b)), why);
    }
  }
  return rules;
}

/**
 * The awkward pairs of a line: slurred or at speed they are where fingers stumble.
 * Shape:  in the order of the music, lists by measure index; the pair counts where its first note stands
 * Source: awkward-pairs.data.ts
 */
export function awkwardPairs({ measures }: Score, line: SoloLine, rules: PairRules): AwkwardPair[][] {
  const found = measures.map((): AwkwardPair[] => []);
  if (rules.size === 0) return found;
  const notes = line.notes.filter(({ isGrace }) => !isGrace);
  notes.forEach((note, n) => {
    const next = notes[n + 1];
    if (!next || !isWritten(note) || !isWritten(next) || !isJoined(note, next)) return;
    const why = rules.get(pairKey(note.midi, next.midi));
    if (why === undefined) return;
    found[note.measureIndex]?.push({
      measure: measures[note.measureIndex]?.number ?? '',
      note: note.ordinal,
      from: pitchName(note.written),
      to: pitchName(next.written),
      why,
    });
  });
  return found;
}

function pairKey(a: number, b: number): string {
  return `${Math.min(a, b)} ${Math.max(a, b)}`;
}
