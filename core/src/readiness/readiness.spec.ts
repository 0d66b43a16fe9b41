import { normalDraw, seededRandom } from '../base/index.js';
import {
  addRep,
  beliefAt,
  chanceOfClean,
  cleanShareOf,
  difficulty,
  halfLifeDays,
  logistic,
  partReadinessAt,
  readinessAt,
  recordOf,
  SimulatedPlayer,
  UNOPENED_RECORD,
  type Belief,
  type PartToJudge,
  type PassageRecord,
  type Rep,
  type RepContext,
} from './index.js';
import { MODEL } from './model.data.js';

const DAY_MS = 86_400_000;
const sharp = (mean: number): Belief => ({ mean, sd: 1e-6 });
const rep = (day: number, share: number, isClean: boolean, context: RepContext = 'alone'): Rep => ({
  atMs: day * DAY_MS,
  day,
  quarterBpm: 100 * share,
  context,
  isClean,
});

describe('the readiness model', () => {
  it('is Rasch’s one-parameter logistic form: even odds where skill meets difficulty (Rasch 1960)', () => {
    expect(logistic(0)).toBe(0.5);
    expect(chanceOfClean(sharp(difficulty(0.9, 'run')), 0.9, 'run')).toBeCloseTo(0.5, 6);
  });

  it('makes half tempo 12 ln 2 = 8.3178 logits easier and a run 0.8 harder (the design’s constants)', () => {
    expect(difficulty(0.5, 'alone')).toBeCloseTo(-8.3178, 4);
    expect(difficulty(1, 'run') - difficulty(1, 'alone')).toBeCloseTo(0.8, 12);
  });

  it('finds the clean tempo where a rep alone is clean four times in five', () => {
    // ln(0.8/0.2) = 1.3863; a skill of 1.3863 is clean at target, one of 1.3863 + 12 ln 0.9 at nine tenths.
    expect(cleanShareOf(sharp(1.3863))).toBeCloseTo(1, 4);
    expect(cleanShareOf(sharp(1.3863 + 12 * Math.log(0.9)))).toBeCloseTo(0.9, 4);
  });

  it('gives no number while there is no rep, only the state', () => {
    expect(readinessAt(UNOPENED_RECORD, 0)).toEqual(
      jasmine.objectContaining({ state: 'mapped', chance: null, cleanShare: null }),
    );
  });

  it('rises with a clean rep, falls with a slip, and a slip at low tempo counts more than one at target', () => {
    const before = recordOf([rep(1, 0.7, true)], 100);
    const chance = (record: PassageRecord): number => readinessAt(record, DAY_MS).chance ?? -1;
    expect(chance(addRep(before, rep(1, 0.8, true), 100))).toBeGreaterThan(chance(before));
    const slipLow = addRep(before, rep(1, 0.6, false), 100).belief.mean;
    const slipHigh = addRep(before, rep(1, 1, false), 100).belief.mean;
    expect(slipLow).toBeLessThan(slipHigh);
  });

  it('sinks and widens with days without practice, the slower the more practice days lie behind', () => {
    const once = recordOf(
      [1, 1, 1, 1].map((day) => rep(day, 0.95, true)),
      100,
    );
    const spaced = recordOf(
      [1, 4, 8, 12].map((day) => rep(day, 0.95, true)),
      100,
    );
    const kept = (record: PassageRecord): number => {
      const then = record.lastAtMs ?? 0;
      return (readinessAt(record, then + 14 * DAY_MS).chance ?? 0) / (readinessAt(record, then).chance ?? 1);
    };
    expect(kept(once)).toBeLessThan(1);
    expect(kept(spaced)).toBeGreaterThan(kept(once));
    expect(halfLifeDays(9)).toBe(3 * halfLifeDays(1));
  });

  it('rebuilds the same record from the facts as it grew rep by rep', () => {
    const reps = [
      rep(1, 0.5, true),
      rep(1, 0.54, false),
      rep(3, 0.54, true, 'joined'),
      rep(9, 0.7, true, 'run'),
    ];
    let grown = UNOPENED_RECORD;
    for (const one of reps) grown = addRep(grown, one, 100);
    expect(recordOf(reps, 100)).toEqual(grown);
  });
});

