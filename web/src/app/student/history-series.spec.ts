import { fanPoints, historyDays } from './history-series';

describe('the history of a passage', () => {
  it('lays what was planned beside what was played, day by day, other passages left out', () => {
    const played = (date: string, more: object): Parameters<typeof historyDays>[1]['played'][number] => ({
      ...{ date, passageId: 'a', reps: 6, clean: 4, minutes: 5, bpm: 80, cleanBpm: 76 },
      ...more,
    });
    const kept = (date: string, passageId: string): Parameters<typeof historyDays>[1]['kept'][number] => ({
      ...{ date, minutes: 30, isRest: false, runs: [] },
      blocks: [{ passageId, minutes: 9, bpm: 84 }],
    });
    const days = historyDays('a', {
      kept: [kept('2026-11-29', 'a'), kept('2026-11-30', 'b'), kept('2026-12-01', 'a')],
      played: [
        played('2026-11-29', {}),
        // The same day in half notes, carried into quarters by the server.
        played('2026-11-29', { reps: 2, clean: 0, bpm: 92, cleanBpm: null }),
        played('2026-11-29', { passageId: 'b' }),
        played('2026-11-27', { clean: 0, cleanBpm: null }),
      ],
    });
    expect(
      days.map(({ date, reps, clean, bpm, cleanBpm, plannedBpm }) => [
        date,
        reps,
        clean,
        bpm,
        cleanBpm,
        plannedBpm,
      ]),
    ).toEqual([
      ['2026-11-27', 6, 0, 80, null, null],
      ['2026-11-29', 8, 4, 92, 76, 84],
      ['2026-12-01', 0, 0, null, null, 84],
    ]);
    expect(fanPoints([{ day: 2, low: 0.5, middle: 0.75, high: 1 }], '2026-11-29', 120)).toEqual([
      { date: '2026-12-01', low: 60, middle: 90, high: 120 },
    ]);
  });
});
