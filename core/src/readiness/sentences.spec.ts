import {
  partSentence,
  passageSentence,
  STATES,
  STATE_WORDS,
  type PartReadiness,
  type PassageReadiness,
  type ReadinessState,
} from './index.js';

const readiness = (state: ReadinessState, cleanShare: number | null): PassageReadiness => ({
  state,
  cleanShare,
  chance: cleanShare === null ? null : 0.5,
  low: null,
  high: null,
  reps: cleanShare === null ? 0 : 12,
  practiceDays: 2,
});
const rungBpms = [58, 63, 116];
const say = (
  state: ReadinessState,
  cleanShare: number | null,
  place: { rungIndex: number; streak: number; isDone?: boolean },
): string =>
  passageSentence({
    readiness: readiness(state, cleanShare),
    place: { needed: 3, isDone: false, ...place },
    rungBpms,
    targetBpm: 116,
    unit: 'quarter',
  });

describe('the passage’s sentence', () => {
  it('says where to start, what is asked and what moves up', () => {
    expect(say('mapped', null, { rungIndex: 0, streak: 0 })).toBe(
      'Nobody has played it yet. Start at ♩=58; three clean in a row moves up.',
    );
    expect(say('grounded', 0.61, { rungIndex: 1, streak: 2 })).toBe(
      'Clean at ♩=70 today; the sheet asks ♩=116. Three clean in a row at ♩=63 moves up; 1 rung to go.',
    );
    expect(say('climbing', 0.9, { rungIndex: 2, streak: 1 })).toContain(
      'Three clean in a row at ♩=116 finishes the ladder.',
    );
    expect(say('at-tempo', 1.02, { rungIndex: 2, streak: 3, isDone: true })).toBe(
      'Clean at the target, ♩=116. Now play it in a run, on another day.',
    );
    expect(say('holding', 1.1, { rungIndex: 2, streak: 3, isDone: true })).toContain('Keep the load light');
  });

  it('never claims a clean tempo that was not reached', () => {
    expect(say('climbing', 0.9999, { rungIndex: 1, streak: 0 })).toContain('Clean at ♩=115 today');
  });
});

describe('the part’s sentence', () => {
  const part = (change: Partial<PartReadiness>): PartReadiness => ({
    state: 'climbing',
    chance: 0.2,
    expectedSlips: 1.4,
    restMeasures: [],
    reps: 40,
    movesMost: 'a',
    passageStates: new Map(),
    ...change,
  });
  const mover = { name: 'the return', cleanBpm: 92.7, targetBpm: 116, unit: 'quarter' as const };

  it('names the passage that decides and the measures nobody tracks, in the studio’s words', () => {
    expect(
      partSentence({ part: part({ restMeasures: [4, 5] }), totalMeasures: 28, vocabulary: 'us', mover }),
    ).toBe('“the return” decides: clean at ♩=92, the sheet asks 116. 2 of 28 measures lie in no passage.');
    expect(
      partSentence({ part: part({ restMeasures: [4, 5] }), totalMeasures: 28, vocabulary: 'uk', mover }),
    ).toContain('2 of 28 bars');
  });

  it('says what to do first where nothing is cut or played', () => {
    expect(
      partSentence({ part: part({ reps: 0 }), totalMeasures: 28, vocabulary: 'us', mover: null }),
    ).toContain('cut the 28 measures into passages');
    expect(
      partSentence({
        part: part({ reps: 0 }),
        totalMeasures: 28,
        vocabulary: 'us',
        mover: { ...mover, cleanBpm: null },
      }),
    ).toContain('Start with “the return”');
    expect(
      partSentence({
        part: part({}),
        totalMeasures: 28,
        vocabulary: 'us',
        mover: { ...mover, cleanBpm: null },
      }),
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
