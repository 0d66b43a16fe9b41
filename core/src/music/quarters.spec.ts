import fc from 'fast-check';
import Fraction from 'fraction.js';
import {
  addQuarters,
  compareQuarters,
  quarters,
  scaleQuarters,
  subtractQuarters,
  ZERO,
  type Quarters,
} from './quarters.js';

const time = fc
  .tuple(fc.integer({ min: -100_000, max: 100_000 }), fc.integer({ min: 1, max: 5_000 }))
  .map(([num, den]) => quarters(num, den));
const same = (ours: Quarters, reference: Fraction): boolean =>
  new Fraction(ours.num, ours.den).equals(reference);
const reference = ({ num, den }: Quarters): Fraction => new Fraction(num, den);

describe('musical time', () => {
  it('adds, subtracts, scales and compares like fraction.js 5 (exact rational reference library)', () => {
    const agrees = fc.property(time, time, (a, b) => {
      const product = scaleQuarters(a, b.num, b.den);
      return (
        same(addQuarters(a, b), reference(a).add(reference(b))) &&
        same(subtractQuarters(a, b), reference(a).sub(reference(b))) &&
        same(product, reference(a).mul(reference(b))) &&
        Math.sign(compareQuarters(a, b)) === reference(a).compare(reference(b))
      );
    });
    expect(() => fc.assert(agrees, { numRuns: 500 })).not.toThrow();
  });

  it('ends a measure of quintuplets exactly on the bar line', () => {
    const fifth = quarters(4, 5);
    const sum = Array.from({ length: 5 }).reduce<Quarters>((at) => addQuarters(at, fifth), ZERO);
    expect(sum).toEqual(quarters(4));
  });

  it('refuses a number that is not whole instead of drifting', () => {
    expect(() => quarters(0.1)).toThrowError(/exact fraction/u);
    expect(() => quarters(1, 0)).toThrowError(/exact fraction/u);
  });
});
