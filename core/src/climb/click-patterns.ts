import { beatCount, isCompound, type Meter } from '../music/index.js';

/**
 * How a measure is clicked.
 * Shape:  `strokes` from the beginning of the measure, rising; `level` 2 the downbeat, 1 a beat, 0 between beats
 * Units:  quarters
 */
export interface ClickPattern {
  readonly id: string;
  readonly name: string;
  readonly strokes: readonly { readonly at: number; readonly level: 0 | 1 | 2 }[];
  /** Length of a beat. Units: quarters. */
  readonly beat: number;
}

/** Names of the ways to click. */
export const CLICK_PATTERNS = Object.freeze({
  beats: 'beats',
  halves: 'two to a beat',
  thirds: 'three to a beat',
  quarters: 'four to a beat',
  eighths: 'every printed beat',
  'against-three': 'in three, against the six',
  'against-two': 'in two, against the three',
  downbeats: 'downbeats only',
  offbeats: 'between the beats',
});

/**
 * The ways in which a measure of a meter can be clicked: in beats, in parts of beats, against the meter.
 * Shape:  the plain beats first
 * Units:  quarters
 * Source: common practice, no source
 */
export function clickPatternsOf(meter: Meter): ClickPattern[] {
  const beats = beatStarts(meter);
  const whole = (beatCount(meter) * 4) / meter.beatType;
  const compound = isCompound(meter);
  const patterns: ClickPattern[] = [
    pattern('beats', { beats, whole, parts: 1 }),
    ...(compound
      ? [pattern('eighths', { beats, whole, parts: 3 }), pattern('quarters', { beats, whole, parts: 6 })]
      : [
          pattern('halves', { beats, whole, parts: 2 }),
          pattern('thirds', { beats, whole, parts: 3 }),
          pattern('quarters', { beats, whole, parts: 4 }),
        ]),
  ];
  const even = (count: number): number[] => Array.from({ length: count }, (_, n) => (n * whole) / count);
  if (compound && beats.length === 2)
    patterns.push(pattern('against-three', { beats: even(3), whole, parts: 1 }));
  if (!compound && beats.length === 3)
    patterns.push(pattern('against-two', { beats: even(2), whole, parts: 1 }));
  patterns.push({ ...pattern('downbeats', { beats: [0], whole, parts: 1 }), beat: beatOf(beats, whole) });
  patterns.push({
    id: 'offbeats',
    name: CLICK_PATTERNS.offbeats,
    beat: beatOf(beats, whole),
    strokes: beats.map((at, n) => ({ at: (at + (beats[n + 1] ?? whole)) / 2, level: 1 as const })),
  });
  return patterns;
}

function beatOf(beats: readonly number[], whole: number): number {
  return (beats[1] ?? whole) - (beats[0] ?? 0);
}

/** Where the beats of a meter begin: threes of a compound meter, the groups of an additive one. */
function beatStarts(meter: Meter): number[] {
  const unit = 4 / meter.beatType;
  if (meter.groups.length > 1) {
    let at = 0;
    return meter.groups.map((group) => {
      const start = at;
      at += group * unit;
      return start;
    });
  }
  const step = isCompound(meter) ? 3 : 1;
  return Array.from({ length: beatCount(meter) / step }, (_, n) => n * step * unit);
}

function pattern(
  id: keyof typeof CLICK_PATTERNS,
  {
    beats,
    whole,
    parts,
  }: { readonly beats: readonly number[]; readonly whole: number; readonly parts: number },
): ClickPattern {
  const strokes = beats.flatMap((at, n) => {
    const length = ((beats[n + 1] ?? whole) - at) / parts;
    return Array.from({ length: parts }, (_, part) => ({
      at: at + part * length,
      level: (part > 0 ? 0 : n === 0 ? 2 : 1) as 0 | 1 | 2,
    }));
  });
  return { id, name: CLICK_PATTERNS[id], strokes, beat: beatOf(beats, whole) };
}
