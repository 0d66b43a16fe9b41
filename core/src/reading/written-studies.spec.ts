import { differenceTexts, findingsOf, readMusic, soloLine, type MusicReading } from './index.js';
import { writtenStudy } from './testing/written-studies.js';
import type { Score } from '../score/index.js';

/**
 * Four short studies composed for this spec with what a reader should find written down beside them: the whole list of
 * each kind, so that what is found too much fails as well as what is missed. What is worth telling in them is common
 * practice, no source.
 */
function reading(score: Score): MusicReading {
  return readMusic(score, { instrument: null, bpm: null });
}

describe('A march in G minor for a trumpet in B♭, written by hand', () => {
  const score = writtenStudy(
    { instrument: 'Trumpet in B♭', fifths: -2, meter: '4/4', bpm: 108, transpose: [-1, -2] },
    [
      '{mf} G4 e. accent; A4 s; Bb4 e staccato; C5 e staccato; D5 q tenuto; D5 e staccato; C5 e staccato',
      'Bb4 e. accent; A4 s; G4 e staccato; F#4 e !# staccato; G4 h t(',
      'G4 e t); A4 e staccato; Bb4 e staccato; C5 e staccato; D5 e (; Eb5 e; F5 e; G5 e )',
      'A5 q accent; F#5 q !# accent; G5 h trill-mark',
      '{[A]} G4 e. accent; A4 s; Bb4 e staccato; C5 e staccato; D5 q tenuto; D5 e staccato; C5 e staccato',
      // The leading note is none here.
      'Bb4 e. accent; A4 s; G4 e staccato; F4 e !n staccato; G4 h t(',
      // The run goes up by other steps.
      'G4 e t); A4 e staccato; Bb4 e staccato; C5 e staccato; D5 e (; En5 e !n; F#5 e !#; G5 e )',
      // No second accent, no trill.
      'A5 q accent; F#5 q !#; G5 h',
      '{[B]} {p} {crescendo} D5 s (; Eb5 s; F5 s; G5 s ); A5 s staccato; G5 s staccato; F5 s staccato; Eb5 s staccato; D5 s (; C5 s; Bb4 s; A4 s ); G4 q',
      'D5 s (; Eb5 s; F5 s; G5 s ); A5 s staccato; G5 s staccato; F5 s staccato; Eb5 s staccato; D5 s (; C5 s; Bb4 s; A4 s ); Bb4 q',
      'D5 s (; Eb5 s; F5 s; G5 s ); A5 s staccato; G5 s staccato; F5 s staccato; E5 s !n staccato; D5 s (; C5 s; Bb4 s; A4 s ); G4 q',
      '{stop} {f} G5 q accent; r q; D5 q. fermata; r e',
      '{mp} Bb4 h. (; C5 q )',
      'D5 e 3:2 (; C5 e 3:2; Bb4 e 3:2 ); A4 e 3:2 (; Bb4 e 3:2; C5 e 3:2 ); Bb4 h breath-mark',
      'C5 h.. turn; D5 e',
      // Among double dots a single one.
      'C5 h.; D5 q',
      'C5 h..; D5 e',
      'G4 s slashed-grace; Bb4 q; A4 s (; Bb4 s ); C5 e staccato; D5 q staccato tenuto; G4 q strong-accent',
    ],
  );
  const read = reading(score);

  it('comes back exactly once, and otherwise with a pitch, a sign or an ornament changed', () => {
    expect(read.exactRepeats).toEqual([{ a: '1', b: '5' }]);
    expect(
      read.nearRepeats.map(
        ({ a, b, differences }) => `${b} like ${a}: ${differenceTexts(differences).join('; ')}`,
      ),
    ).toEqual([
      '6 like 2: note 4 is F4, not F#4',
      '7 like 3: note 5 is E5, not Eb5; note 6 is F#5, not F5',
      '8 like 4: note 2 is tongued, not accent; note 3 is without the trill',
      '10 like 9: note 13 is Bb4, not G4; the crescendo goes on here',
      '11 like 9: note 8 is E5, not Eb5; the crescendo goes on here',
    ]);
  });

  it('has four notes that reach the eye too late, one dot too few and no trap in its meter', () => {
    expect(read.surprises.map(({ measure, note }) => `${note} in ${measure}`)).toEqual([
      'F5 in 3',
      'E5 in 7',
      'F5 in 9',
      'E5 in 11',
    ]);
    expect(read.oddOnesOut.map(({ measure, note, what }) => [measure, note, what])).toEqual([
      ['16', 1, 'single dot'],
    ]);
    expect(read.meterTraps).toEqual([]);
  });

  it('runs along scales that a warm-up has', () => {
    expect(read.runs.map(({ measure, from, to, scale }) => `${measure}: ${from}–${to} ${scale}`)).toEqual([
      '3: A4–A5 Bb major',
      '7: A4–A5 G melodic minor',
      '9: D5–A5 Bb major',
      '9: A5–G4 Bb major',
      '10: D5–A5 Bb major',
      '10: A5–A4 Bb major',
      '11: D5–A5 Bb major',
      '11: A5–G4 F major',
    ]);
  });

  it('sounds a whole tone lower, ties its cadences and breathes where its signs say', () => {
    expect(read.range).toEqual({ written: { low: 'F4', high: 'A5' }, sounding: { low: 'Eb4', high: 'G5' } });
    expect(
      read.ties.map(({ measure, note, subdivisions, subdivision }) => [
        measure,
        note,
        subdivisions,
        subdivision,
      ]),
    ).toEqual([
      ['2', 'G4', 10, 'sixteenth'],
      ['6', 'G4', 10, 'sixteenth'],
    ]);
    expect(read.ornaments).toEqual([
      { measure: '4', kind: 'trill', note: 'G5', neighbour: 'A', other: null, by: 'key' },
      { measure: '15', kind: 'turn', note: 'C5', neighbour: 'D', other: 'Bb', by: 'key' },
      { measure: '18', kind: 'grace-slashed', note: 'G4', neighbour: null, other: null, by: null },
    ]);
    expect(read.breathingPlaces.filter(({ kind }) => kind !== 'long note')).toEqual([
      { measure: '12', beat: 2, kind: 'rest' },
      { measure: '12', beat: 4.5, kind: 'rest' },
      // On the bar line, at the end of its measure.
      { measure: '14', beat: 5, kind: 'breath mark' },
    ]);
    expect(read.longestHeld).toEqual({ measure: '15', quarters: 3.5, seconds: 1.944444 });
  });

  it('grows by levels through its crescendo and is decided where it is tongued in sixteenths', () => {
    expect(
      read.dynamicsAdvice
        .filter(({ why }) => why.startsWith('Step'))
        .map(({ measure, mark }) => [measure, mark]),
    ).toEqual([
      ['9', 'mp'],
      ['10', 'mf'],
      ['11', 'f'],
    ]);
    // Four sixteenths at ♩=108: 4 × 108 / 60.
    expect(read.deciding).toEqual(jasmine.objectContaining({ measure: '11', notesPerSecond: 7.2 }));
  });
});

