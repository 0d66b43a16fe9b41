import { asQuarterBpm } from '../music/index.js';
import { normalDraw, seededRandom, type Random } from '../base/index.js';
import { advance, LADDER_START, passageLadder } from '../climb/index.js';
import type { Learner } from './testing/learners.js';
import { calibrationError, KINDS } from './testing/studies.js';
import {
  addRep,
  beliefAt,
  beliefReliableAt,
  forecast,
  learningRate,
  optimismOf,
  optimismText,
  PRIOR,
  RATE_PRIOR,
  SimulatedPlayer,
  tempoFan,
  UNOPENED_RECORD,
  witnessPairs,
  type PassageRecord,
  type PlayerTraits,
  type WitnessedRep,
  type WitnessPair,
} from './index.js';

const DAY_MS = 86_400_000;
const TARGET = asQuarterBpm(100);
const LADDER = passageLadder(100, 'quarter');
const RUNGS = LADDER.ok ? LADDER.value.map(({ bpm }) => bpm) : [];

/** A player practises for some days, ten reps a day, at a tempo that rises. */
function practised(
  player: SimulatedPlayer,
  { days, from, record }: { readonly days: number; readonly from: number; readonly record: PassageRecord },
): PassageRecord {
  let after = record;
  for (let day = from; day < from + days; day += 1) {
    if (day > 0) player.rest(1);
    player.startDay();
    for (let n = 0; n < 10; n += 1) {
      const share = Math.min(1, 0.55 + 0.03 * day);
      const isClean = player.play(share, 'alone');
      const atMs = day * DAY_MS + n * 60_000;
      after = addRep(
        after,
        { atMs, day, quarterBpm: asQuarterBpm(share * 100), context: 'alone', isClean },
        TARGET,
      );
    }
  }
  return after;
}

