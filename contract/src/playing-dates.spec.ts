import { dayOfDate } from '@vivid-cue/core/plan';
import { playingDays } from './playing-dates.js';

describe('playing days', () => {
  const date = (what: string, day: string, programId = 'a'): Parameters<typeof playingDays>[0][number] => ({
    ...{ programId, sheetTitle: '', what },
    date: day,
  });
  const today = dayOfDate('2026-11-30');

  // Common practice, no source: nobody plays on the day on which a form is due.
  it('are recordings and auditions ahead, never a registration; another program’s are not its own', () => {
    const dates = [
      date('registration', '2026-12-02'),
      date('audition', '2026-12-20'),
      date('recording', '2026-12-10'),
      date('audition', '2026-12-05', 'b'),
      date('recording', '2026-11-30'),
      date('results', '2027-01-10'),
    ];
    expect(playingDays(dates, 'a', today)).toEqual([10, 20]);
    expect(
      playingDays([date('registration', '2026-12-02'), date('other', '2026-12-09')], 'a', today),
    ).toEqual([9]);
    expect(playingDays([date('registration', '2026-12-02')], 'a', today)).toEqual([]);
  });
});
