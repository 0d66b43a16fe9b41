import { NO_MARKS } from '@vivid-cue/contract/take-marks';
import { bandOf, isBeside, placedMeasures, rangeOf } from './take-map';

describe('where the measures of a take stand', () => {
  const measures = ['1', '2', '3', '4'].map((number, index) => ({ index, number, quarters: 4 }));

  it('is where downbeats were tapped, in the measures that are asked, as long as nothing was read', () => {
    const marks = { ...NO_MARKS, downbeats: [2, 4, 6.5], beats: 4 };
    const runs = [{ fromIndex: 2, endIndex: 4 }];
    const placed = placedMeasures({ told: null, marks, measures, runs });
    // 4 beats × 60 / 2 s = 120, / 2.5 s = 96: arithmetic.
    expect(placed.map(({ number, start, bpm }) => [number, start, bpm])).toEqual([
      ['3', 2, 120],
      ['4', 4, 96],
    ]);
    expect(placedMeasures({ told: null, marks: NO_MARKS, measures, runs })).toEqual([]);
  });

  it('binds by what the sheet says: exactly, a range, at least', () => {
    const exact = bandOf({ min: 116, max: 116, beatUnit: 'quarter' }, 1);
    expect([isBeside(116, exact), isBeside(114, exact), isBeside(112, exact), isBeside(120, exact)]).toEqual([
      false,
      false,
      true,
      true,
    ]);
    const range = bandOf({ min: 96, max: 104, beatUnit: 'quarter' }, 1);
    expect([isBeside(95, range), isBeside(96, range), isBeside(105, range)]).toEqual([true, false, true]);
    const least = bandOf({ min: 96, max: null, beatUnit: 'quarter' }, 1);
    expect([isBeside(200, least), isBeside(90, least)]).toEqual([false, true]);
    // A half note at 60 is a quarter at 120: arithmetic.
    expect(bandOf({ min: 60, max: null, beatUnit: 'half' }, 1)?.min).toBe(120);
    expect(isBeside(40, bandOf(null, 1))).toBeFalse();
  });

  it('is drawn so that one doubtful measure does not flatten the others', () => {
    const { low, high } = rangeOf([[100, 102, 98, 500]], null);
    expect(low).toBeLessThan(98);
    expect(high).toBeLessThan(120);
  });
});
