import fc from 'fast-check';
import {
  advance,
  buildLadder,
  clickPatternsOf,
  clickTimes,
  heldPlace,
  LADDER_START,
  likelyClimb,
  passageLadder,
  placeOf,
  renderClick,
  schoolOf,
  type ClickSettings,
  type LadderStep,
} from './index.js';
import { asQuarterBpm } from '../music/index.js';

const bpms = (fromBpm: number, toBpm: number, step: LadderStep): readonly number[] => {
  const ladder = buildLadder({ fromBpm, toBpm, step, unit: 'quarter' });
  return ladder.ok ? ladder.value.map(({ bpm }) => bpm) : [];
};

describe('ladder', () => {
  it('takes eight rungs from 60 to 127 in steps of 10, the last shortened (the design’s check value)', () => {
    expect(bpms(60, 127, { kind: 'bpm', size: 10 })).toEqual([60, 70, 80, 90, 100, 110, 120, 127]);
  });

  it('climbs by default in eight rungs, denser near the top (the design’s check value)', () => {
    const percents = (targetBpm: number): readonly number[] => {
      const ladder = passageLadder(targetBpm, 'quarter');
      return ladder.ok ? ladder.value.map(({ percent }) => percent) : [];
    };
    expect(percents(100)).toEqual([50, 58, 66, 74, 82, 89, 95, 100]);
    expect(percents(116)).toEqual([50, 58, 66, 74, 82, 89, 95, 100]);
    const ladder = passageLadder(116, 'quarter');
    // 58 percent of 116 is 67.28 and nothing beside.
    expect(ladder.ok && ladder.value[1]?.bpm).toBe(67.28);
  });

  it('climbs 50, 54, … 98, 100 percent by steps of four (the design’s check value)', () => {
    const ladder = passageLadder(100, 'quarter', { kind: 'percent', size: 4 });
    expect(ladder.ok && ladder.value.map(({ percent }) => percent)).toEqual([
      50, 54, 58, 62, 66, 70, 74, 78, 82, 86, 90, 94, 98, 100,
    ]);
  });

  it('keeps rungs a beat apart: a slow target gets fewer, and a finer step is refused with a sentence', () => {
    const slow = passageLadder(12, 'quarter');
    const bpmsOf = slow.ok ? slow.value.map(({ bpm }) => bpm) : [];
    expect(bpmsOf.every((bpm, n) => n === 0 || bpm - (bpmsOf[n - 1] ?? 0) >= 1)).toBeTrue();
    const fine = passageLadder(20, 'quarter', { kind: 'percent', size: 4 });
    expect(!fine.ok && fine.issues[0]?.message).toBe(
      'Rungs lie at least 1 beat a minute apart; this step is 0.8. Choose a larger one, or the usual eight rungs.',
    );
  });

  it('uses the dial’s own numbers between the ends', () => {
    expect(bpms(61, 80, { kind: 'dial' })).toEqual([61, 63, 66, 69, 72, 76, 80]);
  });

  it('clicks eighths while slow and the unit itself near the target', () => {
    const ladder = passageLadder(116, 'quarter');
    expect(ladder.ok && ladder.value[0]?.click).toEqual({ unit: 'eighth', bpm: 116 });
    expect(ladder.ok && ladder.value.at(-1)?.click).toEqual({ unit: 'quarter', bpm: 116 });
  });

  it('always rises, starts at the start and lands on the target', () => {
    const step = fc.oneof(
      fc.record({ kind: fc.constant('percent' as const), size: fc.integer({ min: 1, max: 50 }) }),
      fc.record({ kind: fc.constant('bpm' as const), size: fc.integer({ min: 1, max: 60 }) }),
      fc.constant({ kind: 'dial' as const }),
      fc.constant({ kind: 'usual' as const }),
    );
    const lands = fc.property(
      fc.integer({ min: 40, max: 120 }),
      fc.integer({ min: 0, max: 90 }),
      step,
      (from, more, how) => {
        const rungs = bpms(from, from + more, how);
        const isTooFine = how.kind === 'percent' && ((from + more) * how.size) / 100 < 1;
        if (isTooFine) return rungs.length === 0;
        return (
          rungs[0] === from &&
          rungs.at(-1) === from + more &&
          rungs.every((bpm, n) => n === 0 || bpm > (rungs[n - 1] ?? 0))
        );
      },
    );
    expect(() => fc.assert(lands)).not.toThrow();
  });

  it('refuses tempos of 0 and 900, a downward climb and a step of nothing', () => {
    const code = (fromBpm: number, toBpm: number, size: number): string => {
      const ladder = buildLadder({ fromBpm, toBpm, step: { kind: 'bpm', size }, unit: 'quarter' });
      return ladder.ok ? 'ok' : (ladder.issues[0]?.code ?? '');
    };
    expect([code(0, 100, 4), code(60, 900, 4), code(100, 60, 4), code(60, 100, 0)]).toEqual([
      'bpm-out-of-range',
      'bpm-out-of-range',
      'ladder-backwards',
      'ladder-step',
    ]);
  });
});

