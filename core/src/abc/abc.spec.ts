import fc from 'fast-check';
import { addQuarters, pitchName, toNumber, asQuarterBpm } from '../music/index.js';
import { digestScore, readScore, type Score } from '../score/index.js';
import { bytesOf } from '../score/testing/music-xml.js';
import { referenceEngine, type TimemapEntry } from '../score/testing/verovio.js';
import { abcToMusicXml, isAbc } from './index.js';

// Composed for these specs.
const TUNES: Readonly<Record<string, string>> = {
  'a pickup, slurs, dots and a repeat with endings': `X:1
T:Quay Song
M:6/8
L:1/8
Q:3/8=60
K:Bb
F | (DEF) G2A | B2c d3 |: z2 c d>e f/g/ |1 F6 :|2 G6 |]
`,
  'triplets and quintuplets': `X:2
M:4/4
L:1/8
K:G
(3ABc d2 (3efg a2 | (5ABcde f2 g4 | G8 |]
`,
  'chords, ties and rests of several measures': `X:3
M:3/4
L:1/4
K:C
[CEG]3- | [CEG]2 z | Z2 | c3 |]
`,
  'a meter and a key change': `X:4
M:2/4
L:1/8
K:F
A2 B2 | [M:3/4][K:D] f2 c2 A2 | d6 |]
`,
};

function scoreOf(abc: string): Score {
  const xml = abcToMusicXml(abc);
  const read = readScore(bytesOf(xml.ok ? xml.value : ''), { partId: null });
  if (!read.ok) throw new Error(read.issues[0]?.message);
  return read.value;
}

function onsets({ measures, notes }: Score): number[] {
  return notes
    .filter(({ isRest, isGrace }) => !isRest && !isGrace)
    .map(({ measureIndex, onset }) => toNumber(addQuarters(measures[measureIndex]?.start ?? onset, onset)))
    .sort((a, b) => a - b);
}

describe('ABC notation', () => {
  let play: (text: string, repeats: boolean) => readonly TimemapEntry[];

  beforeAll(async () => {
    play = await referenceEngine();
  });

  for (const [name, abc] of Object.entries(TUNES))
    it(`is written as MusicXML that Verovio 6.3 plays as we read it: ${name}`, () => {
      const xml = abcToMusicXml(abc);
      const theirs = play(xml.ok ? xml.value : '', false).flatMap(({ qstamp, on }) =>
        (on ?? []).map(() => qstamp),
      );
      const ours = onsets(scoreOf(abc));
      expect(ours.length).toBe(theirs.length);
      theirs.sort((a, b) => a - b).forEach((start, n) => expect(ours[n]).toBeCloseTo(start, 6));
    });

  // The ABC notation standard 2.1, clauses 4.1 to 4.13: letters, lengths, tuplets, broken rhythm, ties, endings.
  it('has the pitches, lengths and order that its letters say', () => {
    const digest = digestScore(scoreOf(TUNES['a pickup, slurs, dots and a repeat with endings'] ?? ''));
    expect(digest.title).toBe('Quay Song');
    expect(digest.measures.map(({ number, implicit, time }) => [number, implicit, time]).slice(0, 2)).toEqual(
      [
        ['0', true, '6/8'],
        ['1', false, '6/8'],
      ],
    );
    expect(digest.measures[0]?.quarters).toBe(0.5);
    expect(digest.measures[1]?.quarterBpm).toBe(asQuarterBpm(90));
    expect(digest.notes.written.slice(0, 8)).toEqual(['F4', 'D4', 'Eb4', 'F4', 'G4', 'A4', 'Bb4', 'C5']);
    expect(digest.order.map((index) => digest.measures[index]?.number)).toEqual([
      '0',
      '1',
      '2',
      '3',
      '4',
      '3',
      '5',
    ]);
    const dotted = scoreOf(TUNES['a pickup, slurs, dots and a repeat with endings'] ?? '').notes.filter(
      ({ measureIndex, isRest }) => measureIndex === 3 && !isRest,
    );
    expect(dotted.map(({ length }) => toNumber(length))).toEqual([0.5, 0.75, 0.25, 0.25, 0.25]);
  });

  it('keeps an accidental to the bar line, signs, dynamics, ornaments and grace notes', () => {
    const { notes, marks } = scoreOf('X:1\nM:4/4\nL:1/4\nK:C\n!p!.^F F !trill!{g}c !accent!d | F4 |]\n');
    expect(notes.map(({ written }) => written && pitchName(written))).toEqual([
      'F#4',
      'F#4',
      'G5',
      'C5',
      'D5',
      'F4',
    ]);
    expect(notes.map(({ signs }) => signs.accidental)).toEqual(['sharp', null, null, null, null, null]);
    expect(notes[0]?.signs.articulations).toEqual(['staccato']);
    expect(notes[3]?.signs.ornaments).toEqual(['trill']);
    expect(notes[2]?.isGrace).toBeTrue();
    expect(marks.dynamics.map(({ mark }) => mark)).toEqual(['p']);
  });

  it('is told from other texts, and what is no music is refused in a sentence', () => {
    expect(isAbc(TUNES['triplets and quintuplets'] ?? '')).toBeTrue();
    expect(isAbc('<?xml version="1.0"?><score-partwise/>')).toBeFalse();
    const none = abcToMusicXml('X:1\nK:C\n');
    expect(none.ok ? '' : none.issues[0]?.code).toBe('abc-no-music');
  });

  // ABC 2.1, clauses 4.7 (beams), 4.13 and 4.14 (decorations, annotations), 3.2 (fields within the tune).
  it('keeps beams, strokes, rolls and words, and a key or meter at the head of a line', () => {
    const score = scoreOf(
      'X:1\nM:7/8\nL:1/8\nK:Ab\ncd ef gab|\n[K:F][M:2/4]"^pizz."vc2 u!///!d2|[K:E]e4|[K:C clef=treble]c4|]\n',
    );
    const beams = score.notes.filter(({ measureIndex }) => measureIndex === 0).map(({ signs }) => signs.beam);
    expect(beams).toEqual(['begin', 'end', 'begin', 'end', 'begin', 'continue', 'end']);
    expect(score.measures.map(({ fifths }) => fifths)).toEqual([-4, -1, 4, 0]);
    expect(score.measures[1]?.meter).toEqual({ groups: [2], beatType: 4 });
    expect(score.marks.words.map(({ text }) => text)).toEqual(['pizz.']);
    const second = score.notes.filter(({ measureIndex }) => measureIndex === 1).map(({ signs }) => signs);
    expect(second.map(({ techniques }) => techniques)).toEqual([['down-bow'], ['up-bow']]);
    expect(second.map(({ tremolo }) => tremolo)).toEqual([0, 3]);
  });

  it('gives a readable score or one sentence for any damaged text', () => {
    const whole = Object.values(TUNES).join('\n');
    const damaged = fc.array(fc.tuple(fc.nat(whole.length - 1), fc.string({ maxLength: 3 })), {
      minLength: 1,
      maxLength: 6,
    });
    const calm = fc.property(damaged, (changes) => {
      let text = whole;
      for (const [at, put] of changes) text = text.slice(0, at) + put + text.slice(at + 2);
      const xml = abcToMusicXml(text);
      if (!xml.ok) return xml.issues.length === 1;
      const read = readScore(bytesOf(xml.value), { partId: null });
      return read.ok || read.issues.length > 0;
    });
    expect(() => fc.assert(calm, { numRuns: 150 })).not.toThrow();
  });
});
