import fc from 'fast-check';
import { asQuarterBpm, type QuarterBpm } from '../music/index.js';
import {
  addRep,
  afterRep,
  chanceInterval,
  chanceOfClean,
  cleanShare,
  difficulty,
  halfLifeDays,
  logistic,
  partReadinessAt,
  partVoicesAt,
  PRIOR,
  readinessAt,
  recordAt,
  reliableShareAt,
  UNOPENED_RECORD,
  type Belief,
  type PartReadiness,
  type PassageRecord,
  type Rep,
  type RepContext,
} from './index.js';
import { MODEL } from './model.data.js';

const TARGET = asQuarterBpm(100);
const DAY_MS = 86_400_000;
/** A skill and a steepness that are known. */
const sharp = (theta: number, steepness = 12): Belief => [{ steepness, weight: 1, mean: theta, sd: 1e-6 }];
const known = (theta: number, change: Partial<PassageRecord> = {}): PassageRecord => ({
  ...UNOPENED_RECORD,
  belief: sharp(theta),
  reps: 20,
  practiceDays: 4,
  firstDay: 0,
  lastDay: 10,
  lastAtMs: 10 * DAY_MS,
  ...change,
});
/** A record whose chance in a run is this one at its last instant. */
const heldAt = (chance: number, change: Partial<PassageRecord> = {}): PassageRecord =>
  known(Math.log(chance / (1 - MODEL.lapse - chance)) + MODEL.contextCost.run, change);
const NOW = 10 * DAY_MS;
const rep = (day: number, share: number, isClean: boolean, context: RepContext = 'alone'): Rep => ({
  atMs: day * DAY_MS,
  day,
  quarterBpm: asQuarterBpm(100 * share),
  context,
  isClean,
});
const chanceOf = (record: PassageRecord, nowMs: number): number => readinessAt(record, nowMs).chance ?? -1;

/** The record of reps in the order played. */
function recordOf(reps: readonly Rep[], target: QuarterBpm): PassageRecord {
  return reps.reduce((record, one) => addRep(record, one, target), UNOPENED_RECORD);
}