describe('A study for snare drum, written by hand', () => {
  const five = (cut: 2 | 3): string =>
    [0, 1, 2, 3, 4]
      .map((n) => {
        const begins = n === 0 || n === cut;
        const ends = n === cut - 1 || n === 4;
        return `x e beam-${begins ? 'begin' : ends ? 'end' : 'continue'}${begins ? ' accent' : ''}`;
      })
      .join(';');
  const score = writtenStudy({ instrument: 'Snare Drum', fifths: 0, meter: '2/4', bpm: 120 }, [
    '{f} x e accent; x s; x s; x e accent; x s; x s',
    'x e accent; x s; x s; x e accent; x s; x s',
    // With flams.
    'x s slashed-grace; x e accent; x s; x s; x s slashed-grace; x e accent; x s; x s',
    // Without its first accent.
    'x e; x s; x s; x e accent; x s; x s',
    'x e accent; x s; x s; x e accent; x s; x s',
    'x h roll t(',
    'x e t) accent; x e; x q',
    `{5/8} {p} ${five(2)}`,
    five(2),
    five(3),
    five(2),
    '{2/4} {crescendo} x s; x s; x s; x s; x s; x s; x s; x s',
    'x s accent; x s; x s; x s accent; x s; x s; x s accent; x s',
    '{stop} {ff} x s grace; x s grace; x e accent; r e; x e strong-accent; r e',
  ]);
  const read = reading(score);

  it('tells strokes with flams from strokes without', () => {
    expect(read.exactRepeats).toEqual([
      { a: '1', b: '2' },
      { a: '1', b: '5' },
      { a: '8', b: '9' },
      { a: '8', b: '11' },
    ]);
    expect(
      read.nearRepeats.map(
        ({ a, b, differences }) => `${b} like ${a}: ${differenceTexts(differences).join('; ')}`,
      ),
    ).toEqual([
      '3 like 1: note 1 has a slashed grace note; note 4 has a slashed grace note',
      '4 like 1: note 1 is tongued, not accent',
      '10 like 9: note 3 is tongued, not accent; note 4 is accent, not tongued; grouped 3+2, not 2+3',
    ]);
    expect(findingsOf(score, soloLine(score), { reading: read }).map(({ title }) => title)).toContain(
      'The same notes, ornamented otherwise.',
    );
  });

  it('misses the accent of 4 and counts the five of 10 in another way', () => {
    expect(read.oddOnesOut).toContain(jasmine.objectContaining({ measure: '4', note: 1, what: 'accent' }));
    expect(read.oddOnesOut).toContain(jasmine.objectContaining({ measure: '10', note: 3, what: 'accent' }));
    expect(read.meterTraps).toEqual([{ measures: ['10'], reads: '5/8 as 2+3', sounds: '3+2' }]);
  });

  it('has no pitch, a roll of two and a half quarters and drags before its end', () => {
    expect(read.range).toEqual({ written: null, sounding: null });
    expect(read.names).toEqual([]);
    expect(read.longestHeld).toEqual({ measure: '6', quarters: 2.5, seconds: 1.25 });
    expect(read.ornaments.map(({ measure, kind }) => `${measure} ${kind}`)).toEqual([
      '3 grace-slashed',
      '3 grace-slashed',
      '6 tremolo',
      '14 grace',
      '14 grace',
    ]);
  });
});

