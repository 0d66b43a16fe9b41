import { asQuarterBpm } from '../music/index.js';
import { playedSeconds, repeatedStretches, resolveSpan, withoutPickup } from '../score/index.js';
import { breaksOf, diffRevisions } from './breaks.js';
import { blankPart } from '../sheet/index.js';
import { judgeAnswer, judgeChoice, judgeProgram, type Verdict, type PartAnswer } from './verdict.js';

const answer: PartAnswer = {
  isTaken: true,
  workTitle: 'Ebb',
  hasScore: true,
  spanIssue: null,
  target: { bpm: 96, beatUnit: 'quarter' },
  policy: 'keep',
  repeats: null,
  seconds: null,
  repeated: [],
};

describe('playedSeconds', () => {
  // 32 measures of four quarters at 120 last 64 s; the repeat of 17–32 adds 32 s. Arithmetic.
  const measures = Array.from({ length: 32 }, () => ({ quarters: 4, quarterBpm: null }));
  const order = [...Array(32).keys(), ...Array.from({ length: 16 }, (_, n) => n + 16)];
  const all = [{ fromIndex: 0, endIndex: 32 }];

  it('takes repeats or leaves them out, and names them', () => {
    const seconds = (withRepeats: boolean): number =>
      playedSeconds(measures, order, { spans: all, quarterBpm: asQuarterBpm(120), withRepeats });
    expect([seconds(true), seconds(false)]).toEqual([96, 64]);
    expect(repeatedStretches(order)).toEqual([{ fromIndex: 16, endIndex: 32 }]);
  });

  it('leaves a first ending out with its repeat, and keeps a da capo al fine', () => {
    const straight = (played: number[]): number =>
      playedSeconds(measures, played, { spans: all, quarterBpm: asQuarterBpm(240), withRepeats: false });
    expect(straight([0, 1, 2, 0, 1, 3])).toBe(3);
    expect(straight([0, 1, 2, 3, 0, 1])).toBe(6);
  });

  it('keeps the proportion of tempo changes inside the piece', () => {
    const changing = measures.map((measure, index) => ({
      ...measure,
      quarterBpm: asQuarterBpm(index < 16 ? 60 : 120),
    }));
    expect(
      playedSeconds(changing, [...Array(32).keys()], {
        spans: all,
        quarterBpm: asQuarterBpm(120),
        withRepeats: true,
      }),
    ).toBe(16 * 2 + 16);
  });
});

describe('resolveSpan by anchors', () => {
  const measures = Array.from({ length: 40 }, (_, n) => ({
    number: String(n + 1),
    implicit: false,
    rehearsal: { 9: 'K', 19: 'M', 29: '7' }[n] ?? null,
  }));
  const resolve = (from: string, to: string): unknown => {
    const span = resolveSpan(measures, { from, to });
    return span.ok ? [span.value.fromIndex, span.value.endIndex] : span.issues[0]?.message;
  };

  it('finds marks and measures counted from them', () => {
    expect(resolve('K-6', 'M')).toEqual([3, 20]);
    expect(resolve('start', 'K+2')).toEqual([0, 12]);
    expect(resolve('figure 7', 'end')).toEqual([29, 40]);
    expect(resolve('end-15', 'end')).toEqual([24, 40]);
  });

  it('says which marks the piece has where one is missing', () => {
    expect(resolve('Q', 'end')).toContain('has the marks K, M, 7');
    expect(resolve('start', 'double bar')).toContain('Give the printed numbers');
  });
});

describe('withoutPickup', () => {
  const measures = ['0', '1', '2', '3'].map((number, n) => ({ number, implicit: n === 0 }));

  it('turns numbers that count the pickup into printed ones, and nothing else', () => {
    expect(withoutPickup(measures, { from: '2', to: '4' })).toEqual({ from: '1', to: '3' });
    expect(withoutPickup(measures, { from: '1', to: 'K' })).toEqual({ from: 'start', to: 'K' });
    expect(withoutPickup(measures.slice(1), { from: '2', to: '3' })).toEqual({ from: '2', to: '3' });
  });
});