describe('rung rules', () => {
  const rungs = [60, 70, 80];
  const place = (
    text: string,
    rule: 'three-in-a-row' | 'five-in-a-row' | 'no-surprises' = 'three-in-a-row',
    slipRule: 'two-down' | 'stay' = 'two-down',
  ): ReturnType<typeof advance> =>
    text
      .trim()
      .split(/\s+/u)
      .map((token) => {
        const [, outcome, bpm, day] = /^([cx])(\d+)(?:d(\d))?$/u.exec(token) ?? [];
        return { isClean: outcome === 'c', bpm: Number(bpm), day: Number(day ?? 1) };
      })
      .reduce((state, rep) => advance(state, rep, { rungBpms: rungs, rule, slipRule }), LADDER_START);
  const play = (...[text, rule, slipRule]: Parameters<typeof place>): string => {
    const { rungIndex, streak, isDone } = placeOf(place(text, rule, slipRule), rule ?? 'three-in-a-row');
    return `${rungIndex}/${streak}${isDone ? ' done' : ''}`;
  };

  it('moves up after three clean in a row and not after two', () => {
    expect(play('c60 c60')).toBe('0/2');
    expect(play('x60 c60 c60')).toBe('0/2');
    expect(play('x60 c60 c60 c60')).toBe('1/0');
  });

  it('moves up two rungs where the rule is met at first sight, but never past the top', () => {
    expect(play('c60 c60 c60')).toBe('2/0');
    expect(play('x60 c60 c60 c60 c70 c70 c70')).toBe('2/0');
    // Played before, the rung is no longer new.
    expect(play('x70 c60 c60 c60')).toBe('1/0');
  });

  it('keeps the fastest tempo that met the rule as a fact, at its slowest rep', () => {
    expect(place('c60 c60').cleanBpm).toBeNull();
    expect(place('c63 c64 c63').cleanBpm).toBe(63);
    expect(place('c63 c64 c63 x70 x60').cleanBpm).toBe(63);
    expect(place('c80 c80 c80 c60 c60 c60').cleanBpm).toBe(80);
  });

  it('counts anew after a slip', () => {
    expect(play('c60 c60 x60 c60 c60')).toBe('0/2');
  });

  it('follows a player who goes back to a lower rung by choice', () => {
    expect(play('x60 c60 c60 c60 x70 c60')).toBe('0/1');
  });

  it('goes a rung down after two slips in a row, never below the bottom, and not where the studio stays (the design)', () => {
    expect(play('c60 c60 c60 x80')).toBe('2/0');
    expect(play('c60 c60 c60 x80 x80')).toBe('1/0');
    expect(play('c60 c60 c60 x80 c80 x80')).toBe('2/0');
    expect(play('x60 x60 x60')).toBe('0/0');
    expect(play('c60 c60 c60 x80 x80', 'three-in-a-row', 'stay')).toBe('2/0');
  });

  it('holds a rung where something surprised until it is looked at', () => {
    const here = placeOf(place('c60 c60 c60'), 'three-in-a-row');
    expect(heldPlace(here, rungs, 70)).toEqual(jasmine.objectContaining({ rungIndex: 1, isHeld: true }));
    expect(heldPlace(here, rungs, null)).toEqual(jasmine.objectContaining({ rungIndex: 2, isHeld: false }));
  });

  it('takes the word of the passage before that of the student, and that before the studio’s', () => {
    const silent = { climbSchool: null, rungRule: null, slipRule: null };
    expect(
      schoolOf([
        silent,
        { ...silent, climbSchool: 'reach' },
        { climbSchool: 'whole', rungRule: 'five-in-a-row', slipRule: 'stay' },
      ]),
    ).toEqual({ climbSchool: 'reach', rungRule: 'five-in-a-row', slipRule: 'stay' });
    expect(schoolOf([])).toEqual({
      climbSchool: 'steady',
      rungRule: 'three-in-a-row',
      slipRule: 'two-down',
    });
  });

  it('expects 14 throws for three heads in a row (Feller 1968, XIII.7), and more reps higher up', () => {
    // At even odds (1 − 1/8) / (1/2 · 1/8) = 14; the ladder’s own chances are higher.
    const whole = likelyClimb(
      { rungBpms: [50, 58, 66, 74, 82, 89, 95, 100], rule: 'three-in-a-row' },
      { fromRung: 0, seconds: 8 },
    );
    const top = likelyClimb({ rungBpms: [50, 100], rule: 'three-in-a-row' }, { fromRung: 1, seconds: 8 });
    expect(whole.reps).toBeGreaterThan(5 * 3);
    expect(whole.reps).toBeLessThan(8 * 14);
    // (1 − 0.65³) / (0.35 · 0.65³) = 7.5 reps of 8 s and 8 s between.
    expect(top).toEqual({ rungs: 1, reps: 8, minutes: 2 });
  });

  it('is done when the top rung’s rule is met, until a slip there', () => {
    expect(play('c80 c80 c80')).toBe('2/3 done');
    expect(play('c80 c80 c80 x80')).toBe('2/0');
  });

  it('asks five in a row, or eight without a slip over two days, where the studio chose that', () => {
    expect(play('c60 c60 c60 c60', 'five-in-a-row')).toBe('0/4');
    expect(play('x60 c60 c60 c60 c60 c60', 'five-in-a-row')).toBe('1/0');
    expect(play('c60 '.repeat(9), 'no-surprises')).toBe('0/8');
    expect(play(`x60d1 ${'c60d1 '.repeat(7)}c60d2`, 'no-surprises')).toBe('1/0');
  });

  it('takes a whole metronome number for the rung it rounds to', () => {
    const rungAt = (bpm: number): number =>
      advance(
        LADDER_START,
        { bpm, isClean: true, day: 1 },
        { rungBpms: [58, 62.64], rule: 'three-in-a-row', slipRule: 'stay' },
      ).rungIndex;
    expect([rungAt(63), rungAt(62)]).toEqual([1, 0]);
  });
});

