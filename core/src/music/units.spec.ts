import { asQuarterBpm, asSeconds, quarterBpm, secondsAt } from './index.js';

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
});
