import { askTempo } from '../music/index.js';
import { readScalePhrase } from './scale-phrase.js';
import { readSpanPhrase } from './find-spans.js';

// Every phrase below is common practice in US and UK print, no source; the format of the answers is docs/formats.md.

describe('readSpanPhrase', () => {
  const read = (text: string): string => {
    const answer = readSpanPhrase(text);
    return 'measures' in answer ? answer.measures.map(({ from, to }) => `${from}…${to}`).join(' ') : '?';
  };
  const cases: readonly (readonly [string, string])[] = [
    ['mm. 1–24', '1…24'],
    ['bars 9 to 16', '9…16'],
    ['m. 22A', '22A…22A'],
    ['from 6 before K to the downbeat of M', 'K-6…M'],
    ['4 after E to 2 before G', 'E+4…G-2'],
    ['pickup to 33 through 48', '33…48'],
    ['beginning to the double bar', 'start…double bar'],
    ['up to, not including, 33', 'start…32'],
    ['figure 12 to 14', 'figure 12…figure 14'],
    ['reh. 3 to 5 before 6', 'figure 3…figure 6-5'],
    ['[C] to [F]', 'C…F'],
    ['mm. 1-12, then skip to 29-end', '1…12 29…end'],
    ['measures 1 to 8, 12 to 20, and 33 to end', '1…8 12…20 33…end'],
    ['third bar of letter C to E', 'C+2…E'],
    ['last 16 bars', 'end-15…end'],
    ['in its entirety', 'start…end'],
    ['from bar 9 onwards', '9…end'],
    ['bars 1–16 (with repeat)', '1…16'],
  ];
  for (const [text, expected] of cases) {
    it(`reads "${text}" as ${expected}`, () => {
      expect(read(text)).toBe(expected);
    });
  }

  it('asks about a run that goes backwards, about two runs to choose from, and about words', () => {
    expect(['mm. 24-12', 'mm. 1-8 or 17-24', 'exposition only', ''].map(read)).toEqual(['?', '?', '?', '?']);
    const either = readSpanPhrase('mm. 1-8 or 17-24');
    expect('candidates' in either ? either.candidates.length : 0).toBe(2);
  });
});

describe('readScalePhrase', () => {
  it('reads key, octaves, note value, tempo, articulation and memory, and nothing that is not stated', () => {
    expect(
      readScalePhrase(
        'B-flat major, two octaves, eighth notes at quarter = 80, slurred up, tongued down, from memory',
      ),
    ).toEqual({
      key: 'Bb major',
      octaves: 2,
      noteValue: 'eighth',
      tempo: { beatUnit: 'quarter', bpmMin: 80, bpmMax: 80, bound: 'exact', words: null },
      articulation: 'slurred up, tongued down',
      memory: true,
    });
    expect(readScalePhrase('G major')).toEqual({ key: 'G major' });
  });

  const keys: readonly (readonly [string, string])[] = [
    ['Concert B♭ major', 'concert Bb major'],
    ['E flat minor (harmonic)', 'Eb harmonic minor'],
    ['F# melodic minor', 'F# melodic minor'],
    ['A minor, melodic', 'A melodic minor'],
    ['a minor, 2 octaves', 'A minor'],
    ['C sharp minor (natural form)', 'C# natural minor'],
    ['G♭ MAJOR', 'Gb major'],
  ];
  for (const [text, key] of keys) {
    it(`reads the key of "${text}" as ${key}`, () => {
      const read = readScalePhrase(text);
      expect('key' in read ? read.key : null).toBe(key);
    });
  }

  it('counts a twelfth as one and a half octaves', () => {
    expect([readScalePhrase('F major, a twelfth'), readScalePhrase('F major, 2½ octaves')]).toEqual([
      { key: 'F major', octaves: 1.5 },
      { key: 'F major', octaves: 2.5 },
    ]);
  });

  it('keeps a range as printed and takes no key from it', () => {
    expect(readScalePhrase('Chromatic, low B♭ to high G, triplet eighths')).toEqual({
      range: { low: 'low Bb', high: 'high G' },
      noteValue: 'eighth-triplet',
    });
  });

  it('gives two keys of one line as keys, and asks where one of two must be chosen', () => {
    expect(readScalePhrase('G major and E minor')).toEqual({ keys: ['G major', 'E minor'] });
    expect(Object.keys(readScalePhrase('G major or E minor'))).toEqual(['question', 'candidates']);
    expect(Object.keys(readScalePhrase('D major, two octaves, at 120'))).toEqual(['question', 'candidates']);
    expect(Object.keys(readScalePhrase('D major, two or three octaves'))).toEqual(['question', 'candidates']);
  });
});

describe('askTempo', () => {
  it('asks which note a bare number counts, and what a lost sign was', () => {
    for (const text of ['120 bpm', '= 72', '� = 96', 'eighth notes at 100'])
      expect(askTempo(text))
        .withContext(text)
        .toEqual(jasmine.objectContaining({ code: 'tempo-without-unit' }));
  });

  it('takes the same pulse counted twice for one tempo, and two pulses for a question', () => {
    expect(askTempo('♩ = 80 (♪ = 160)')).toEqual({
      mark: { beatUnit: 'quarter', bpmMin: 80, bpmMax: 80, bound: 'exact', words: null },
    });
    const two = askTempo('♩ = 60 for the first section, ♩ = 88 from m. 33');
    expect('candidates' in two ? two.candidates.map(({ bpmMin }) => bpmMin) : []).toEqual([60, 88]);
  });
});
