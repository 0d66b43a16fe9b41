import type { RungRule } from '../climb/index.js';
import {
  partSentence,
  passageSentence,
  STATES,
  STATE_WORDS,
  type PartMover,
  type PartReadiness,
  type PassageSentenceFacts,
  type ReadinessState,
} from './index.js';

type Change = Partial<Omit<PassageSentenceFacts, 'readiness' | 'place'>> & {
  readonly reps?: number;
  readonly state?: ReadinessState;
  readonly rungIndex?: number;
  readonly isDone?: boolean;
};

const say = ({
  reps = 12,
  state = 'climbing',
  rungIndex = 1,
  isDone = false,
  ...facts
}: Change = {}): string =>
  passageSentence({
    readiness: { state, chance: reps === 0 ? null : 0.5, reps, practiceDays: 2 },
    place: { rungIndex, streak: 0, needed: 3, isDone },
    rungBpms: [58, 63, 116],
    rule: 'three-in-a-row',
    playedCleanBpm: 63,
    reliableBpm: 53.4,
    targetBpm: 116,
    unit: 'quarter',
    isAsked: true,
    ...facts,
  });

describe('the passage’s sentence', () => {
  it('says played clean of what was met and reliable of what is estimated (the design’s example)', () => {
    expect(say()).toBe(
      'Played clean at ♩=63; reliable at about ♩=53; the sheet asks ♩=116. Three clean in a row at ♩=63 moves up; 1 rung to go.',
    );
  });

  it('claims no clean tempo after one rep, and no estimate of so little', () => {
    expect(say({ reps: 1, playedCleanBpm: null, reliableBpm: 35, rungIndex: 0 })).toBe(
      'No tempo met its rule yet; the sheet asks ♩=116. Three clean in a row at ♩=58 moves up; 2 rungs to go.',
    );
  });

  it('says that the sheet asks only where it does', () => {
    expect(say({ isAsked: false })).toContain('the target is ♩=116');
    expect(say({ isAsked: false })).not.toContain('sheet');
  });

  it('says where to start and by which rule', () => {
    const rule: RungRule = 'no-surprises';
    expect(say({ reps: 0, rungIndex: 0 })).toBe(
      'Nobody has played it yet. Start at ♩=58; three clean in a row moves up.',
    );
    expect(say({ reps: 0, rungIndex: 0, rule })).toContain('eight without a slip over two days moves up');
  });

  it('ends the ladder at the target, then asks for runs', () => {
    expect(say({ rungIndex: 2 })).toContain('Three clean in a row at ♩=116 finishes the ladder.');
    const done = { rungIndex: 2, isDone: true, playedCleanBpm: 116 };
    expect(say({ ...done, reliableBpm: 120 })).toBe(
      'Played clean at the target, ♩=116. Now play it in a run, on another day.',
    );
    expect(say({ ...done, reliableBpm: 108.2 })).toContain('reliable at about ♩=108');
    expect(say({ ...done, reliableBpm: 120, state: 'holding' })).toContain('Keep the load light');
  });

  it('never rounds a tempo up', () => {
    expect(say({ playedCleanBpm: 115.9, reliableBpm: 115.99 })).toContain(
      'Played clean at ♩=115; reliable at about ♩=115',
    );
  });
});

describe('the part’s sentence', () => {
  const part = (change: Partial<PartReadiness>): PartReadiness => ({
    state: 'climbing',
    chance: 0.2,
    expectedSlips: 1.6,
    measures: 28,
    untracked: [],
    unplayed: [],
    reps: 40,
    movesMost: 'a',
    measureStates: new Map(),
    ...change,
  });
  const mover: PartMover = {
    name: 'the return',
    reps: 12,
    playedCleanBpm: 96.6,
    reliableBpm: 92.7,
    targetBpm: 116,
    unit: 'quarter',
    isAsked: true,
  };

  it('names the passage that decides and the measures nobody tracks, in the studio’s words', () => {
    const open = part({ untracked: [4, 5], unplayed: [4, 5] });
    expect(partSentence({ part: open, vocabulary: 'us', mover })).toBe(
      '“the return” decides: played clean at ♩=96; reliable at about ♩=92; the sheet asks ♩=116. 2 of 28 measures lie in no passage.',
    );
    expect(partSentence({ part: open, vocabulary: 'uk', mover })).toContain('2 of 28 bars');
  });

  it('calls nothing deciding while most of the piece is unplayed', () => {
    const unplayed = Array.from({ length: 20 }, (_, n) => n);
    const said = partSentence({ part: part({ unplayed }), vocabulary: 'us', mover });
    expect(said).not.toContain('decides');
    expect(said).toContain('20 of 28 measures were not played yet');
  });

  it('says what to do first where nothing is cut or played', () => {
    expect(partSentence({ part: part({ reps: 0 }), vocabulary: 'us', mover: null })).toContain(
      'cut the 28 measures into passages',
    );
    expect(partSentence({ part: part({ reps: 0 }), vocabulary: 'us', mover })).toContain(
      'Start with “the return”',
    );
    expect(
      partSentence({ part: part({}), vocabulary: 'us', mover: { ...mover, reps: 0, playedCleanBpm: null } }),
    ).toContain('nobody has played it yet');
  });

  it('has a word for every state', () => {
    expect(STATES.map((state) => STATE_WORDS[state])).toEqual([
      'Unopened',
      'Mapped',
      'Grounded',
      'Climbing',
      'At tempo',
      'Holding',
    ]);
  });
});