describe('a part', () => {
  const ready = recordOf(
    Array.from({ length: 40 }, (_, n) => rep(1 + (n % 10) * 2, 1, true)).sort((a, b) => a.day - b.day),
    100,
  );
  const part = (passages: readonly (readonly [number, number, PassageRecord])[]): PartToJudge => ({
    fromIndex: 0,
    endIndex: 8,
    measureSeconds: Array.from({ length: 8 }, () => 2),
    passages: passages.map(([fromIndex, endIndex, record], n) => ({
      id: `p${n}`,
      fromIndex,
      endIndex,
      seconds: 2 * (endIndex - fromIndex),
      record,
    })),
  });
  const now = 19 * DAY_MS;

  it('never looks done while some of it is untracked', () => {
    const whole = partReadinessAt(
      part([
        [0, 4, ready],
        [4, 8, ready],
      ]),
      now,
    );
    const half = partReadinessAt(part([[0, 4, ready]]), now);
    expect(whole.state).toBe('holding');
    expect(half.state).not.toBe('holding');
    expect(half.restMeasures).toEqual([4, 5, 6, 7]);
    expect(half.chance ?? 1).toBeLessThan(0.05);
    expect(half.expectedSlips ?? 0).toBeGreaterThan(whole.expectedSlips ?? 9);
  });

  it('multiplies the chances of its passages', () => {
    const one = readinessAt(ready, now).chance ?? 0;
    expect(
      partReadinessAt(
        part([
          [0, 4, ready],
          [4, 8, ready],
        ]),
        now,
      ).chance,
    ).toBeCloseTo(one * one, 12);
  });

  it('names the passage that would move it most', () => {
    const weak = recordOf([rep(18, 0.8, true), rep(18, 0.85, true)], 100);
    expect(
      partReadinessAt(
        part([
          [0, 4, ready],
          [4, 8, weak],
        ]),
        now,
      ).movesMost,
    ).toBe('p1');
  });

  it('is unopened without passages and has no number without reps', () => {
    expect(partReadinessAt(part([]), now)).toEqual(
      jasmine.objectContaining({ state: 'unopened', chance: null }),
    );
    expect(partReadinessAt(part([[0, 8, UNOPENED_RECORD]]), now)).toEqual(
      jasmine.objectContaining({ state: 'mapped', chance: null }),
    );
  });
});

describe('calibration on simulated players', () => {
  interface Forecast {
    readonly stated: number;
    readonly naive: number;
    readonly isClean: boolean;
  }

  /** Players of every rate climb for four weeks; before each rep the model and "the last ten" state their chance. */
  function forecasts(seed: number): Forecast[] {
    const random = seededRandom(seed);
    const all: Forecast[] = [];
    for (let n = 0; n < 120; n += 1) {
      const player = new SimulatedPlayer(random, Math.max(0.005, normalDraw(random, MODEL.gainPerRep, 0.02)));
      let record = UNOPENED_RECORD;
      let share = 0.5;
      const last: boolean[] = [];
      for (let day = 0; day < 28; day += 1 + Math.floor(random() * 3)) {
        player.startDay();
        const context: RepContext = random() < 0.25 ? 'run' : 'alone';
        for (let k = 0; k < 10; k += 1) {
          const atMs = day * DAY_MS + k * 60_000;
          const belief = beliefAt(record, atMs);
          const played = random() < 0.4 ? 0.5 + 0.6 * random() : share;
          const stated = chanceOfClean(belief, played, context);
          const isClean = player.play(played, context);
          const naive = (last.filter(Boolean).length + 1) / (last.length + 2);
          if (record.reps >= 5) all.push({ stated, naive, isClean });
          record = addRep(record, { atMs, day, quarterBpm: 100 * played, context, isClean }, 100);
          last.push(isClean);
          if (last.length > 10) last.shift();
          share = Math.min(1, Math.max(0.5, share + (isClean ? 0.012 : -0.03)));
        }
        player.rest(1);
      }
    }
    return all;
  }

  it('states chances that come true within 0.05 on average over ten bins, and beats the last ten on Brier score', () => {
    const all = forecasts(20261125);
    const gaps: number[] = [];
    for (let bin = 0; bin < 10; bin += 1) {
      const inside = all.filter(({ stated }) => Math.min(9, Math.floor(stated * 10)) === bin);
      const mean = (pick: (forecast: Forecast) => number): number =>
        inside.reduce((sum, one) => sum + pick(one), 0) / inside.length;
      gaps.push(Math.abs(mean(({ stated }) => stated) - mean(({ isClean }) => Number(isClean))));
    }
    const brier = (pick: (forecast: Forecast) => number): number =>
      all.reduce((sum, one) => sum + (pick(one) - Number(one.isClean)) ** 2, 0) / all.length;
    expect(gaps.length).toBe(10);
    expect(gaps.reduce((sum, gap) => sum + gap, 0) / gaps.length).toBeLessThanOrEqual(0.05);
    expect(brier(({ stated }) => stated)).toBeLessThan(brier(({ naive }) => naive));
  });
});
