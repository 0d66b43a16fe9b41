import { inVocabulary, measuresText, measureWord, unitWords, withSigns, type BeatUnit } from './index.js';

describe('Words (US and UK names of values: common practice, no source)', () => {
  it('turn a sentence into the other vocabulary and leave what only looks alike', () => {
    const pairs: readonly (readonly [us: string, uk: string])[] = [
      ['Measure 18 decides the tempo.', 'Bar 18 decides the tempo.'],
      ['in m. 4 and mm. 9–12', 'in bar 4 and bars 9–12'],
      ['dotted quarter, eighth, half', 'dotted crotchet, quaver, minim'],
      ['2 halves, 4 sixteenths, thirty-second', '2 minims, 4 semiquavers, demisemiquaver'],
      ['a half-diminished seventh arpeggio', 'a half-diminished seventh arpeggio'],
      ['112 quarters, a whole note', '112 crotchets, a semibreve'],
      ['quarter note, eighth notes, half rest', 'crotchet, quavers, minim rest'],
    ];
    for (const [us, uk] of pairs) {
      expect(inVocabulary(us, 'us')).toBe(us);
      expect(inVocabulary(us, 'uk')).withContext(us).toBe(uk);
    }
  });

  it('name runs of measures and beat units', () => {
    expect([measuresText('9', '9', 'us'), measuresText('9', '12', 'us')]).toEqual(['m. 9', 'mm. 9–12']);
    expect([measuresText('22A', '22A', 'uk'), measuresText('9', '12', 'uk')]).toEqual([
      'bar 22A',
      'bars 9–12',
    ]);
    expect([measureWord(1, 'uk'), measureWord(2, 'us')]).toEqual(['bar', 'measures']);
    const units: readonly BeatUnit[] = ['quarter', 'dotted-quarter', 'eighth', 'half'];
    expect(units.map((unit) => unitWords(unit, 'uk'))).toEqual([
      'crotchet',
      'dotted crotchet',
      'quaver',
      'minim',
    ]);
  });

  it('print signs with pitch names, at the end of a text too, and leave words alone', () => {
    expect(withSigns('every F#, C#')).toBe('every F♯, C♯');
    expect(withSigns('F#5, not Bb4; Ebb, F##')).toBe('F♯5, not B♭4; E𝄫, F𝄪');
    expect(withSigns('A# major, Bb')).toBe('A♯ major, B♭');
    expect(withSigns('Abbey, Ebb tide, Eb-flat')).toBe('Abbey, E𝄫 tide, E♭-flat');
  });
});