describe('A pastoral in 6/8 for an oboe, written by hand', () => {
  const fall = (notes: string, { from = 1, signs = '' } = {}): string => {
    const [a, b, c, end] = notes.split(' ');
    const hairpin = (n: number): string => (n === from ? '{crescendo} ' : '');
    return `${hairpin(1)}${a} e staccato; ${hairpin(2)}${b} e staccato; ${c} e staccato; {stop} ${end} q. ${signs}`;
  };
  const rise = (notes: string): string => {
    const [a, b, c, d] = notes.split(' ');
    return `${a} q (; ${b} e; ${c} q; ${d} e )`;
  };
  const score = writtenStudy(
    { instrument: 'Oboe', fifths: 1, meter: '6/8', bpm: 72, unit: 'dotted quarter' },
    [
      `{mf} ${rise('G4 A4 B4 D5')}`,
      fall('C5 B4 A4 G4'),
      rise('A4 B4 C5 E5'),
      fall('D5 C5 B4 A4'),
      rise('B4 C5 D5 F#5'),
      fall('E5 D5 C5 B4'),
      rise('C5 D5 E5 G5'),
      // The hairpin of this fall begins a note later.
      fall('F5 E5 D5 C5', { from: 2 }).replace('F5 e', 'F5 e !n'),
      // Two measures in three.
      'D5 q; G5 q; F#5 q',
      'E5 e beam-begin; D5 e beam-end; C5 e beam-begin; B4 e beam-end; A4 e beam-begin; G4 e beam-end',
      'F#4 q.; r q.',
      rise('G4 A4 B4 D5'),
      fall('C5 B4 A4 G4'),
      rise('A4 B4 C5 E5'),
      fall('D5 C#5 B4 A4', { signs: 'trill-mark' }).replace('C#5 e', 'C#5 e !#'),
      rise('B4 C5 D5 F#5'),
      'G5 q.; G4 q. mordent',
    ],
  );
  const read = reading(score);

  it('comes back with one note and a trill new', () => {
    expect(read.exactRepeats).toEqual([
      { a: '1-3', b: '12-14' },
      { a: '5', b: '16' },
    ]);
    expect(
      read.nearRepeats.map(
        ({ a, b, differences }) => `${b} like ${a}: ${differenceTexts(differences).join('; ')}`,
      ),
    ).toEqual(['15 like 4: note 2 is C#5, not C5; note 4 has a trill']);
  });

  it('has one hairpin that begins late, two measures in three and four notes to look twice at', () => {
    expect(read.oddOnesOut.map(({ measure, note, what }) => [measure, note, what])).toEqual([
      ['8', 2, 'crescendo'],
    ]);
    expect(read.meterTraps).toEqual([{ measures: ['9', '10'], reads: '6/8', sounds: '3/4' }]);
    expect(read.surprises.map(({ measure, note }) => `${note} in ${measure}`)).toEqual([
      'F5 in 8',
      'F#5 in 9',
      'C#5 in 15',
      'C5 in 16',
    ]);
  });

  it('is two rhythms for the most part, one run and a single level to be spread', () => {
    expect(read.patterns.map(({ measures }) => measures)).toEqual([
      ['1', '3', '5', '7', '12', '14', '16'],
      ['2', '4', '6', '8', '13', '15'],
    ]);
    expect(read.runs.map(({ measure, from, to, scale }) => `${measure}: ${from}–${to} ${scale}`)).toEqual([
      '10: E5–F#4 G major',
    ]);
    expect(read.dynamicsAdvice).toEqual([jasmine.objectContaining({ measure: '1', mark: 'mp' })]);
    expect(read.ornaments.map(({ note, neighbour }) => [note, neighbour])).toEqual([
      ['A4', 'B'],
      ['G4', 'F#'],
    ]);
  });
});