describe('forecast', () => {
  const PASSAGES = 6;

  /** A player of six passages: what is said of a day two weeks ahead, and what was true then. */
  function played(
    random: Random,
    traits: PlayerTraits,
  ): { chance: number; low: number; high: number; truth: number } {
    const players = Array.from({ length: PASSAGES }, () => new SimulatedPlayer(random, traits));
    const records = players.map((player) =>
      practised(player, { days: 14, from: 0, record: UNOPENED_RECORD }),
    );
    const beliefs = records.map((record) => beliefAt(record, 14 * DAY_MS));
    const said = forecast({
      passages: records.map((record, n) => ({
        belief: beliefs[n] ?? PRIOR,
        practiceDays: record.practiceDays,
        voice: 1,
        reps: Array.from({ length: 14 }, () => 10),
      })),
      days: 14,
      rate: learningRate(records.map(({ belief, reps }) => ({ belief, reps }))),
      restHazard: 0,
      seed: 11,
      paths: 300,
    }).at(-1);
    players.forEach((player, n) =>
      practised(player, { days: 14, from: 14, record: records[n] ?? UNOPENED_RECORD }),
    );
    const truth = players.reduce((product, player) => product * player.chance(1, 'run'), 1);
    return { chance: said?.chance ?? 0, low: said?.low ?? 0, high: said?.high ?? 1, truth };
  }

  it('says of simulated players what comes true two weeks later, on the mean and in its middle 80 %', () => {
    const random = seededRandom(20261129);
    const all = Array.from({ length: 60 }, () =>
      played(random, {
        steepness: [5, 10, 18][Math.floor(random() * 3)] ?? 10,
        gainPerRep: Math.max(0.02, normalDraw(random, 0.08, 0.03)),
      }),
    );
    const mean = (pick: (one: (typeof all)[number]) => number): number =>
      all.reduce((sum, one) => sum + pick(one), 0) / all.length;
    expect(Math.abs(mean(({ chance }) => chance) - mean(({ truth }) => truth))).toBeLessThan(0.08);
    // 80 % are stated; of 60, three in four are what a fair coin of that weight still gives (binomial, one in seven).
    expect(mean(({ truth, low, high }) => Number(truth >= low && truth <= high))).toBeGreaterThan(0.7);
  });

  /** One of the foreign kinds climbs for one to two weeks; what is said of one to four weeks later, and what was true. */
  function climbed(
    learner: Learner,
    random: Random,
  ): { stated: number; low: number; high: number; truth: number } {
    let [record, ladder] = [UNOPENED_RECORD, LADDER_START];
    const practise = (day: number, isKept: boolean): void => {
      if (day > 0) learner.rest(1);
      for (let n = 0; n < 10; n += 1) {
        const context = random() < 0.1 ? 'run' : 'alone';
        const bpm = context === 'run' ? 100 : (RUNGS[ladder.rungIndex] ?? 100);
        const isClean = random() < learner.chance(bpm / 100, context);
        learner.practise(bpm / 100);
        const atMs = day * DAY_MS + n * 60_000;
        if (isKept)
          record = addRep(record, { atMs, day, quarterBpm: asQuarterBpm(bpm), context, isClean }, TARGET);
        if (context === 'alone')
          ladder = advance(
            ladder,
            { bpm, isClean, day },
            { rungBpms: RUNGS, rule: 'three-in-a-row', slipRule: 'two-down' },
          );
      }
    };
    const past = 5 + Math.floor(random() * 10);
    const ahead = 7 + Math.floor(random() * 20);
    for (let day = 0; day < past; day += 1) practise(day, true);
    const said = forecast({
      passages: [
        {
          belief: beliefAt(record, past * DAY_MS),
          practiceDays: record.practiceDays,
          voice: 1,
          reps: Array.from({ length: ahead }, () => 10),
        },
      ],
      days: ahead,
      rate: learningRate([record]),
      restHazard: 0,
      seed: past,
      paths: 150,
    }).at(-1);
    for (let day = past; day < past + ahead; day += 1) practise(day, false);
    return {
      stated: said?.chance ?? 0,
      low: said?.low ?? 0,
      high: said?.high ?? 1,
      truth: learner.chance(1, 'run'),
    };
  }

  for (const [name, make] of KINDS)
    it(`states weeks ahead what comes true within 0.08 in ten bins, and holds it in 70 of 100 intervals, for ${name}`, () => {
      const random = seededRandom(20261129);
      const all = Array.from({ length: 160 }, () => climbed(make(random), random));
      expect(calibrationError(all)).toBeLessThanOrEqual(0.08);
      const inside = all.filter(({ low, high, truth }) => truth >= low && truth <= high).length;
      expect(inside / all.length).toBeGreaterThanOrEqual(0.7);
    });

  it('begins at today, needs practice to rise, and is the same again for the same seed', () => {
    const ahead = (reps: number): ReturnType<typeof forecast> =>
      forecast({
        passages: [
          { belief: PRIOR, practiceDays: 1, voice: 1, reps: Array.from({ length: 20 }, () => reps) },
        ],
        days: 20,
        rate: RATE_PRIOR,
        restHazard: 0,
        seed: 5,
      });
    expect(ahead(10)).toEqual(ahead(10));
    expect(ahead(10).at(-1)?.chance).toBeGreaterThan((ahead(0).at(-1)?.chance ?? 1) + 0.2);
    // 1,000 paths of a chance near a tenth: its mean is known within 0.01 (binomial).
    expect(Math.abs((ahead(10)[0]?.chance ?? 0) - (ahead(0)[0]?.chance ?? 1))).toBeLessThan(0.03);
  });

  it('fans out the reliable tempo from where it is today, higher with practice and lower without', () => {
    const fan = (reps: number): ReturnType<typeof tempoFan> =>
      tempoFan(
        { belief: beliefReliableAt(0.7), practiceDays: 3, reps: Array.from({ length: 14 }, () => reps) },
        { days: 14, rate: RATE_PRIOR, seed: 3 },
      );
    const [practised, left] = [fan(10), fan(0)];
    // The belief is reliable at 0.7 as a whole; its middle skill is a little above, for what is uncertain costs.
    expect(practised[0]?.middle).toBeGreaterThan(0.68);
    expect(practised[0]?.middle).toBeLessThan(0.78);
    expect(practised.at(-1)?.middle).toBeGreaterThan((practised[0]?.middle ?? 1) + 0.05);
    expect(left.at(-1)?.middle).toBeLessThan(left[0]?.middle ?? 0);
    expect(practised.every(({ low, middle, high }) => low <= middle && middle <= high)).toBeTrue();
  });

  it('keeps what nobody tracks as a cost on every day: e to the minus hazard', () => {
    const with01 = forecast({ passages: [], days: 1, rate: RATE_PRIOR, restHazard: 0.1, seed: 1, paths: 10 });
    expect(with01[1]?.chance).toBeCloseTo(Math.exp(-0.1), 9);
  });

  it('tells a fast learner from a slow one by their records', () => {
    const rateOf = (gainPerRep: number): number => {
      const random = seededRandom(3);
      const records = Array.from({ length: 12 }, () =>
        practised(new SimulatedPlayer(random, { gainPerRep, steepness: 10 }), {
          days: 14,
          from: 0,
          record: UNOPENED_RECORD,
        }),
      );
      return learningRate(records.map(({ belief, reps }) => ({ belief, reps }))).mean;
    };
    const [slow, usual, fast] = [rateOf(0.03), rateOf(0.08), rateOf(0.16)];
    expect(slow).toBeLessThan(usual);
    expect(usual).toBeLessThan(fast);
    expect(learningRate([])).toEqual(RATE_PRIOR);
  });
});

