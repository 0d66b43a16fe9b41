import { compareQuarters, quarters, toNumber } from '../music/index.js';
import { digestScore, readScore, type MeasureDigest } from '../score/index.js';
import { abcToMusicXml } from '../abc/index.js';
import {
  abcMeasures,
  abcTokens,
  KEY_ENTRY,
  keyed,
  playedPitch,
  scoreOfPaper,
  typedAt,
  typedWork,
  withPitch,
  withTyped,
  worthTyping,
  type Keyed,
  type PaperMusic,
} from './index.js';

const PAPER: PaperMusic = { title: null, line: '1–8 4/4; 2 flats; 5 3/4', typed: [], pages: [] };
const FULL = [quarters(4, 1), quarters(4, 1), quarters(4, 1), quarters(4, 1)];

function typed(keys: string | readonly string[], lengths = FULL): string {
  let line: Keyed = { text: '', entry: KEY_ENTRY };
  for (const key of keys) line = keyed(line, key, lengths) ?? line;
  return line.text;
}

describe('an ABC line in its pieces', () => {
  // The ABC notation standard 2.1: clause 4.3 (lengths), 4.4 (broken rhythm), 4.13 (tuplets), 4.5 (rests), 4.17 (chords).
  const lines: readonly (readonly [string, readonly number[]])[] = [
    ['A B2 c/ d/2 e// f3/2', [2.875]],
    ['A>B c<d e>>f', [3]],
    ['(3ABc (5ABcde f2 | z4 | [CEG]2 [C2E2G2] x2', [3, 2, 3]],
    ["(3:2:2A2B c | ^A,, =b'' __d", [1.5, 1.5]],
    ['(AB) .c ~d {ag}e !f!f "Am"g | A-|A', [3.5, 0.5, 0.5]],
  ];
  for (const [line, lengths] of lines)
    it(`has the lengths that the reference parser gives: ${line}`, () => {
      const measures = abcMeasures(abcTokens(line));
      expect(measures.map(({ length }) => toNumber(length))).toEqual([...lengths]);
      // Against abcjs, through MusicXML and the score reader.
      const xml = abcToMusicXml(`X:1\nM:none\nL:1/8\nK:C\n${line}\n`);
      const score = xml.ok ? readScore(new TextEncoder().encode(xml.value)) : xml;
      if (!score.ok) throw new Error(score.issues[0]?.message);
      const sums = score.value.measures.map(({ index }) =>
        score.value.notes
          .filter((note) => note.measureIndex === index && !note.isGrace && !note.isChordMember)
          .reduce((sum, { length }) => sum + toNumber(length), 0),
      );
      expect(sums.filter((one) => one > 0).map((one) => Math.round(one * 1e6) / 1e6)).toEqual([...lengths]);
    });

  it('has every character in some piece, and tells those that are nothing', () => {
    const line = 'A2 ä | q B H! §';
    const tokens = abcTokens(line);
    expect(tokens.map(({ text }) => text).join('')).toBe(line);
    expect(tokens.filter(({ kind }) => kind === 'wrong').map(({ text, start }) => [text, start])).toEqual([
      ['ä', 3],
      ['q', 7],
      ['!', 12],
      ['§', 14],
    ]);
  });
});

