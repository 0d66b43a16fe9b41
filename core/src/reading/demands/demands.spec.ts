import { isDeepStrictEqual } from 'node:util';
import fc from 'fast-check';
import { head, measure, note, solo } from '../../score/testing/music-xml.js';
import { instrumentProfile, type MusicReading } from '../index.js';
import { plainStudy, scoreOf, type Study } from '../testing/planted-studies.js';
import { reading, scoreOfXml } from '../testing/readings.js';

describe('Demands', () => {
  it('change by transposition only in what depends on the instrument', () => {
    const same = fc.property(fc.integer({ min: 1, max: 500 }), fc.constantFrom(-2, 2), (seed, fifths) => {
      const study = plainStudy(seed, { measures: 8 });
      // Two fifths up is a whole tone: one letter up in a key of two more sharps.
      const shift = fifths === 2 ? 1 : -1;
      const moved: Study = {
        ...study,
        fifths: study.fifths + fifths,
        measures: study.measures.map(({ notes, hairpinFrom }) => ({
          notes: notes.map((one) => ({ ...one, place: one.place + shift })),
          hairpinFrom,
        })),
      };
      const plain = (one: MusicReading) => one.demands.map(({ score }) => score);
      return isDeepStrictEqual(
        plain(reading(scoreOf(moved), 'unknown')),
        plain(reading(scoreOf(study), 'unknown')),
      );
    });
    expect(() => fc.assert(same, { numRuns: 40 })).not.toThrow();
  });

  it('count notes a second from the tempo: four sixteenths at ♩=96 are 6.4, and twice the tempo is twice that', () => {
    const sixteenths = Array.from({ length: 16 }, (_, n) => note(n % 2 === 0 ? 'C5' : 'D5', 1)).join('');
    const score = scoreOfXml(solo(measure('1', head(4) + note('C5', 16)) + measure('2', sixteenths)));
    const at96 = reading(score, 'flute', 96);
    expect(at96.deciding).toEqual(jasmine.objectContaining({ measure: '2', notesPerSecond: 6.4 }));
    expect(reading(score, 'flute', 192).deciding?.notesPerSecond).toBe(12.8);
    expect(at96.longestHeld).toEqual({ measure: '1', quarters: 4, seconds: 2.5 });
  });

  it('open no faster than the densest measure allows, and at the target where all is within reach', () => {
    const sixteenths = Array.from({ length: 16 }, (_, n) => note(n % 2 === 0 ? 'C5' : 'D5', 1)).join('');
    const score = scoreOfXml(solo(measure('1', head(4) + note('C5', 16)) + measure('2', sixteenths)));
    // Seven tongued notes a second are four sixteenths at ♩=105.
    expect(reading(score, 'flute', 132).opening.bpm).toBe(105);
    expect(reading(score, 'flute', 96).opening.bpm).toBe(96);
  });

  it('count the clarinet’s break between B♭4 and B4, not the flute’s', () => {
    const over = Array.from({ length: 4 }, (_, n) => note(n % 2 === 0 ? 'A4' : 'B4', 4)).join('');
    const score = scoreOfXml(solo(measure('1', head(4) + over)));
    // Three in four seconds.
    expect(reading(score, 'clarinet', 60).demands[0]?.facts.breaks).toBe(0.75);
    expect(reading(score, 'flute', 60).demands[0]?.facts.breaks).toBe(0);
  });

  // By the tuning of a violin: A4 is an open string, E4 lies on the D string, B5 on the E string.
  it('count the strings that a bow crosses and the partials that lips cross under a slur', () => {
    const of = (...names: readonly string[]): string =>
      solo(measure('1', head(4) + names.map((name) => note(name, 4)).join('')));
    const facts = (xml: string, instrument: string) =>
      reading(scoreOfXml(xml), instrument, 60).demands[0]?.facts;
    expect(facts(of('E4', 'A4', 'E4', 'B5'), 'violin')?.crossings).toBe(4 / 4);
    expect(facts(of('A4', 'B4', 'C5', 'D5'), 'violin')?.crossings).toBe(0);
    expect(facts(of('E4', 'A4', 'E4', 'B5'), 'flute')?.crossings).toBe(0);
    const slurred = solo(
      measure(
        '1',
        head(4) +
          note('C5', 4, '<notations><slur type="start" number="1"/></notations>') +
          note('G5', 4) +
          note('A5', 4) +
          note('C5', 4, '<notations><slur type="stop" number="1"/></notations>'),
      ),
    );
    expect(facts(slurred, 'horn')?.partials).toBe(2 / 4);
    expect(facts(slurred, 'clarinet')?.partials).toBe(0);
  });

  // What these are is a fact of the trade; a register before a name does not change the family.
  it('know an instrument by its name, whatever register stands before it', () => {
    const families: Readonly<Record<string, readonly string[]>> = {
      drums: ['Bass Drum', 'Tenor Drum', 'Bongos', 'Snare Drum', 'Tom-toms'],
      woodwind: ['Alto Sax', 'Tenor Saxophone', 'Baritone Sax', 'Bass Clarinet', 'Piccolo', 'Alto Flute'],
      brass: ['Tenor Horn', 'Baritone Horn', 'Euphonium', 'Piccolo Trumpet', 'Bass Trombone', 'Horn in F'],
      strings: ['Double Bass', 'Contrabass', 'Violoncello', 'Bass Guitar'],
      voice: ['Alto', 'Tenor', 'Bass Voice', 'Mezzo-soprano'],
      mallets: ['Bass Marimba', 'Xylophone'],
    };
    for (const [family, names] of Object.entries(families))
      for (const name of names)
        expect(instrumentProfile(name).family)
          .withContext(name)
          .toBe(family as never);
    expect(instrumentProfile('Alto Sax').breaks).toEqual(instrumentProfile('saxophone').breaks);
    expect(instrumentProfile('Alto Sax').range).toEqual(instrumentProfile('alto saxophone').range);
    expect(instrumentProfile('Tenor Horn').range).not.toEqual(instrumentProfile('Horn in F').range);
    expect(instrumentProfile('Piccolo Trumpet').range).toBeNull();
    expect(instrumentProfile('Alto Sax').pairs.size).toBeGreaterThan(0);
    // A tenor horn has no side to be settled, and a piccolo trumpet other fingerings.
    expect(
      ['Tenor Horn', 'Baritone Horn', 'Piccolo Trumpet'].map((name) => instrumentProfile(name).pairs.size),
    ).toEqual([0, 0, 0]);
  });
});
