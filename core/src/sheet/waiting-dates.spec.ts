import { dateInYear } from './waiting-dates.js';

// Weekdays as `cal 2 2027` prints them (Gregorian calendar): 13 February 2027 is a Saturday, 4 December 2026 a Friday.
describe('a printed date that waits for its year', () => {
  const day = (printed: string, answer: string): string | null => {
    const read = dateInYear(printed, answer);
    return read && [read.date, read.endDate].filter((one) => one !== null).join(' to ');
  };

  it('takes the year that is answered, alone or in a whole date', () => {
    expect(day('Auditions: February 13, 9:00 a.m.', '2027')).toBe('2027-02-13');
    expect(day('Closing date 4 December', 'it is 2026')).toBe('2026-12-04');
    expect(day('Closing date 4 December', '2026-11-20')).toBe('2026-12-04');
  });

  it('takes its half of a season by the month, and waits on in the months between', () => {
    expect(day('Recordings due December 4', '2026-27')).toBe('2026-12-04');
    expect(day('Auditions: February 13', '2026/2027')).toBe('2027-02-13');
    expect(day('Registration opens July 20', '2026-27')).toBeNull();
  });

  it('follows the weekday that is printed, also into the year beside', () => {
    expect(day('Recordings due Friday, December 4', '2027')).toBe('2026-12-04');
    expect(day('Auditions: Saturday, February 13', '2026-27')).toBe('2027-02-13');
    expect(day('Auditions: Monday, February 13', '2026-27')).toBeNull();
  });

  it('carries an interval over the turn of the year, and makes no day that does not exist', () => {
    expect(day('Auditions February 13–14', '2027')).toBe('2027-02-13 to 2027-02-14');
    expect(day('Auditions February 29', '2027')).toBeNull();
    expect(day('Auditions February 29', '2028')).toBe('2028-02-29');
  });

  it('leaves dates alone that have their year, and answers that name none', () => {
    expect(day('Auditions: February 13, 2026', '2027')).toBeNull();
    expect(day('Auditions in the spring', '2027')).toBeNull();
    expect(day('Auditions: February 13', 'next year')).toBeNull();
  });
});
