import { midiOf, parsePitch, pitchName, type Semitones } from '../music/index.js';
import { CLARINET_CROSSINGS, CLARINET_FINGERINGS, type ClarinetFingering } from './clarinet.data.js';
import type { HandNote } from './hand-notes.js';
import { solve, toldOthers, type HandPath, type HandPin, type SolvedWay, type Solver } from './hand-path.js';

/** What fingers cost (our own): one little finger on two keys, slurred or tongued; a crossing. */
const COSTS = { slide: 10, hop: 4, crossing: 3 } as const;
/** With so much time a finger changes its key in peace. Units: seconds (our own) */
const IN_PEACE = 0.6;
const PLAIN: readonly ClarinetFingering[] = [{ name: 'plain', little: null, cost: 0 }];

interface Fingered extends ClarinetFingering {
  readonly midi: Semitones;
}

const BY_MIDI: ReadonlyMap<Semitones, readonly Fingered[]> = new Map(
  Object.entries(CLARINET_FINGERINGS).map(([name, own]) => {
    const midi = midiNamed(name);
    return [midi, own.map((one) => ({ ...one, midi }))];
  }),
);
const CROSSINGS: ReadonlySet<string> = new Set(
  CLARINET_CROSSINGS.map(([note, fingering, other]) => `${midiNamed(note)} ${fingering} ${midiNamed(other)}`),
);

function midiNamed(name: string): Semitones {
  const pitch = parsePitch(name);
  return pitch ? midiOf(pitch) : 0;
}

/**
 * Little fingers and alternates of the clarinet: no finger twice in a row on two keys, least of all under a slur, and the
 * fork or side key where the plain one crosses.
 * Shape:  every note of the passage; those with one fingering are "plain"
 * Source: docs/computation.md §6; charts from memory
 */
export function clarinetPath(notes: readonly HandNote[], pins: readonly HandPin[] = []): HandPath {
  return solve(notes, CLARINET, pins);
}

const CLARINET: Solver<Fingered> = {
  choicesOf: ({ written }) =>
    written === null ? [] : (BY_MIDI.get(written) ?? PLAIN.map((one) => ({ ...one, midi: written }))),
  costs: (notes) => ({
    stay: ({ cost }) => cost,
    go: (from, to, layer) => {
      if (from.midi === to.midi) return from.name === to.name ? 0 : COSTS.crossing;
      const note = notes[layer];
      const isHurried = note !== undefined && (note.gap ?? 1) < IN_PEACE && note.isJoined;
      const isOne = from.little !== null && from.little === to.little;
      const slide = isOne && isHurried ? (note.isSlurred ? COSTS.slide : COSTS.hop) : 0;
      const crosses = Number(isCrossing(from, to)) + Number(isCrossing(to, from));
      return slide + crosses * COSTS.crossing;
    },
  }),
  because: fingerWords,
};

function isCrossing({ midi, name }: Fingered, { midi: other }: Fingered): boolean {
  return CROSSINGS.has(`${midi} ${name} ${other}`);
}

/** Shape: "No little finger slides (3 would): B4 right at 5; F#5 with the fork key at 7." */
function fingerWords(way: SolvedWay<Fingered>): string {
  const { notes, path, plain } = way;
  const slides = (fingers: readonly Fingered[]): number =>
    fingers.filter(({ little, midi }, n) => {
      const before = fingers[n - 1];
      return (
        little !== null && before?.little === little && before.midi !== midi && notes[n]?.isJoined === true
      );
    }).length;
  const told = toldOthers(way, ({ name, little }, { line: { written } }) =>
    written ? `${pitchName(written)} ${little === null ? `with the ${name}` : name}` : '',
  );
  const [left, plainly] = [slides(path), slides(plain)];
  if (told === '')
    return left === 0
      ? 'The plain fingerings serve: no little finger is wanted twice in a row.'
      : `The plain fingerings serve; a little finger slides ${left === 1 ? 'once' : `${left} times`}.`;
  const saved =
    plainly > left ? `A little finger slides ${left} times instead of ${plainly}: ` : 'Smoother: ';
  return `${left === 0 && plainly > 0 ? `No little finger slides, where the plain way has ${plainly}: ` : saved}${told}.`;
}
