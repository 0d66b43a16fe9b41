import { inFonts, inWords } from './pieces';

describe('texts of a report', () => {
  it('are set in the font that has their letters: notes, accidentals and letters with marks', () => {
    expect(inFonts('Łucja plays E♭ at ♩=66')).toEqual([
      { text: 'Ł', font: 'More' },
      { text: 'ucja plays E' },
      { text: '♭', font: 'Notes' },
      { text: ' at ' },
      { text: '♩', font: 'Notes' },
      { text: '=66' },
    ]);
    expect(inFonts('')).toEqual([{ text: '' }]);
  });

  it('keep lines even: tempos as numbers, accidentals in words', () => {
    expect(inWords('played clean at ♩=86; the sheet asks ♩.=116, B♭ and F♯')).toBe(
      'played clean at 86; the sheet asks 116, B flat and F sharp',
    );
  });
});