describe('judgeAnswer', () => {
  const solo = { ...blankPart('Solo', 'solo'), maxSeconds: 180 };

  it('says what the solo lasts, the limit, and what it would last without the repeat', () => {
    const verdict = judgeAnswer(solo, {
      ...answer,
      seconds: { withRepeats: 204, straight: 161 },
      repeated: ['17–32'],
    });
    expect(verdict.status).toBe('over');
    expect(verdict.reasons.at(-1)).toBe(
      'It lasts 3:24 with repeats, the limit is 3:00; without the repeat of 17–32 it lasts 2:41.',
    );
    expect(
      judgeAnswer(solo, { ...answer, repeats: 'omit', seconds: { withRepeats: 204, straight: 161 } }).status,
    ).toBe('satisfied');
  });

  it('compares tempos counted in other notes, and holds a range on both sides', () => {
    const etude = {
      ...blankPart('Etude', 'etude'),
      tempo: { beatUnit: 'half' as const, bpmMin: 48, bpmMax: 52, bound: 'range' as const, words: null },
    };
    const at = (bpm: number): string =>
      judgeAnswer(etude, { ...answer, target: { bpm, beatUnit: 'quarter' } }).status;
    expect([at(95), at(96), at(104), at(105)]).toEqual(['short', 'satisfied', 'satisfied', 'over']);
  });

  it('leaves open what is not known', () => {
    expect(judgeAnswer(solo, { ...answer, hasScore: false, workTitle: null }).status).toBe('undecided');
    expect(judgeAnswer(solo, { ...answer, isTaken: false }).status).toBe('left-out');
  });
});

describe('judgeChoice', () => {
  it('counts one of, n of, bundles and one from each', () => {
    const judge = (choice: Parameters<typeof judgeChoice>[0], ids: readonly string[]): Verdict =>
      judgeChoice(choice, { ids: new Set(ids), nameOf: (id) => id });
    const one = { rule: 'oneOf' as const, n: 1, of: ['A', ['B', 'C']] };
    expect<readonly string[]>(
      [[], ['A'], ['B'], ['B', 'C'], ['A', 'B', 'C']].map((taken) => judge(one, taken).status),
    ).toEqual([...['undecided', 'satisfied', 'undecided', 'satisfied', 'over']]);
    const each = {
      rule: 'oneFromEach' as const,
      n: 1,
      of: [
        ['A1', 'A2'],
        ['B1', 'B2'],
      ],
    };
    expect(judge(each, ['A1']).status).toBe('undecided');
    expect(judge(each, ['A1', 'B2']).status).toBe('satisfied');
    // Two pieces, one from each.
    expect(judge({ ...each, n: 2 }, ['A1', 'B2']).status).toBe('satisfied');
    expect(judge({ ...each, n: 2 }, ['A1']).reasons).toEqual(['None of B1, B2 is chosen yet.']);
    expect(
      judgeProgram(
        [{ label: 'A', verdict: { status: 'left-out', reasons: [], open: [] } }],
        [judge(each, ['A1', 'A2', 'B1'])],
      ).status,
    ).toBe('over');
  });
});

describe('revisions', () => {
  const mark = (bpm: number) => ({
    beatUnit: 'quarter' as const,
    bpmMin: bpm,
    bpmMax: bpm,
    bound: 'exact' as const,
    words: null,
  });
  const part = {
    ...blankPart('Etude 1', 'etude'),
    tempo: mark(96),
    measures: [{ from: 1, to: 24, anchorText: null }],
  };
  const dates = [{ what: 'audition' as const, date: '2027-01-16', time: null, zone: null, text: '' }];

  it('differ field by field, matched by origin and not by name', () => {
    const after = { ...part, label: 'Etude I', tempo: mark(104) };
    const found = diffRevisions(
      { parts: [{ originId: 'x', part }], deadlines: dates },
      {
        parts: [{ originId: 'x', part: after }],
        deadlines: [{ what: 'audition' as const, time: null, zone: null, text: '', date: '2027-01-23' }],
      },
    );
    expect(found.changes.map(({ part: name, field }) => `${name}/${field}`)).toEqual([
      'Etude I/label',
      'Etude I/tempo',
      'deadlines[audition]/date',
    ]);
    expect([found.added, found.removed]).toEqual([[], []]);
  });

  it('break a span that grew, a passage left outside and a tempo that moved', () => {
    const broken = breaksOf({
      before: [{ fromIndex: 0, endIndex: 24 }],
      after: [{ fromIndex: 4, endIndex: 32 }],
      spanText: (first, last) => `${first + 1}–${last + 1}`,
      passages: [{ name: 'the sixteenths', fromIndex: 2, endIndex: 6 }],
      tempo: { old: mark(96), now: mark(104), ownTarget: false },
    });
    expect(broken).toEqual([
      '25–32 are new: no passage covers them.',
      'the sixteenths is no longer inside what is asked.',
      'The tempo moves from ♩=96 to ♩=104; the target moves along.',
    ]);
  });
});
