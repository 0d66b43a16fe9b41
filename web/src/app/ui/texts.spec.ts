import { daysText, percentText, readinessNumber, secondsText } from './texts';

describe('texts of a page', () => {
  it('let the expected slips lead under five in a hundred, and give no number where nothing is known', () => {
    const told = (chance: number | null, expectedSlips: number | null): string => {
      const found = readinessNumber({ chance, expectedSlips });
      return found ? `${found.number} ${found.unit}` : 'nothing';
    };
    expect([told(0.744, 0.3), told(0.05, 3), told(0.049, 3.02), told(0.02, null), told(null, null)]).toEqual([
      '74 %',
      '5 %',
      '3.0 slips a run',
      '2 %',
      'nothing',
    ]);
  });

  it('claim no certainty', () => {
    expect([0, 0.004, 0.5, 0.994, 1].map((chance) => percentText(chance))).toEqual([
      '<1',
      '<1',
      '50',
      '99',
      '>99',
    ]);
  });

  it('say days and seconds as people do, and round before they change the unit', () => {
    expect([-3, 0, 1, 17].map((days) => daysText(days))).toEqual([
      '3 days ago',
      'today',
      'tomorrow',
      '17 days',
    ]);
    expect([8.31, 59.94, 59.96, 66, 3600].map((seconds) => secondsText(seconds))).toEqual([
      '8.3 s',
      '59.9 s',
      '1:00',
      '1:06',
      '60:00',
    ]);
  });
});
