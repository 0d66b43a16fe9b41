import {
  alterInKey,
  letterName,
  midiOf,
  pitchName,
  staffPlace,
  STEPS,
  tonicOf,
  type Step,
} from '../../music/index.js';
import type { Score } from '../../score/index.js';
import { isJoined, isWritten, type SoloLine, type WrittenNote } from '../line/solo-line.js';

/** A run along a scale or a chord. Shape: `measure` is where it begins; pitches as written. */
export interface Run {
  readonly measure: string;
  readonly from: string;
  readonly to: string;
  /** "C major", "A harmonic minor", "chromatic", "G major arpeggio". */
  readonly scale: string;
}

/** A run has at least so many notes (our own knees). */
const FEWEST_STEPS = 5;
/** Slower than sixteenths, five notes in a row lie in a scale by chance. */
const FEWEST_SLOW_STEPS = 6;
const QUICK_QUARTERS = 0.26;
const FEWEST_CHORD_NOTES = 4;

type Motion = 'up' | 'down';
type Walk = 'scale' | 'chromatic' | 'chord';

interface Stretch {
  readonly notes: readonly WrittenNote[];
  readonly walk: Walk;
  /** Notes that a run of this pace needs. */
  readonly fewest: number;
  /** Whether its first note ends what came before. */
  readonly isTurned: boolean;
}

/**
 * Finds runs along scales and chords, so that a passage can be tied to a scale in the warm-up.
 * Shape:  in the order of the music; rests end a run
 * Source: major, natural, harmonic and melodic minor, major, minor, diminished and augmented triads, seventh chords,
 *         as `tonal` spells them (checked in reading.spec.ts)
 */
export function runs(score: Score, line: SoloLine): Run[] {
  return runsWithNotes(score, line).map(({ notes: _, ...run }) => run);
}

/** The same with their notes. */
export function runsWithNotes(
  score: Score,
  line: SoloLine,
): (Run & { readonly notes: readonly WrittenNote[] })[] {
  return stretches(line).flatMap((stretch) => {
    const fifths = score.measures[stretch.notes[0]?.measureIndex ?? 0]?.fifths ?? 0;
    const found = namedPart(stretch, fifths);
    const [first, last] = [found?.notes[0], found?.notes.at(-1)];
    const measure = score.measures[first?.measureIndex ?? 0];
    if (!found || !first || !last || !measure) return [];
    const [from, to] = [pitchName(first.written), pitchName(last.written)];
    return [{ measure: measure.number, from, to, scale: found.scale, notes: found.notes }];
  });
}

/**
 * The longest part of a stretch that is one scale or chord: a note before or behind may lie in its way by chance. The note
 * that ends what came before is left to it where that makes a triad of a seventh chord.
 */
function namedPart(
  { notes, walk, fewest, isTurned }: Stretch,
  fifths: number,
): { readonly notes: readonly WrittenNote[]; readonly scale: string } | null {
  const nameOf = (part: readonly WrittenNote[]): string | null =>
    walk === 'chromatic' ? 'chromatic' : walk === 'scale' ? scaleOf(part, fifths) : chordOf(part);
  for (let length = notes.length; length >= fewest; length -= 1)
    for (let from = 0; from + length <= notes.length; from += 1) {
      const part = notes.slice(from, from + length);
      const scale = nameOf(part);
      if (scale === null) continue;
      const rest = part.slice(1);
      const plain = isTurned && from === 0 && rest.length >= fewest ? nameOf(rest) : null;
      return plain !== null && scale.includes('seventh') && !plain.includes('seventh')
        ? { notes: rest, scale: plain }
        : { notes: part, scale };
    }
  return null;
}

function stretches({ notes }: SoloLine): Stretch[] {
  const found: Stretch[] = [];
  let own: WrittenNote[] = [];
  let walk: Walk | null = null;
  let motion: Motion | null = null;
  let isTurned = false;
  const close = (): void => {
    const fewest = fewestOf(own, walk);
    if (walk && own.length >= fewest) found.push({ notes: own, walk, fewest, isTurned });
  };
  for (const note of notes) {
    if (note.isGrace) continue;
    if (!isWritten(note)) {
      close();
      [own, walk, motion, isTurned] = [[], null, null, false];
      continue;
    }
    const last = own.at(-1);
    const joins = last !== undefined && isJoined(last, note);
    const step = joins ? walkBetween(last, note) : null;
    if (!last || !step) {
      close();
      [own, walk, motion, isTurned] = [[note], null, null, false];
      continue;
    }
    const way: Motion = note.midi > last.midi ? 'up' : 'down';
    // A semitone that begins a run may belong to a scale or be chromatic, not to a chord.
    const isOfKind = walk === null ? own.length < 2 || !step.includes('chord') : step.includes(walk);
    const fits = isOfKind && (motion === null || motion === way) && isEven(own, last);
    if (fits) {
      // A chromatic step may also be a step of a scale: the second step decides.
      walk = walk ?? (step.length === 1 ? (step[0] ?? null) : null);
      motion = way;
      own.push(note);
      continue;
    }
    close();
    [own, walk, motion, isTurned] = [[last, note], step.length === 1 ? (step[0] ?? null) : null, way, true];
  }
  close();
  return found.map((stretch) => asChromatic(stretch));
}

