import { asSeconds } from '../music/index.js';
import { lessonOf, type PartToHear, type PassageToHear } from './index.js';

const passage = (id: string, more: Partial<PassageToHear> = {}): PassageToHear => ({
  id,
  name: id,
  isSeam: false,
  seconds: asSeconds(10),
  bpm: 84,
  unit: 'quarter',
  interval: { low: 0.8, high: 0.9 },
  reported: { clean: 0, reps: 0 },
  heardDays: 3,
  flagged: [],
  isPromised: false,
  rungsSince: 0,
  weight: 0.5,
  sidesReady: [],
  ...more,
});
const whole: PartToHear = {
  id: 'etude',
  name: 'Etude',
  seconds: asSeconds(120),
  runDays: null,
  daysLeft: 13,
};

describe('lesson', () => {
  it('hears what was flagged first, then what is least certain, then joins, and the whole last (the design)', () => {
    const items = lessonOf({
      minutes: 30,
      passages: [
        passage('sure'),
        passage('seam', { isSeam: true, sidesReady: [true, false] }),
        passage('uncertain', { interval: { low: 0.3, high: 0.8 } }),
        passage('flagged', { flagged: ['38'], heardDays: null, reported: { clean: 3, reps: 3 } }),
      ],
      parts: [whole],
    });
    expect(items.map(({ id, reason }) => [id, reason])).toEqual([
      ['flagged', 'flagged: 38; never heard by you'],
      ['uncertain', 'least certain: between 30 and 80 %'],
      ['seam', 'joins what is ready to what is not'],
      ['sure', 'once, to keep it'],
      ['etude', 'never run as a whole; tap what slips'],
    ]);
  });

  it('never asks for more minutes than there are, the closing minutes kept', () => {
    for (const minutes of [10, 15, 20, 30, 45, 60]) {
      const items = lessonOf({
        minutes,
        passages: Array.from({ length: 20 }, (_, n) =>
          passage(`p${n}`, { interval: { low: 0.2, high: 0.9 } }),
        ),
        parts: [whole],
      });
      const asked = items.reduce((sum, item) => sum + item.minutes, 0);
      expect(asked)
        .withContext(`${minutes} minutes`)
        .toBeLessThanOrEqual(minutes - 3);
      expect(items.length).toBeGreaterThan(0);
    }
  });

  it('runs nothing as a whole that was run this week, or whose day is far away', () => {
    const kinds = (part: Partial<PartToHear>): string[] =>
      lessonOf({ minutes: 30, passages: [], parts: [{ ...whole, ...part }] }).map(({ kind }) => kind);
    expect(kinds({ runDays: 2 })).toEqual([]);
    expect(kinds({ runDays: null, daysLeft: 60 })).toEqual([]);
    expect(kinds({ runDays: 8 })).toEqual(['run']);
  });
});