describe('witness', () => {
  const rep = (witness: WitnessedRep['witness'], isClean: boolean, day = 0): WitnessedRep => ({
    atMs: day * DAY_MS,
    share: 1,
    context: 'alone',
    isClean,
    witness,
  });

  it('pairs what was reported within three days of what was heard, each rep once', () => {
    const pairs = witnessPairs([
      rep('student', true, 0),
      rep('instructor', false, 2),
      rep('student', true, 4),
      rep('student', true, 6),
      rep('instructor', true, 20),
    ]);
    expect(pairs.map(({ heard, reported }) => [heard.length, reported.length])).toEqual([[1, 2]]);
  });

  it('knows no more than the prior without pairs (0.3 ± 0.5, the design)', () => {
    const { mean, sd } = optimismOf([]);
    expect(mean).toBeCloseTo(0.3, 2);
    expect(sd).toBeCloseTo(0.5, 1);
  });

  /** A student whose reports are as much rosier as `optimism` says: twenty reps reported and twenty heard a pair. */
  function pairsOf(random: Random, optimism: number): WitnessPair[] {
    return Array.from({ length: 30 }, () => {
      const theta = normalDraw(random, 0.5, 1);
      const share = 0.85 + 0.15 * random();
      const say = (witness: WitnessedRep['witness'], more: number): WitnessedRep => {
        const chance = 0.975 / (1 + Math.exp(-(theta + more - 8 * Math.log(share))));
        return { ...rep(witness, random() < chance), share };
      };
      return {
        heard: Array.from({ length: 20 }, () => say('instructor', 0)),
        reported: Array.from({ length: 20 }, () => say('student', optimism)),
      };
    });
  }

  for (const optimism of [0, 0.6, 1.2])
    it(`finds an optimism of ${optimism} within 0.25 after 30 pairs (the design)`, () => {
      const random = seededRandom(7 + optimism * 10);
      const errors = Array.from({ length: 8 }, () => optimismOf(pairsOf(random, optimism)).mean - optimism);
      expect(errors.filter((error) => Math.abs(error) <= 0.25).length).toBeGreaterThanOrEqual(7);
    });

  it('is told to the instructor in counts, and not at all where it is small', () => {
    const many = (witness: WitnessedRep['witness'], clean: number): WitnessedRep[] =>
      Array.from({ length: 10 }, (_, n) => rep(witness, n < clean));
    const rosy = optimismOf(
      Array.from({ length: 4 }, () => ({ heard: many('instructor', 7), reported: many('student', 9) })),
    );
    expect(optimismText(rosy)).toBe('Reports 9 of 10 clean, you hear about 7: counted with that in mind.');
    expect(optimismText({ ...rosy, mean: 0.1 })).toBe('');
  });
});
