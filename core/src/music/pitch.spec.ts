import fc from 'fast-check';
import { Interval, Key, Note } from 'tonal';
import {
  alterInKey,
  midiOf,
  parsePitch,
  pitchName,
  tonicOf,
  transposePitch,
  type Pitch,
  type Step,
  signatureWords,
} from './index.js';

const pitch: fc.Arbitrary<Pitch> = fc.record({
  step: fc.constantFrom<Step>('C', 'D', 'E', 'F', 'G', 'A', 'B'),
  alter: fc.integer({ min: -1, max: 1 }),
  octave: fc.integer({ min: 0, max: 8 }),
});

describe('pitch', () => {
  it('numbers and names notes like tonal 6.4.3', () => {
    const agrees = fc.property(
      pitch,
      (p) => Note.midi(pitchName(p)) === midiOf(p) || midiOf(p) < 0 || midiOf(p) > 127,
    );
    expect(() => fc.assert(agrees)).not.toThrow();
  });

  it('reads back every name it writes', () => {
    const roundTrip = fc.property(
      pitch,
      (p) => pitchName(parsePitch(pitchName(p)) ?? { ...p, octave: -9 }) === pitchName(p),
    );
    expect(() => fc.assert(roundTrip)).not.toThrow();
  });

  it('transposes for B♭, F, E♭ and A instruments as tonal does', () => {
    const cases = [
      [{ diatonic: -1, chromatic: -2, octaveChange: 0 }, '-2M'],
      [{ diatonic: -4, chromatic: -7, octaveChange: 0 }, '-5P'],
      [{ diatonic: -5, chromatic: -9, octaveChange: 0 }, '-6M'],
      [{ diatonic: -2, chromatic: -3, octaveChange: 0 }, '-3m'],
      [{ diatonic: -1, chromatic: -2, octaveChange: -1 }, '-9M'],
    ] as const;
    for (const [by, interval] of cases) {
      for (const name of ['C5', 'F#4', 'Bb4', 'E4', 'G5']) {
        const written = parsePitch(name);
        expect(written && pitchName(transposePitch(written, by)))
          .withContext(`${name} ${interval}`)
          .toBe(Note.transpose(name, interval));
      }
    }
    expect(Interval.semitones('-9M')).toBe(-14);
  });
});

describe('key signatures', () => {
  it('alter the letters that tonal alters, from seven flats to seven sharps', () => {
    for (let fifths = -7; fifths <= 7; fifths += 1) {
      const key = Key.majorKey(tonicOf(fifths, 'major'));
      expect(key.alteration).withContext(tonicOf(fifths, 'major')).toBe(fifths);
      const expected = key.scale.map((name) => Note.get(name).alt);
      const ours = key.scale.map((name) => alterInKey(Note.get(name).letter as Step, fifths));
      expect(ours).toEqual(expected);
      expect(tonicOf(fifths, 'minor')).toBe(key.minorRelative);
    }
  });
});

describe('a key signature in words', () => {
  it('counts the signs that `tonal` writes for the major key', () => {
    for (let fifths = -7; fifths <= 7; fifths += 1) {
      const { keySignature } = Key.majorKey(tonicOf(fifths, 'major'));
      const sign = keySignature.startsWith('b') ? 'flat' : 'sharp';
      const count = keySignature.length;
      const words = count === 0 ? 'no sharps or flats' : `${count} ${sign}${count === 1 ? '' : 's'}`;
      expect(signatureWords(fifths)).toBe(words);
    }
  });
});
