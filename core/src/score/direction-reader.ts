import {
  quarterBpm,
  unitLength,
  type BeatUnit,
  type Quarters,
  type QuarterBpm,
  asQuarterBpm,
} from '../music/index.js';
import { NOTE_VALUES } from '../music/index.js';
import { exactDecimal } from './number-text.js';
import { child, childrenNamed, childText, type XmlNode } from './xml.js';

/** A tempo mark as found: printed, sounded, or relative to the tempo before. */
export interface TempoMarkFound {
  readonly printedQuarterBpm: QuarterBpm | null;
  /** The note value that the printed mark counts. */
  readonly printedUnit: BeatUnit | null;
  readonly soundQuarterBpm: QuarterBpm | null;
  /** "old unit = new unit": factor on the quarter tempo before. */
  readonly relativeFactor: number | null;
  /** Whether a metronome sign stands there at all, readable or not. */
  readonly hasSign: boolean;
}

/** Jumps and signs that a direction or sound element carries. */
export interface SignsFound {
  readonly segno: string | null;
  readonly coda: string | null;
  readonly toCoda: string | null;
  readonly daCapo: boolean;
  readonly dalSegno: string | null;
  readonly fine: boolean;
  readonly rehearsal: string | null;
}

/**
 * The tempo that a direction or sound element states.
 * Shape:  null when it states none
 * Units:  quarter notes per minute
 * Source: MusicXML 4.0, elements metronome, per-minute and sound (attribute tempo counts quarter notes)
 */
export function tempoIn(node: XmlNode): TempoMarkFound | null {
  const sound = node.name === 'sound' ? node : child(node, 'sound');
  const soundBpm = positive(sound?.attributes['tempo']);
  const metronome = childrenNamed(node, 'direction-type')
    .map((type) => child(type, 'metronome'))
    .find((found) => found);
  const printed = metronome ? printedTempo(metronome) : { bpm: null, factor: null, unit: null };
  const hasSign = metronome !== undefined;
  if (!hasSign && soundBpm === null) return null;
  return {
    printedQuarterBpm: printed.bpm,
    printedUnit: printed.unit,
    soundQuarterBpm: soundBpm === null ? null : asQuarterBpm(soundBpm),
    relativeFactor: printed.factor,
    hasSign,
  };
}

function positive(text: string | undefined): number | null {
  const value = text === undefined ? Number.NaN : Number(text);
  return Number.isFinite(value) && value > 0 && value <= 10_000 ? value : null;
}

function printedTempo(metronome: XmlNode): {
  readonly bpm: QuarterBpm | null;
  readonly factor: number | null;
  readonly unit: BeatUnit | null;
} {
  const units = readUnits(metronome);
  const [first, second] = units;
  if (!first) return { bpm: null, factor: null, unit: null };
  if (second) {
    const a = unitLength(first);
    const b = unitLength(second);
    return { bpm: null, factor: (b.num * a.den) / (b.den * a.num), unit: second };
  }
  const number = /\d+(?:[.,]\d+)?/u.exec(childText(metronome, 'per-minute') ?? '')?.[0];
  const bpm = positive(number?.replace(',', '.'));
  return { bpm: bpm === null ? null : quarterBpm(bpm, first), factor: null, unit: first };
}

function readUnits(metronome: XmlNode): readonly BeatUnit[] {
  const units: { name: (typeof NOTE_VALUES)[number]['name']; dots: number }[] = [];
  for (const part of metronome.children) {
    if (part.name === 'beat-unit') {
      const value = NOTE_VALUES.find(({ musicXml }) => musicXml === part.text.trim());
      if (!value) return [];
      units.push({ name: value.name, dots: 0 });
    }
    const last = units.at(-1);
    if (part.name === 'beat-unit-dot' && last) last.dots += 1;
  }
  return units.map(
    ({ name, dots }) =>
      (dots === 0 ? name : dots === 1 ? `dotted-${name}` : `double-dotted-${name}`) as BeatUnit,
  );
}

/**
 * How far a direction stands from the place where it is written, when the file says that this is heard.
 * Shape:  null when there is no sounding offset
 * Units:  the file's divisions
 * Source: MusicXML 4.0, element offset, attribute sound
 */
export function soundingOffset(node: XmlNode): Quarters | null {
  const offset = child(node, 'offset') ?? child(child(node, 'sound'), 'offset');
  return offset?.attributes['sound'] === 'yes' ? exactDecimal(offset.text) : null;
}

/**
 * How far a direction is printed from the place where it is written.
 * Shape:  null when it stands there
 * Units:  the file's divisions
 * Source: MusicXML 4.0, element offset
 */
export function printedOffset(node: XmlNode): Quarters | null {
  const offset = child(node, 'offset');
  return offset ? exactDecimal(offset.text) : null;
}

/**
 * The signs and jumps that a direction or sound element carries; printed words count where no sound element speaks.
 * Shape:  labels are "" where the sign has none
 * Source: MusicXML 4.0, element sound (attributes dacapo, dalsegno, tocoda, fine, segno, coda); words: common practice
 */
export function signsIn(node: XmlNode): SignsFound {
  const sound = (node.name === 'sound' ? node : child(node, 'sound'))?.attributes ?? {};
  const types = childrenNamed(node, 'direction-type').flatMap((type) => type.children);
  const words = types
    .filter(({ name }) => name === 'words')
    .map(({ text }) => text.trim())
    .join(' ');
  const says = (pattern: RegExp): boolean => pattern.test(words);
  const has = (name: string): boolean => types.some((type) => type.name === name);
  const isToCoda = says(/^to\s+coda|^al\s+coda/iu);
  return {
    segno: sound['segno'] ?? (has('segno') && !says(/\bD\.?\s*S\b/iu) ? '' : null),
    coda: sound['coda'] ?? (has('coda') && !isToCoda && sound['tocoda'] === undefined ? '' : null),
    toCoda: sound['tocoda'] ?? (isToCoda ? '' : null),
    daCapo: sound['dacapo'] === 'yes' || says(/^(d\.?\s*c\.?(\s|$)|da\s+capo)/iu),
    dalSegno: sound['dalsegno'] ?? (says(/^(d\.?\s*s\.?(\s|$)|dal\s+segno)/iu) ? '' : null),
    fine: sound['fine'] !== undefined || says(/^fine\.?$/iu),
    rehearsal: types.find(({ name }) => name === 'rehearsal')?.text.trim() ?? null,
  };
}
