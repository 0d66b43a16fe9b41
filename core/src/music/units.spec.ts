import {
  asQuarterBpm,
  asSeconds,
  convertBpm,
  midiOf,
  quarterBpm,
  quarters,
  secondsAt,
  toNumber,
  unitLength,
} from './index.js';

describe('numbers of a unit', () => {
  it('do not pass for one another: what mixes them does not compile', () => {
    const tempo = quarterBpm(60, 'dotted-quarter');
    // @ts-expect-error A plain count of beats is no tempo in quarter notes.
    expect(secondsAt(6, 90)).toBe(asSeconds(4));
    // @ts-expect-error Seconds are no tempo.
    expect(secondsAt(6, asSeconds(90))).toBe(asSeconds(4));
    expect(secondsAt(6, tempo)).toBe(asSeconds(4));
    expect(tempo).toBe(asQuarterBpm(90));
  });

  it('come plain from files and forms, but not from another unit', () => {
    const beats = convertBpm(60, 'dotted-quarter', 'quarter');
    // @ts-expect-error Beats a minute are no length of music.
    expect(secondsAt(beats, asQuarterBpm(60))).toBe(asSeconds(90));
    // @ts-expect-error A tempo in quarter notes would be converted twice.
    expect(quarterBpm(asQuarterBpm(90), 'dotted-quarter')).toBe(asQuarterBpm(135));
    // @ts-expect-error A pitch is no length of music.
    expect(secondsAt(midiOf({ step: 'C', alter: 0, octave: 4 }), asQuarterBpm(60))).toBe(asSeconds(60));
    // @ts-expect-error The exact time is a fraction, not a number.
    expect(secondsAt(quarters(3, 2), asQuarterBpm(90))).toBeNaN();
    expect(secondsAt(toNumber(unitLength('dotted-quarter')), asQuarterBpm(90))).toBe(asSeconds(1));
  });
});
