import { Key, Note, Scale } from 'tonal';
import { digestScore, readScore } from '../score/index.js';
import { midiOf, parsePitch, pitchName, type Pitch } from '../music/index.js';
import { readScaleKey, scaleInstrument, scaleNotes, writtenKey, type ScaleKey } from './scale-notes.js';
import { fifthsOf, scaleScore } from './scale-score.js';

const pitch = (name: string): Pitch => parsePitch(name) ?? { step: 'C', alter: 0, octave: 4 };
const keyOf = (text: string): ScaleKey => {
  const read = readScaleKey(text);
  if (!read.ok) throw new Error(text);
  return read.value;
};
const WIDE = { low: pitch('C3'), high: pitch('C8') };

describe('scaleNotes', () => {
  // tonal 6.4.3 is the reference for the notes of the forms; "minor" there is the natural form, and its melodic minor
  // is the rising one.
  const TONICS = ['C', 'G', 'D', 'A', 'E', 'B', 'F#', 'C#', 'F', 'Bb', 'Eb', 'Ab', 'Db', 'Gb'];
  const FORMS = [
    ['major', 'major'],
    ['natural minor', 'minor'],
    ['harmonic minor', 'harmonic minor'],
    ['melodic minor', 'melodic minor'],
  ] as const;
  for (const [form, reference] of FORMS) {
    it(`spells ${form} up as tonal does, from fourteen tonics`, () => {
      for (const tonic of TONICS) {
        const notes = scaleNotes(keyOf(`${tonic} ${form}`), 1, WIDE);
        const names = notes.ok
          ? notes.value.slice(0, 7).map((one) => pitchName(one).replace(/-?\d/u, ''))
          : [];
        expect(names)
          .withContext(tonic)
          .toEqual(Scale.get(`${tonic} ${reference}`).notes);
      }
    });
  }

  it('comes down melodic minor in the natural form and mirrors the others', () => {
    const notes = scaleNotes(keyOf('A melodic minor'), 1, WIDE);
    expect(notes.ok ? notes.value.map(pitchName) : []).toEqual([
      'A3',
      'B3',
      'C4',
      'D4',
      'E4',
      'F#4',
      'G#4',
      'A4',
      'G4',
      'F4',
      'E4',
      'D4',
      'C4',
      'B3',
      'A3',
    ]);
  });

  it('sounds every semitone of a chromatic octave, in sharps up and flats down', () => {
    const notes = scaleNotes({ step: 'F', alter: 0, form: 'chromatic', isConcert: false }, 1, WIDE);
    const heights = notes.ok ? notes.value.map(midiOf) : [];
    expect(heights.slice(0, 13)).toEqual(Array.from({ length: 13 }, (_, n) => (Note.midi('F3') ?? 0) + n));
    expect(notes.ok && notes.value.slice(0, 13).every(({ alter }) => alter >= 0)).toBeTrue();
    expect(notes.ok && notes.value.slice(13).every(({ alter }) => alter <= 0)).toBeTrue();
  });

  it('takes a twelfth to the fifth above the octave', () => {
    const notes = scaleNotes(keyOf('Bb major'), 1.5, WIDE);
    expect(notes.ok ? pitchName(notes.value[11] ?? pitch('C4')) : '').toBe('F5');
  });

  it('says how many octaves fit where the order does not', () => {
    const clarinet = scaleInstrument('B♭ clarinet');
    const notes = clarinet.ok ? scaleNotes(keyOf('D major'), 4, clarinet.value) : clarinet;
    expect(notes.ok ? '' : notes.issues[0]?.message).toContain('; 2 octaves do');
  });
});

describe('scaleScore', () => {
  it('carries the signature that tonal gives the key', () => {
    for (const tonic of ['C', 'G', 'D', 'A', 'E', 'B', 'F', 'Bb', 'Eb', 'Ab', 'Db']) {
      expect(fifthsOf(keyOf(`${tonic} major`)))
        .withContext(tonic)
        .toBe(Key.majorKey(tonic).alteration);
    }
    for (const tonic of ['A', 'E', 'B', 'F#', 'C#', 'D', 'G', 'C', 'F']) {
      expect(fifthsOf(keyOf(`${tonic} harmonic minor`)))
        .withContext(tonic)
        .toBe(Key.minorKey(tonic).alteration);
    }
  });

  it('writes a concert key for the transposing instrument so that it sounds as asked', () => {
    const alto = scaleInstrument('Alto Saxophone');
    if (!alto.ok) throw new Error('alto');
    const order = {
      title: 'Concert E♭ major',
      key: keyOf('concert Eb major'),
      octaves: 2,
      noteValue: 'eighth' as const,
      tempo: { bpm: 80, beatUnit: 'quarter' as const },
      articulation: 'slur two, tongue two',
      instrument: alto.value,
    };
    expect(writtenKey(order.key, alto.value)).toEqual(jasmine.objectContaining({ step: 'C', alter: 0 }));
    const text = scaleScore(order);
    const read = readScore(new TextEncoder().encode(text.ok ? text.value : ''), {});
    if (!read.ok) throw new Error(read.issues[0]?.message);
    const digest = digestScore(read.value);
    expect(digest.warnings).toEqual([]);
    expect(digest.notes.written.slice(0, 3)).toEqual(['C4', 'D4', 'E4']);
    expect(digest.notes.sounding.slice(0, 8).map((name) => name.replace(/\d/u, ''))).toEqual([
      ...Scale.get('Eb major').notes,
      'Eb',
    ]);
    // 29 notes of an eighth at ♩=80 and the rest of the measure: four measures of four quarters last 12 s.
    expect(digest.seconds.straight).toBeCloseTo(12, 9);
  });
});
