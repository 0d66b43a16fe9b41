import { midiOf, parsePitch } from '../../music/index.js';
import { slidePositions } from './slide.js';

const midi = (name: string): number => {
  const pitch = parsePitch(name);
  if (!pitch) throw new Error(name);
  return midiOf(pitch);
};
const positions = (...names: readonly string[]): (number | null)[] =>
  slidePositions(names.map((name) => midi(name)));

// The chart of the tenor trombone without a valve, from memory.
describe('The slide', () => {
  it('stands where the chart has each note first', () => {
    for (const [name, position] of [
      ['Bb2', 1],
      ['A2', 2],
      ['F2', 6],
      ['E2', 7],
      ['B2', 7],
      ['C3', 6],
      ['Eb3', 3],
      ['F3', 1],
      ['E3', 2],
      ['D3', 4],
    ] as const)
      expect(positions(name)).withContext(name).toEqual([position]);
  });

  it('takes the near position where a note has two, and has none below E2', () => {
    // F3 between two notes of the sixth position is played there; alone it is in first.
    expect(positions('C3', 'F3', 'C3')).toEqual([6, 6, 6]);
    expect(positions('Bb2', 'F3', 'Bb2')).toEqual([1, 1, 1]);
    expect(positions('F2', 'Eb2', 'F2')).toEqual([6, null, 6]);
  });

  it('travels least: no other way through eight notes is shorter (all ways tried)', () => {
    const notes = ['Bb2', 'B2', 'C3', 'F3', 'D3', 'A2', 'Bb3', 'G3'].map((name) => midi(name));
    const choices = notes.map((note) => [1, 2, 3, 4, 5, 6, 7].filter((position) => plays(note, position)));
    const travel = (path: readonly number[]): number =>
      path.reduce((sum, at, n) => sum + Math.abs(at - (path[n - 1] ?? 1)), 0);
    const ways = choices.reduce<number[][]>(
      (all, own) => all.flatMap((way) => own.map((one) => [...way, one])),
      [[]],
    );
    const least = Math.min(...ways.map((way) => travel(way)));
    // Where ways are equal the nearer positions are taken, which may cost a position more in all.
    expect(travel(slidePositions(notes).map((one) => one ?? 0)) - least).toBeLessThanOrEqual(1);
  });
});

/** Whether a partial of the position sounds as the note: 2 to 6, 8, 9 and 10 of the harmonic series on B♭1. */
function plays(note: number, position: number): boolean {
  const partials = [2, 3, 4, 5, 6, 8, 9, 10].map((n) => Math.round(34 + 12 * Math.log2(n)));
  return partials.includes(note + position - 1);
}