describe('A study in D major for a cello, written by hand', () => {
  const phrase = (line: string): string => {
    const notes = line.split(' ');
    return notes.map((note, n) => `${note}${n === 0 ? ' (' : n === notes.length - 1 ? ' )' : ''}`).join(';');
  };
  const slurred = (line: string, value: string): string =>
    phrase(line)
      .split(';')
      .map((note) => note.replace(/^(\S+)/u, `$1 ${value}`))
      .join(';');
  const turn = (line: string): string => {
    const [a = '', b = '', c = '', d = ''] = line.split(' ');
    return `${a} q (;${b} e;${c} e;${d} q )`;
  };
  const score = writtenStudy({ instrument: 'Violoncello', fifths: 2, meter: '3/4', bpm: 84 }, [
    `{f} ${slurred('D3 F#3 A3', 'q')}`,
    turn('G3 F#3 E3 D3'),
    slurred('E3 G3 B3', 'q'),
    turn('A3 G3 F#3 E3'),
    slurred('F#3 A3 C#4', 'q'),
    turn('B3 A3 G3 F#3'),
    slurred('G3 B3 D4', 'q'),
    // The sequence leads to C♯.
    turn('Cn4 B3 A3 G3').replace('Cn4 q', 'Cn4 q !n'),
    `{p} ${slurred('D3 E3 F#3 G3', 's')};${slurred('A3 B3 C#4 D4', 's')};E4 q`,
    `${slurred('E4 D4 C#4 B3', 's')};${slurred('A3 G3 F#3 E3', 's')};D3 q`,
    // The run comes back with one sharp more.
    `${slurred('D3 E3 F#3 G#3', 's').replace('G#3 s', 'G#3 s !#')};${slurred('A3 B3 C#4 D4', 's')};E4 q`,
    // Two beats of three quavers in three.
    'E4 e (;D4 q;C#4 q;B3 e )',
    `${slurred('A3 C#4 E4 A4', 's')};${slurred('G4 E4 C#4 A3', 's')};G3 q`,
    '{ff} F#4 q;E4 e;D4 e;C#4 q',
    'D4 h. t(',
    'D4 q t); r q; r q',
  ]);
  const read = reading(score);

  it('comes back once, with one sharp more', () => {
    expect(read.exactRepeats).toEqual([]);
    expect(
      read.nearRepeats.map(
        ({ a, b, differences }) => `${b} like ${a}: ${differenceTexts(differences).join('; ')}`,
      ),
    ).toEqual(['11 like 9: note 4 is G#3, not G3']);
    expect(read.surprises.map(({ measure, note }) => `${note} in ${measure}`)).toEqual([
      'C4 in 8',
      'C#4 in 9',
      'G#3 in 11',
    ]);
    expect(read.meterTraps).toEqual([{ measures: ['12'], reads: '3/4', sounds: '6/8' }]);
    expect(read.oddOnesOut).toEqual([]);
  });

  it('runs along three scales and two chords, and along none across its phrases', () => {
    expect(read.runs.map(({ measure, from, to, scale }) => `${measure}: ${from}–${to} ${scale}`)).toEqual([
      '9: D3–E4 D major',
      '10: E4–D3 D major',
      '11: D3–E4 A major',
      '13: A3–A4 A major arpeggio',
      '13: G4–A3 A dominant seventh arpeggio',
    ]);
  });

  it('shows line, holds its last note for four quarters and is written where it sounds', () => {
    expect(read.shows[0]?.what).toBe('line and tone');
    // Four quarters at ♩=84: 4 × 60 / 84.
    expect(read.longestHeld).toEqual({ measure: '15', quarters: 4, seconds: 2.857143 });
    expect(read.range).toEqual({ written: { low: 'D3', high: 'A4' }, sounding: { low: 'D3', high: 'A4' } });
    expect(read.deciding).toEqual(jasmine.objectContaining({ measure: '13', notesPerSecond: 5.6 }));
  });
});