describe('click', () => {
  const meter = (beats: number, beatType: number): ClickSettings['measures'][number] => ({
    meter: { groups: [beats], beatType },
    quarters: (beats * 4) / beatType,
  });
  const base: ClickSettings = {
    measures: [meter(4, 4), meter(4, 4), meter(4, 4), meter(4, 4)],
    quarterBpm: asQuarterBpm(60),
    pattern: 'beats',
    countIn: 0,
    silentAfter: null,
    isAlternating: false,
  };
  const levels = (clicks: ReturnType<typeof clickTimes>): string =>
    clicks.map(({ level, isSilent }) => (isSilent ? '-' : String(level))).join('');

  it('accents by meter: 6/8 in two or in six, 3/4 against it, 3+2/8 by its groups (common practice, no source)', () => {
    const ids = clickPatternsOf({ groups: [6], beatType: 8 }).map(({ id }) => id);
    expect(ids).toContain('against-three');
    const six = { ...base, measures: [meter(6, 8)] };
    expect(clickTimes(six).map(({ at }) => at as number)).toEqual([0, 1.5]);
    expect(levels(clickTimes({ ...six, pattern: 'eighths' }))).toBe('200100');
    expect(clickTimes({ ...six, pattern: 'against-three' }).map(({ at }) => at as number)).toEqual([0, 1, 2]);
    const five = { ...base, measures: [{ meter: { groups: [3, 2], beatType: 8 }, quarters: 2.5 }] };
    expect(clickTimes(five).map(({ at }) => at as number)).toEqual([0, 1.5]);
  });

  it('counts in, falls silent after so many measures, or goes a measure on and one off', () => {
    expect(levels(clickTimes({ ...base, countIn: 1 }))).toBe('21112111211121112111');
    expect(levels(clickTimes({ ...base, silentAfter: 2 }))).toBe('21112111--------');
    expect(levels(clickTimes({ ...base, isAlternating: true }))).toBe('2111----2111----');
  });

  it('counts an upbeat in within its own measure', () => {
    const upbeat = { ...base, measures: [{ ...meter(4, 4), quarters: 1 }, meter(4, 4)], countIn: 1 };
    const clicks = clickTimes(upbeat);
    expect(clicks.filter(({ measure }) => measure < 0).length).toBe(7);
    expect(clicks.find(({ measure }) => measure === 0)?.at as number | undefined).toBe(7);
  });

  it('is on time to the sample when it is rendered, for any tempo', () => {
    const onTime = fc.property(fc.double({ min: 20, max: 400, noNaN: true }), (bpm) => {
      const clicks = clickTimes({ ...base, quarterBpm: asQuarterBpm(bpm), pattern: 'thirds' });
      const rate = 48_000;
      const sound = renderClick(clicks, rate);
      // A click begins where the sound jumps to its full height.
      return clicks.every(({ at }, n) => {
        const sample = Math.round((n / 3) * (60 / bpm) * rate);
        return (
          Math.abs(Math.round(at * rate) - sample) <= 1 && Math.abs(sound[Math.round(at * rate)] ?? 0) > 0.3
        );
      });
    });
    expect(() => fc.assert(onTime, { numRuns: 40 })).not.toThrow();
  });
});