/** So many notes make a run of their kind and speed. */
function fewestOf(own: readonly WrittenNote[], walk: Walk | null): number {
  if (walk === 'chord') return FEWEST_CHORD_NOTES;
  return (own[1]?.length ?? 1) <= QUICK_QUARTERS ? FEWEST_STEPS : FEWEST_SLOW_STEPS;
}

/** A run goes in equal notes: only its first and its last may be longer or shorter. */
function isEven(own: readonly WrittenNote[], last: WrittenNote): boolean {
  const inner = own.at(-2);
  return own.length < 3 || inner === undefined || Math.abs(inner.length - last.length) < 1e-6;
}

/** A scale stretch of nothing but semitones is chromatic. */
function asChromatic(stretch: Stretch): Stretch {
  const { notes } = stretch;
  const isAll = notes.every((note, n) => n === 0 || Math.abs(note.midi - (notes[n - 1]?.midi ?? 0)) === 1);
  return isAll ? { ...stretch, walk: 'chromatic' } : stretch;
}

function walkBetween(a: WrittenNote, b: WrittenNote): readonly Walk[] | null {
  const letters = Math.abs(staffPlace(b.written) - staffPlace(a.written));
  const semitones = Math.abs(b.midi - a.midi);
  if (semitones === 0) return null;
  if (semitones === 1) return letters === 1 ? ['scale', 'chromatic'] : ['chromatic'];
  if (letters === 1 && semitones <= 3) return ['scale'];
  if (letters >= 2 && letters <= 4 && semitones <= 7) return ['chord'];
  return null;
}

const MINORS = ['melodic minor', 'harmonic minor'] as const;

/** The scale that has all these notes: the key's own first, then the nearest in the circle of fifths. */
export function scaleOf(notes: readonly WrittenNote[], fifths: number): string | null {
  const names = new Set(notes.map(({ written }) => letterName(written)));
  const distance = Array.from({ length: 15 }, (_, n) => n - 7).sort(
    (a, b) => Math.abs(a - fifths) - Math.abs(b - fifths) || a - b,
  );
  for (const key of distance) {
    const major = signature(key);
    if (fits(names, major)) return `${tonicOf(key, 'major')} major`;
    const tonic = tonicOf(key, 'minor');
    for (const kind of MINORS) if (fits(names, raised(major, tonic, kind))) return `${tonic} ${kind}`;
  }
  return null;
}

function fits(names: ReadonlySet<string>, scale: ReadonlySet<string>): boolean {
  return [...names].every((name) => scale.has(name));
}

function signature(fifths: number): Set<string> {
  return new Set(STEPS.map((step) => letterName({ step, alter: alterInKey(step, fifths) })));
}

/** The minor of a signature with its seventh raised, in the melodic form the sixth as well. */
function raised(major: ReadonlySet<string>, tonic: string, kind: (typeof MINORS)[number]): Set<string> {
  const at = STEPS.findIndex((letter) => letter === tonic[0]);
  const degrees = kind === 'melodic minor' ? [5, 6] : [6];
  const letters = new Set<string>(degrees.map((degree) => STEPS[(at + degree) % 7] ?? ''));
  return new Set([...major].map((name) => (letters.has(name[0] ?? '') ? sharpened(name) : name)));
}

function sharpened(name: string): string {
  return name.endsWith('b') ? name.slice(0, -1) : `${name}#`;
}

const CHORDS: readonly (readonly [string, readonly number[]])[] = [
  ['major', [0, 4, 7]],
  ['minor', [0, 3, 7]],
  ['diminished', [0, 3, 6]],
  ['augmented', [0, 4, 8]],
  ['dominant seventh', [0, 4, 7, 10]],
  ['diminished seventh', [0, 3, 6, 9]],
  ['major seventh', [0, 4, 7, 11]],
  ['minor seventh', [0, 3, 7, 10]],
  ['half-diminished seventh', [0, 3, 6, 10]],
];

function chordOf(notes: readonly WrittenNote[]): string | null {
  const roots = [...new Map(notes.map(({ written }) => [letterName(written), written])).values()];
  for (const [kind, tones] of CHORDS)
    for (const root of roots) {
      const intervals = new Set(roots.map((pitch) => (((midiOf(pitch) - midiOf(root)) % 12) + 12) % 12));
      const isThirds = roots.every((pitch) => isChordLetter(root.step, pitch.step));
      if (isThirds && intervals.size === tones.length && tones.every((tone) => intervals.has(tone)))
        return `${letterName(root)} ${kind} arpeggio`;
    }
  return null;
}

/** Chords are spelled in thirds above their root. */
function isChordLetter(root: Step, other: Step): boolean {
  const distance = (STEPS.indexOf(other) - STEPS.indexOf(root) + 7) % 7;
  return distance % 2 === 0;
}