describe('the readiness model', () => {
  it('is Rasch’s one-parameter logistic form with a lapse: even odds of what the lapse leaves (Rasch 1960)', () => {
    expect(logistic(0)).toBe(0.5);
    expect(chanceOfClean(sharp(difficulty(12, 0.9, 'run')), 0.9, 'run')).toBeCloseTo(
      (1 - MODEL.lapse) / 2,
      6,
    );
  });

  it('makes half tempo k·ln 2 logits easier and a run 0.8 harder (the design’s constants)', () => {
    expect(difficulty(12, 0.5, 'alone')).toBeCloseTo(-8.3178, 4);
    expect(difficulty(4, 0.5, 'alone')).toBeCloseTo(-2.7726, 4);
    expect(difficulty(12, 1, 'run') - difficulty(12, 1, 'alone')).toBeCloseTo(0.8, 12);
  });

  it('finds the reliable tempo where a rep alone is clean four times in five', () => {
    // 0.8 / (1 − lapse) of the logistic: ln(p / (1 − p)) logits above even odds.
    const p = 0.8 / (1 - MODEL.lapse);
    const theta = Math.log(p / (1 - p));
    const at = (belief: Belief): number => reliableShareAt(known(0, { belief }), NOW);
    expect(at(sharp(theta))).toBeCloseTo(1, 3);
    expect(at(sharp(theta + 12 * Math.log(0.9)))).toBeCloseTo(0.9, 3);
    expect(at(sharp(theta + 4 * Math.log(0.9), 4))).toBeCloseTo(0.9, 3);
  });

  it('gives no number while there is no rep, only the state', () => {
    expect(readinessAt(UNOPENED_RECORD, 0)).toEqual({
      state: 'mapped',
      chance: null,
      reps: 0,
      practiceDays: 0,
    });
  });

  it('rises with a clean rep and falls with a slip, and takes a slip where all goes well for the lapse it may be', () => {
    const before = recordOf([rep(1, 0.7, true)], TARGET);
    expect(chanceOf(addRep(before, rep(1, 0.8, true), TARGET), DAY_MS)).toBeGreaterThan(
      chanceOf(before, DAY_MS),
    );
    expect(chanceOf(addRep(before, rep(1, 0.8, false), TARGET), DAY_MS)).toBeLessThan(
      chanceOf(before, DAY_MS),
    );
    const steady: Belief = [{ steepness: 12, weight: 1, mean: 0, sd: 1.5 }];
    const slip = (share: number): number =>
      chanceOfClean(afterRep(steady, share, { context: 'alone', isClean: false }), 1, 'run');
    // At half tempo this player misses one rep in forty, which is the lapse: it says next to nothing of the skill.
    const stated = chanceOfClean(steady, 1, 'run');
    expect(stated - slip(0.5)).toBeLessThan((stated - slip(1)) / 3);
  });

  it('learns how steep a player is: clean slow and never fast is steep, clean as often at any tempo is not', () => {
    const played = (share: number, isClean: boolean): Rep[] =>
      Array.from({ length: 8 }, () => rep(1, share, isClean));
    const steepnessOf = ({ belief }: PassageRecord): number =>
      belief.reduce((sum, { steepness, weight }) => sum + steepness * weight, 0);
    const cliff = recordOf([...played(0.7, true), ...played(0.85, false)], TARGET);
    const flat = recordOf(
      [0.6, 0.7, 0.8, 0.9, 1].flatMap((share) => [
        rep(1, share, true),
        rep(1, share, true),
        rep(1, share, false),
      ]),
      TARGET,
    );
    expect(steepnessOf(cliff)).toBeGreaterThan(steepnessOf(flat));
  });

  it('sinks and widens with days without practice, the slower the more practice days lie behind', () => {
    const once = recordOf(
      [1, 1, 1, 1].map((day) => rep(day, 0.95, true)),
      TARGET,
    );
    const spaced = recordOf(
      [1, 4, 8, 12].map((day) => rep(day, 0.95, true)),
      TARGET,
    );
    const kept = (record: PassageRecord): number => {
      const then = record.lastAtMs ?? 0;
      return chanceOf(record, then + 14 * DAY_MS) / chanceOf(record, then);
    };
    expect(kept(once)).toBeLessThan(1);
    expect(kept(spaced)).toBeGreaterThan(kept(once));
    expect(halfLifeDays(9)).toBe(3 * halfLifeDays(1));
    const width = (nowMs: number): number => {
      const { low, high } = chanceInterval(spaced, nowMs);
      return high - low;
    };
    expect(width(12 * DAY_MS)).toBeLessThan(width(19 * DAY_MS));
  });

  it('keeps the chance between the bounds of its interval, and all weights one, whatever was played', () => {
    const anyRep = fc.record({
      day: fc.integer({ min: 0, max: 40 }),
      share: fc.double({ min: 0.3, max: 1.2, noNaN: true }),
      isClean: fc.boolean(),
      context: fc.constantFrom<RepContext>('alone', 'joined', 'run', 'mock'),
    });
    const holds = fc.property(fc.array(anyRep, { minLength: 1, maxLength: 40 }), (reps) => {
      const record = recordOf(
        reps.map(({ day, share, isClean, context }) => rep(day, share, isClean, context)),
        TARGET,
      );
      const chance = chanceOf(record, 41 * DAY_MS);
      const weights = record.belief.reduce((sum, { weight }) => sum + weight, 0);
      return chance > 0 && chance < 1 - MODEL.lapse && Math.abs(weights - 1) < 1e-9;
    });
    expect(() => fc.assert(holds)).not.toThrow();
  });

  it('sees the same record from a faster target as less ready, by k·ln(ratio) at each steepness', () => {
    const record = recordOf([rep(1, 0.8, true), rep(1, 0.9, true), rep(2, 1, false)], TARGET);
    const means = ({ belief }: PassageRecord): number[] => belief.map(({ mean }) => mean);
    const faster = recordAt(record, 1.25);
    record.belief.forEach(({ steepness }, n) =>
      expect((means(record)[n] ?? 0) - (means(faster)[n] ?? 0)).toBeCloseTo(steepness * Math.log(1.25), 12),
    );
  });

  it('begins with even odds at the prior’s share of the target, whatever the steepness', () => {
    for (const one of PRIOR)
      expect(chanceOfClean([{ ...one, weight: 1 }], MODEL.priorShare, 'alone')).toBeCloseTo(
        (1 - MODEL.lapse) / 2,
        6,
      );
  });
});

