import fc from 'fast-check';
import { advance, buildLadder, LADDER_START, passageLadder, placeOf, type LadderStep } from './index.js';

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
  ): ReturnType<typeof advance> =>
    text
      .trim()
      .split(/\s+/u)
      .map((token) => {
        const [, outcome, bpm, day] = /^([cx])(\d+)(?:d(\d))?$/u.exec(token) ?? [];
        return { isClean: outcome === 'c', bpm: Number(bpm), day: Number(day ?? 1) };
      })
      .reduce((state, rep) => advance(state, rep, { rungBpms: rungs, rule }), LADDER_START);
  const play = (...[text, rule]: Parameters<typeof place>): string => {
    const { rungIndex, streak, isDone } = placeOf(place(text, rule), rule ?? 'three-in-a-row');
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
      advance(LADDER_START, { bpm, isClean: true, day: 1 }, { rungBpms: [58, 62.64], rule: 'three-in-a-row' })
        .rungIndex;
    expect([rungAt(63), rungAt(62)]).toEqual([1, 0]);
  });
});
