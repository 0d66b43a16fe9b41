import { dateIn, dayNumber, daysLeft, instantOf, isZone } from './index.js';

// Changes of the clock as the IANA time zone database has them: the European Union on the last Sundays of March and
// October at 01:00 UTC (Directive 2000/84/EC), the United States on the second Sunday of March and the first of
// November at 02:00 local time (Energy Policy Act of 2005). UTC instants below are worked out by hand from these.
describe('published dates', () => {
  const utc = (ms: number): string => new Date(ms).toISOString();

  it('mean the body’s own clock, before and after it changes', () => {
    expect(utc(instantOf({ date: '2027-03-27', time: '17:00', zone: 'Europe/Berlin' }))).toBe(
      '2027-03-27T16:00:00.000Z',
    );
    expect(utc(instantOf({ date: '2027-03-28', time: '17:00', zone: 'Europe/Berlin' }))).toBe(
      '2027-03-28T15:00:00.000Z',
    );
    expect(utc(instantOf({ date: '2027-11-07', time: '12:00', zone: 'America/Chicago' }))).toBe(
      '2027-11-07T18:00:00.000Z',
    );
    expect(utc(instantOf({ date: '2027-11-06', time: '12:00', zone: 'America/Chicago' }))).toBe(
      '2027-11-06T17:00:00.000Z',
    );
  });

  it('without a time last to the end of their day', () => {
    expect(utc(instantOf({ date: '2027-06-01', time: null, zone: 'Atlantic/Reykjavik' }))).toBe(
      '2027-06-01T23:59:59.000Z',
    );
    expect(utc(instantOf({ date: '2027-06-01', time: null, zone: 'Pacific/Auckland' }))).toBe(
      '2027-06-01T11:59:59.000Z',
    );
  });

  it('are counted in days on the studio’s wall, not in 24 hours', () => {
    const audition = { date: '2027-03-28', time: '09:00', zone: 'Europe/Berlin' };
    const auditionMs = instantOf(audition);
    const lateEvening = Date.UTC(2027, 2, 27, 22, 30);
    expect(daysLeft(audition, lateEvening, 'Europe/Berlin')).toBe(1);
    expect(daysLeft(audition, auditionMs - 60_000, 'Europe/Berlin')).toBe(0);
    expect(daysLeft(audition, auditionMs + 86_400_000, 'Europe/Berlin')).toBe(-1);
    // Half past one in the night in Auckland is still the day before in Honolulu.
    const early = { date: '2027-05-10', time: '01:30', zone: 'Pacific/Auckland' };
    expect(daysLeft(early, Date.UTC(2027, 4, 9, 12, 0), 'Pacific/Auckland')).toBe(1 - 1);
    expect(daysLeft(early, Date.UTC(2027, 4, 9, 9, 0), 'Pacific/Honolulu')).toBe(1);
  });

  it('without a time count the same days in every zone', () => {
    const noon = Date.UTC(2027, 4, 7, 12);
    for (const zone of ['Pacific/Auckland', 'Pacific/Honolulu', 'Europe/Berlin', 'UTC'])
      expect(daysLeft({ date: '2027-05-10', time: null, zone }, noon, 'Atlantic/Reykjavik'))
        .withContext(zone)
        .toBe(3);
  });

  it('give practice days the number of the local calendar day, over a change of the clock too', () => {
    const number = (iso: string, zone: string): number => dayNumber(Date.parse(iso), zone);
    expect(number('1970-01-02T00:00:00Z', 'UTC')).toBe(1);
    expect(number('2027-03-28T21:59:00Z', 'Europe/Berlin')).toBe(
      number('2027-03-28T00:00:00Z', 'Europe/Berlin'),
    );
    expect(number('2027-03-28T22:01:00Z', 'Europe/Berlin')).toBe(
      number('2027-03-28T00:00:00Z', 'Europe/Berlin') + 1,
    );
  });

  // Node's Intl has the same IANA database, read by other code. Nepal is 5:45 ahead, Newfoundland 3:30 behind, Chatham
  // 12:45 ahead.
  it('are the calendar’s of any zone around every midnight and change of the clock, asked in any order', () => {
    const quarters = Array.from({ length: 4 * 24 * 4 }, (_, n) => n * 900_000 + (n % 2) * 899_999);
    for (const zone of ['Asia/Kathmandu', 'America/St_Johns', 'Pacific/Chatham', 'Europe/Berlin']) {
      const told = new Intl.DateTimeFormat('en-CA', { timeZone: zone, dateStyle: 'short' });
      for (const from of ['2027-03-27T00:00Z', '2027-10-30T00:00Z'])
        for (const quarter of [...quarters, ...quarters].reverse()) {
          const ms = Date.parse(from) + quarter;
          expect(dateIn(new Date(ms).toISOString(), zone))
            .withContext(`${zone} ${new Date(ms).toISOString()}`)
            .toBe(told.format(ms));
        }
    }
  });

  it('write the day of an instant as it is where it happened', () => {
    expect(dateIn('2027-03-10T01:30:00Z', 'America/Chicago')).toBe('2027-03-09');
    expect(dateIn('2027-03-09T13:00:00Z', 'Pacific/Auckland')).toBe('2027-03-10');
  });

  it('know zones of the database and nothing else', () => {
    expect(['Europe/Berlin', 'UTC', 'America/Argentina/Ushuaia'].map(isZone)).toEqual([true, true, true]);
    expect(['Atlantis/Deep', '+02:00', '', '../etc', 'Europe'].map(isZone)).toEqual([
      false,
      false,
      false,
      false,
      false,
    ]);
  });
});
