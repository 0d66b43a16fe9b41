import { allowedMinutes, dailyDose } from './index.js';

describe('sound dose', () => {
  // NIOSH Publication 98-126, table of durations and levels that none may exceed.
  const table: readonly (readonly [dba: number, minutes: number])[] = [
    [85, 480],
    [88, 240],
    [91, 120],
    [94, 60],
    [97, 30],
    [100, 15],
  ];

  it('allows as long as the table of NIOSH 98-126 says', () => {
    for (const [dba, minutes] of table)
      expect(allowedMinutes(dba)).withContext(`${dba} dBA`).toBeCloseTo(minutes, 9);
  });

  it('adds parts of a dose: an hour at 91 and half an hour at 94 are a whole one', () => {
    expect(dailyDose([])).toBe(0);
    expect(
      dailyDose([
        { minutes: 60, dba: 91 },
        { minutes: 30, dba: 94 },
      ]),
    ).toBeCloseTo(1, 9);
  });
});