describe('a share that was counted', () => {
  // R. G. Newcombe, Two-sided confidence intervals for the single proportion (1998), table I, the score method without
  // continuity correction (from memory).
  const EXAMPLES = [
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
  ] as const;
  for (const [clean, reps, low, high] of EXAMPLES)
    it(`${clean} of ${reps} lies between ${low} and ${high} (Wilson 1927)`, () => {
      const range = cleanShare(clean, reps);
      expect(range?.low).toBeCloseTo(low, 4);
      expect(range?.high).toBeCloseTo(high, 4);
    });

  it('says nothing without reps', () => {
    expect(cleanShare(0, 0)).toBeNull();
  });
});

describe('a part', () => {
  type Piece = readonly [
    id: string,
    fromIndex: number,
    endIndex: number,
    record: PassageRecord,
    isSeam?: boolean,
  ];
  const judge = (
    pieces: readonly Piece[],
    { runs = [[0, 8]], demands = [] }: { runs?: (readonly [number, number])[]; demands?: number[] } = {},
  ): PartReadiness =>
    partReadinessAt(
      {
        runs: runs.map(([fromIndex, endIndex]) => ({ fromIndex, endIndex })),
        measures: Array.from({ length: 16 }, (_, n) => ({ seconds: 2, demand: demands[n] ?? 1 })),
        passages: pieces.map(([id, fromIndex, endIndex, record, isSeam = false]) => ({
          id,
          fromIndex,
          endIndex,
          isSeam,
          seconds: 2 * (endIndex - fromIndex),
          record,
        })),
      },
      NOW,
    );

  it('counts overlaps once: a passage held at 0.864 with an unplayed one inside stays 0.864 (the design’s check)', () => {
    const alone = judge([['a', 0, 8, heldAt(0.864)]]);
    const inside = judge([
      ['a', 0, 8, heldAt(0.864)],
      ['b', 2, 4, UNOPENED_RECORD],
    ]);
    expect(alone.chance).toBeCloseTo(0.864, 5);
    expect(inside.chance).toBeCloseTo(0.864, 5);
  });

  it('multiplies halves, and a passage over both that says the same changes nothing (the design’s check)', () => {
    const halves: Piece[] = [
      ['a', 0, 4, heldAt(0.9)],
      ['b', 4, 8, heldAt(0.9)],
    ];
    expect(judge(halves).chance).toBeCloseTo(0.81, 5);
    expect(judge([...halves, ['whole', 0, 8, heldAt(0.81)]]).chance).toBeCloseTo(0.81, 5);
    expect(judge(halves).expectedSlips).toBeCloseTo(-Math.log(0.81), 5);
  });

  it('gives each passage the voice with which its hazard stands in the part: their sum is the part’s own', () => {
    const part = {
      runs: [{ fromIndex: 0, endIndex: 8 }],
      measures: Array.from({ length: 16 }, () => ({ seconds: 2, demand: 1 })),
      passages: [
        { id: 'a', fromIndex: 0, endIndex: 6, isSeam: false, seconds: 12, record: heldAt(0.9) },
        { id: 'b', fromIndex: 4, endIndex: 8, isSeam: false, seconds: 8, record: heldAt(0.8) },
        { id: 'inside', fromIndex: 1, endIndex: 3, isSeam: false, seconds: 4, record: UNOPENED_RECORD },
      ],
    };
    const { voices, restHazard } = partVoicesAt(part, NOW);
    const hazard = voices.reduce(
      (sum, { voice, belief }) => sum - voice * Math.log(chanceOfClean(belief, 1, 'run')),
      restHazard,
    );
    expect(Math.exp(-hazard)).toBeCloseTo(partReadinessAt(part, NOW).chance ?? 0, 9);
    expect(voices.find(({ id }) => id === 'inside')?.voice).toBe(0);
    // Where nobody has played, those who lie there share the measures: whole passages side by side count whole.
    const unplayed = part.passages.slice(0, 2).map((one) => ({ ...one, record: UNOPENED_RECORD }));
    const [a, b] = partVoicesAt({ ...part, passages: unplayed }, NOW).voices;
    expect([a?.voice, b?.voice]).toEqual([5 / 6, 3 / 4]);
  });

  it('hears what is known better: a passage played in runs outweighs one that was guessed alone', () => {
    const vague = heldAt(0.3, { belief: [{ steepness: 12, weight: 1, mean: -0.1, sd: 2 }] });
    const inRuns = heldAt(0.9, { runReps: 20, belief: sharp(3.2) });
    const mixed = judge([
      ['vague', 0, 8, vague],
      ['runs', 0, 8, inRuns],
    ]);
    expect(mixed.chance).toBeGreaterThan(0.85);
  });

  it('lets a seam add only what the join costs beyond its sides, never less than nothing', () => {
    const sides: Piece[] = [
      ['a', 0, 4, heldAt(0.9)],
      ['b', 4, 8, heldAt(0.9)],
    ];
    const bare = judge(sides).chance ?? 0;
    expect(judge([...sides, ['seam', 3, 5, heldAt(0.96), true]]).chance).toBeLessThanOrEqual(bare);
    // Two of eight measures carry a quarter of the hazard: a seam as good as they are costs nothing.
    expect(judge([...sides, ['seam', 3, 5, heldAt(0.97), true]]).chance).toBeCloseTo(bare, 5);
    expect(judge([...sides, ['seam', 3, 5, heldAt(0.5), true]]).chance).toBeCloseTo(
      (0.5 * bare) / 0.81 ** 0.25,
      4,
    );
    expect(judge([...sides, ['seam', 3, 5, UNOPENED_RECORD, true]]).chance).toBeCloseTo(bare, 12);
  });

  it('spreads a hazard by demand, so that a run over the easy half is safer', () => {
    const piece: Piece = ['a', 0, 8, heldAt(0.6)];
    const demands = [0.1, 0.1, 0.1, 0.1, 1, 1, 1, 1];
    const easy = judge([piece], { runs: [[0, 4]], demands });
    const hard = judge([piece], { runs: [[4, 8]], demands });
    expect(easy.chance ?? 0).toBeGreaterThan(hard.chance ?? 1);
    expect((easy.chance ?? 0) * (hard.chance ?? 0)).toBeCloseTo(0.6, 5);
  });

  it('takes a part of several runs for what they are, not for what lies between', () => {
    const runs = [
      [0, 2],
      [6, 8],
    ] as (readonly [number, number])[];
    const judged = judge([['a', 0, 2, heldAt(0.9)]], { runs });
    expect(judged.measures).toBe(4);
    expect(judged.untracked).toEqual([6, 7]);
  });

  it('never looks done while some of it is untracked', () => {
    const half = judge([['a', 0, 4, heldAt(0.95)]]);
    expect(half.untracked).toEqual([4, 5, 6, 7]);
    expect(half.state).not.toBe('holding');
    expect(half.chance ?? 1).toBeLessThan(0.3);
  });

  it('has no number where nothing was played, and is unopened without passages', () => {
    expect(judge([])).toEqual(
      jasmine.objectContaining({ state: 'unopened', chance: null, expectedSlips: null }),
    );
    expect(judge([['a', 0, 8, UNOPENED_RECORD]])).toEqual(
      jasmine.objectContaining({ state: 'mapped', chance: null }),
    );
  });

  it('names the passage that a minute moves most, and no seam while most of the piece is unplayed', () => {
    const weak = recordOf([rep(9, 0.8, true), rep(9, 0.85, true), rep(9, 0.9, true)], TARGET);
    expect(
      judge([
        ['strong', 0, 4, heldAt(0.95)],
        ['weak', 4, 8, weak],
      ]).movesMost,
    ).toBe('weak');
    expect(
      judge([
        ['a', 0, 2, heldAt(0.9)],
        ['b', 2, 8, UNOPENED_RECORD],
        ['seam', 1, 3, heldAt(0.2), true],
      ]).movesMost,
    ).not.toBe('seam');
  });
});
