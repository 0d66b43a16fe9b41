import { quarters, type Quarters } from './quarters.js';
import type { BeatUnit } from './tempo.js';

/**
 * A time signature; several groups for additive meters (3+2 over 8).
 * Shape:  at least one group, each ≥ 1; `beatType` a power of two
 * Units:  beats; `beatType` 4 is a quarter note
 * Source: MusicXML 4.0, element time
 */
export interface Meter {
  readonly groups: readonly number[];
  readonly beatType: number;
}

/** Common time, used only where a file begins without a meter. */
export const COMMON_TIME: Meter = Object.freeze({ groups: [4], beatType: 4 });

/**
 * All beats of the measure as printed above the line.
 * Shape:  at least 1
 * Units:  printed beats
 * Source: MusicXML 4.0, element beats
 */
export function beatCount(meter: Meter): number {
  return meter.groups.reduce((sum, group) => sum + group, 0);
}

/**
 * The exact length of a full measure.
 * Shape:  above 0
 * Units:  quarter notes
 * Source: common practice
 */
export function measureLength(meter: Meter): Quarters {
  return quarters(beatCount(meter) * 4, meter.beatType);
}

/**
 * Whether the beat divides in three: 6, 9, 12, … eighths or smaller.
 * Shape:  3/8 counts as simple
 * Source: common practice, no source
 */
export function isCompound(meter: Meter): boolean {
  const beats = beatCount(meter);
  return meter.groups.length === 1 && meter.beatType >= 8 && beats >= 6 && beats % 3 === 0;
}

/** The signature as printed: 6/8, 3+2/8. */
export function meterText(meter: Meter): string {
  return `${meter.groups.join('+')}/${meter.beatType}`;
}

/**
 * The meter of a printed signature, the way back from meterText.
 * Shape:  null for another text
 * Units:  as Meter
 */
export function meterFrom(text: string): Meter | null {
  const [, beats = '', beatType = ''] = /^(\d+(?:\+\d+)*)\/(\d+)$/u.exec(text) ?? [];
  return beats === '' ? null : { groups: beats.split('+').map(Number), beatType: Number(beatType) };
}

const BEATS: Readonly<Record<number, readonly [simple: BeatUnit, compound: BeatUnit | null]>> = {
  1: ['whole', null],
  2: ['half', null],
  4: ['quarter', null],
  8: ['eighth', 'dotted-quarter'],
  16: ['sixteenth', 'dotted-eighth'],
};

/**
 * The note value that a tempo of this meter counts: dotted where the beat divides in three.
 * Shape:  a quarter for beats smaller than a sixteenth
 * Source: common practice, no source
 */
export function beatUnitOf(meter: Meter): BeatUnit {
  const [simple, compound] = BEATS[meter.beatType] ?? ['quarter', null];
  return isCompound(meter) && compound !== null ? compound : simple;
}
