import { abcToMusicXml } from '../abc/index.js';
import { asQuarterBpm, midiOf, parsePitch } from '../music/index.js';
import { steadyPace } from '../reading/index.js';
import { readScore } from '../score/index.js';
import {
  beatingSpots,
  beatingText,
  handNotes,
  solveHands,
  stringsOf,
  type HandNote,
  type HandPath,
} from './index.js';

function notesOf(abc: string, bpm = 120): HandNote[] {
  const xml = abcToMusicXml(`X:1\nM:4/4\nL:1/16\nK:C\n${abc} |\n`);
  if (!xml.ok) throw new Error(xml.issues[0]?.message);
  const score = readScore(new TextEncoder().encode(xml.value));
  if (!score.ok) throw new Error(score.issues[0]?.message);
  const span = { fromIndex: 0, endIndex: score.value.measures.length };
  return handNotes(score.value, span, steadyPace(asQuarterBpm(bpm)));
}

function pathOf(notes: readonly HandNote[], instrument: string, solver: 'strings' | 'sticking'): HandPath {
  const score = { transposition: { chromatic: 0, diatonic: 0, octaveChange: 0 } };
  const path = solveHands(solver, notes, { score, instrument });
  if (!path) throw new Error(`${instrument} has no ${solver}`);
  return path;
}

const choices = ({ notes }: HandPath): string => notes.map(({ choice }) => choice).join(' ');

// Tunings and first position as every method has them; common practice, no source.
describe('strings', () => {
  it('are the open ones of each instrument', () => {
    const midi = (name: string): number => midiOf(parsePitch(name) ?? { step: 'C', alter: 0, octave: 4 });
    expect(stringsOf('Violin I')?.open).toEqual(['G3', 'D4', 'A4', 'E5'].map(midi));
    expect(stringsOf('Violoncello')?.open).toEqual(['C2', 'G2', 'D3', 'A3'].map(midi));
    expect(stringsOf('clarinet')).toBeNull();
  });

  it('are crossed where a scale goes up in first position, and nowhere else', () => {
    const scale = pathOf(notesOf('G,2A,2B,2C2 D2E2F2G2 | A2B2c2d2 e2f2g2z2'), 'violin', 'strings');
    expect(choices(scale)).toBe('IV IV IV IV III III III III II II II II I I I');
    expect(scale.because).toBe('Crosses strings 3 times, as it lies.');
  });

  it('are not crossed to and fro for an open string that the fourth finger has too', () => {
    const turn = pathOf(notesOf('BeBe BeBe BeBe BeBe'), 'violin', 'strings');
    expect(new Set(choices(turn).split(' '))).toEqual(new Set(['II']));
    expect(turn.because).toContain('Crosses no string instead of 15');
    expect(turn.cost).toBeLessThan(turn.plainCost);
  });

  it('are left for a higher place where the line would cross in haste', () => {
    // Over the top of the E string there is nothing but a higher hand.
    const high = pathOf(notesOf("b2c'2d'2e'2 d'2c'2b4"), 'violin', 'strings');
    expect(new Set(choices(high).split(' '))).toEqual(new Set(['I']));
  });
});

describe('what comes again', () => {
  // Common practice, no source: a sticking is learned once and kept.
  it('is stuck the same way, though the hands would come to it another way', () => {
    const path = pathOf(
      notesOf("cdcd c2c2 | c'cc'c c'cc'c | c2 cdcd c2 | cdcd c2c2 | z8", 100),
      'marimba',
      'sticking',
    );
    const own = (index: number): string[] =>
      path.notes.filter(({ measureIndex }) => measureIndex === index).map(({ choice }) => choice);
    expect(own(3)).toEqual(own(0));
    expect(path.notes.every(({ isPinned }) => !isPinned)).toBeTrue();
  });
});

describe('the upper row of a keyboard', () => {
  // Common practice, no source: the edge is nearer to the lower row, the middle sounds best.
  it('is struck at the edge where the rows change quickly, in the middle elsewhere', () => {
    const spots = beatingSpots(notesOf('c^cd^d efef g4g4 | ^c4 ^d4 ^f8 | cdef gfed c8'));
    expect(spots.map(({ measure, spot }) => `${measure} ${spot}`)).toEqual([
      ...['1 edge', '1 edge', '2 middle', '2 middle', '2 middle'],
    ]);
    expect(beatingText(spots)).toBe('Upper row at the edge at 1, in the middle at 2; never over a cord.');
    expect(beatingText([])).toBe('');
  });
});