describe('notes entered by keys', () => {
  it('lie in the octave nearest the last, and bar lines come by themselves', () => {
    // From B4 the nearest C is C5, from there the nearest G is G4, a fourth below.
    expect(typed('4bcgd')).toBe('B2 c2 G2 D2 | ');
    expect(typed('4gcfb').trim()).toBe('G2 c2 f2 b2 |');
    expect(typed('8bagf4g2b')).toBe('BA GF G2 B4 | ');
    expect(typed('1b1c1d1e')).toBe('B8 | c8 | d8 | e8');
  });

  it('take dots, accidentals, rests, ties, slurs, triplets and staccato', () => {
    expect(typed('4.b8a4rr')).toBe('B3A z2 z2 | ');
    expect(typed('4+f-b=ec').trim()).toBe('^F2 _B2 =e2 c2 |');
    expect(typed(['2', 'b', 't', 'b'])).toBe('B4- B4 | ');
    expect(typed(['4', 's', 'b', 'c', 's', 'd', 'e']).replace(/\s+/gu, ' ')).toBe('(B2 c2) d2 e2 | ');
    expect(typed('8ubcd4e2f').replace(/\s+/gu, ' ')).toBe('(3Bcd e2 f4 | ');
    expect(typed('8,bc').trim()).toBe('.B.c');
    expect(typed(['4', 'b', 'ArrowUp', 'c', 'ArrowDown', 'ArrowDown'])).toBe('b2 C2 ');
    expect(typed(['4', 'b', 'c', 'Backspace', 'd', 'q'])).toBe('B2 d2 ');
  });

  it('are spelled by the key where a keyboard plays them', () => {
    // MIDI 1.0: 60 is middle C.
    expect([60, 61, 70, 72, 47, 84].map((midi) => playedPitch(midi, 0))).toEqual([
      'C',
      '^C',
      '^A',
      'c',
      'B,,',
      "c'",
    ]);
    // In two flats B flat and E flat are written without a sign, their naturals with one.
    expect([70, 71, 63, 66].map((midi) => playedPitch(midi, -2))).toEqual(['B', '=B', 'E', '_G']);
    expect([66, 65].map((midi) => playedPitch(midi, 1))).toEqual(['F', '=F']);
    const line = withPitch({ text: '', entry: { ...KEY_ENTRY, accidental: '^', value: 4 } }, '_E', FULL);
    expect(line.text).toBe('_E2 ');
  });
});

describe('a passage while it is typed', () => {
  it('says at the letter what is wrong, and which measures it is about', () => {
    const work = typedWork(PAPER, { from: '3', abc: 'B2 d2 f4 | g4 ? a4 |', clef: 'treble' });
    expect(work.issues.map(({ start, end }) => [start, end])).toEqual([[14, 15]]);
    const short = typedWork(PAPER, { from: '3', abc: 'B2 d2 f2 | g4 a4 | b6 |', clef: 'treble' });
    expect(short.issues).toEqual([
      { start: 0, end: 8, message: 'Measure 3 has 3 quarter notes as typed; 4/4 holds 4 quarter notes.' },
    ]);
    expect(short.numbers).toEqual(['3', '4', '5']);
    expect(short.lengths.map((one) => compareQuarters(one, quarters(4, 1)))).toEqual([0, 0, -1, -1, -1, -1]);
    expect(short.fifths).toBe(-2);
    expect(short.musicXml).toContain('<fifths>-2</fifths>');
    expect(typedWork(PAPER, { from: '40', abc: 'B8', clef: 'treble' }).issues[0]?.message).toBe(
      'There is no measure 40; tell it first.',
    );
    expect(typedWork(PAPER, { from: '3', abc: ' ', clef: 'treble' })).toEqual(
      jasmine.objectContaining({ musicXml: null, issues: [] }),
    );
  });

  it('takes the place of the one that begins where it begins', () => {
    const one = withTyped(PAPER, { from: '3', abc: 'B8 | c8', clef: 'treble' });
    const two = withTyped(one, { from: '3', abc: 'd8', clef: 'bass' });
    expect(two.typed).toEqual([{ from: '3', abc: 'd8', clef: 'bass' }]);
    expect(['2', '3', '4', '5'].map((number) => typedAt(one, number)?.from ?? null)).toEqual([
      null,
      '3',
      '3',
      null,
    ]);
  });
});

describe('what is worth typing first', () => {
  const measuresOf = (line: string, more: Partial<PaperMusic> = {}): readonly MeasureDigest[] => {
    const score = scoreOfPaper({ title: null, line, typed: [], pages: [], ...more });
    if (!score.ok) throw new Error(score.issues[0]?.message);
    return digestScore(score.value).measures;
  };

  it('are the measures with the most notes that were told, until they are typed', () => {
    const line = '1–24 4/4; 5 eighths; 17–20 sixteenths; 23 sixteenths';
    expect(worthTyping(measuresOf(line))).toEqual({
      runs: [
        { fromIndex: 16, endIndex: 20 },
        { fromIndex: 22, endIndex: 23 },
      ],
      count: 5,
    });
    const typedFour = { typed: [{ from: '17', abc: 'B8|B8|B8|B8', clef: 'treble' as const }] };
    expect(worthTyping(measuresOf(line, typedFour))?.runs).toEqual([{ fromIndex: 22, endIndex: 23 }]);
    expect(worthTyping(measuresOf('1–24 4/4'))).toBeNull();
  });
});
