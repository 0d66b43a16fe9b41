import fc from 'fast-check';
import { asSeconds } from '../music/index.js';
import { LADDER_START, passageLadder, placeOf } from '../climb/index.js';
import { beliefReliableAt, PRIOR } from '../readiness/index.js';
import {
  against,
  againstText,
  allot,
  dateOfDay,
  dayOfDate,
  makePlan,
  moved,
  NO_WISHES,
  planSentence,
  tasksOf,
  wayOutText,
  waysOut,
  withWishes,
  type Claim,
  type KeptDay,
  type PassageToPlan,
  type PlanInput,
} from './index.js';

const LADDER = passageLadder(100, 'quarter');
const RUNGS = LADDER.ok ? LADDER.value.map(({ bpm }) => bpm) : [];

function passage(id: string, share: number | null, more: Partial<PassageToPlan> = {}): PassageToPlan {
  return {
    id,
    name: id,
    partId: 'etude',
    belief: share === null ? PRIOR : beliefReliableAt(share),
    practiceDays: share === null ? 0 : 4,
    idleDays: share === null ? null : 1,
    seconds: asSeconds(8),
    weight: 1,
    deadline: 42,
    targetBpm: 100,
    unit: 'quarter',
    rungBpms: RUNGS,
    place: placeOf(LADDER_START, 'three-in-a-row'),
    school: 'steady',
    after: [],
    pinned: [],
    barred: [],
    ...more,
  };
}

function inputOf(passages: readonly PassageToPlan[], more: Partial<PlanInput> = {}): PlanInput {
  return {
    weekday: 1,
    minutes: 40,
    cap: 60,
    restDays: [0],
    skipped: [],
    minutesOf: {},
    passages,
    parts: [{ id: 'etude', name: 'Etude 1', seconds: asSeconds(90), deadline: 42 }],
    assembly: null,
    begunDaysAgo: 0,
    rate: 1,
    ...more,
  };
}

/** Every way to give out at most so many pieces. */
function splits(claims: number, pieces: number): number[][] {
  if (claims === 0) return [[]];
  return Array.from({ length: pieces + 1 }, (_, first) =>
    splits(claims - 1, pieces - first).map((rest) => [first, ...rest]),
  ).flat();
}

describe('minutes of a day', () => {
  it('are given out as well as any way to give them out, tried one by one', () => {
    const asGood = fc.property(
      fc.array(
        fc.record({
          worth: fc.double({ min: 0.1, max: 5, noNaN: true }),
          knee: fc.integer({ min: 1, max: 20 }),
        }),
        {
          minLength: 1,
          maxLength: 4,
        },
      ),
      fc.integer({ min: 1, max: 6 }),
      (curves, pieces) => {
        const claims = curves.map(({ worth, knee }, n): Claim => ({
          id: String(n),
          most: 12,
          worth: (minutes) => worth * (1 - Math.exp(-minutes / knee)),
        }));
        const sumOf = (minutesOf: (n: number) => number): number =>
          claims.reduce((sum, { worth }, n) => sum + worth(minutesOf(n)), 0);
        const greedy = allot(claims, { minutes: pieces * 3, piece: 3 });
        const best = Math.max(
          ...splits(claims.length, pieces)
            .filter((split) => split.every((count) => count * 3 <= 12))
            .map((split) => sumOf((n) => (split[n] ?? 0) * 3)),
        );
        return Math.abs(sumOf((n) => greedy.get(String(n)) ?? 0) - best) < 1e-9;
      },
    );
    expect(() => fc.assert(asGood, { numRuns: 200 })).not.toThrow();
  });
});

describe('plan', () => {
  const usual = inputOf([
    passage('low', 0.8),
    passage('high', 0.6),
    passage('new', null),
    passage('ready', 1.1),
  ]);

  it('never goes above the cap, leaves rest days and skipped days free, and is light at the end', () => {
    const days = makePlan({ ...usual, minutes: 90, skipped: [3] }).days;
    const played = days.map(({ blocks, runs }) =>
      [...blocks, ...runs].reduce((sum, { minutes }) => sum + minutes, 0),
    );
    expect(Math.max(...played)).toBeLessThanOrEqual(60);
    // The last Sunday is the eve of the day: a little is played.
    expect(
      days.filter(({ day }) => (day + 1) % 7 === 0 && day !== 41).every(({ minutes }) => minutes === 0),
    ).toBeTrue();
    expect(played[3]).toBe(0);
    expect(days.slice(-2).every(({ isLight, minutes }) => isLight && minutes <= 30)).toBeTrue();
  });

  it('puts all together three weeks before the day, earlier with more parts and in the school of the whole', () => {
    expect(makePlan(usual).assembly).toBe(21);
    const parts = Array.from({ length: 5 }, (_, n) => ({
      id: `p${n}`,
      name: '',
      seconds: asSeconds(60),
      deadline: 42,
    }));
    expect(makePlan({ ...usual, parts }).assembly).toBe(17);
    expect(makePlan(inputOf([passage('a', 0.8, { school: 'whole' })])).assembly).toBeLessThan(21);
    expect(makePlan({ ...usual, assembly: 30 }).days[30]?.runs[0]?.kind).toBe('assembly');
  });

  it('gives the weaker passage more, plays learned ones again after growing gaps, and rises rung by rung', () => {
    const plan = makePlan(usual);
    const minutes = (id: string): number =>
      plan.courses.find(({ passageId }) => passageId === id)?.minutes ?? 0;
    expect(minutes('high')).toBeGreaterThan(minutes('low'));
    expect(minutes('low')).toBeGreaterThan(minutes('ready'));
    const again = plan.days.filter(({ blocks }) => blocks.some(({ passageId }) => passageId === 'ready'));
    expect(again.length).toBeGreaterThan(2);
    const rungs = plan.days.flatMap(({ blocks }) =>
      blocks.filter(({ passageId }) => passageId === 'high').map(({ bpm }) => bpm),
    );
    expect(rungs.every((bpm, n) => n === 0 || bpm >= (rungs[n - 1] ?? 0))).toBeTrue();
  });

  it('weighs minutes by what the sheet gives points for', () => {
    const plan = makePlan(
      inputOf([passage('few', 0.7, { weight: 1 }), passage('many', 0.7, { weight: 3 })], { minutes: 18 }),
    );
    const [few = 0, many = 0] = ['few', 'many'].map(
      (id) => plan.days[0]?.blocks.find(({ passageId }) => passageId === id)?.minutes ?? 0,
    );
    expect(many).toBeGreaterThan(few);
  });

  it('waits with a seam until both sides climb, and no longer than a week before all is put together', () => {
    const plan = makePlan(
      inputOf([
        passage('left', null),
        passage('right', null),
        passage('seam', null, { after: ['left', 'right'] }),
      ]),
    );
    const first = plan.days.findIndex(({ blocks }) => blocks.some(({ passageId }) => passageId === 'seam'));
    expect(first).toBeGreaterThan(0);
    expect(first).toBeLessThanOrEqual(15);
  });

  it('puts a pinned passage on its day and keeps a barred one off', () => {
    const plan = makePlan(inputOf([passage('a', 1.2, { pinned: [4] }), passage('b', 0.6, { barred: [4] })]));
    const ids = plan.days[4]?.blocks.map(({ passageId }) => passageId);
    expect(ids).toEqual(['a']);
  });

  it('keeps a passage alive until the last date that asks for it, and tells how it stands on the first', () => {
    const parts = [12, 40].map((deadline) => ({
      id: `p${deadline}`,
      name: '',
      seconds: asSeconds(60),
      deadline,
    }));
    const alone = makePlan(inputOf([passage('a', 0.9, { deadline: 12 })], { parts }));
    const kept = makePlan(inputOf([passage('a', 0.9, { deadline: 12, until: 40 })], { parts }));
    const daysOf = ({ days }: typeof kept): number[] =>
      days.filter(({ blocks }) => blocks.length > 0).map(({ day }) => day);
    expect(Math.max(...daysOf(alone))).toBeLessThan(12);
    expect(Math.max(...daysOf(kept))).toBeGreaterThan(30);
    expect(kept.courses[0]?.chance).toBe(alone.courses[0]?.chance);
  });

  it('says when it cannot hold, and each way out does hold when it is gone', () => {
    const heavy = inputOf(
      Array.from({ length: 14 }, (_, n) => passage(`p${n}`, null, { deadline: 14, seconds: asSeconds(12) })),
      {
        minutes: 20,
        cap: 30,
        parts: [{ id: 'etude', name: 'Etude 1', seconds: asSeconds(160), deadline: 14 }],
      },
    );
    const plan = makePlan(heavy);
    expect(plan.holds).toBeFalse();
    const dayText = (day: number): string => `day ${day}`;
    expect(planSentence(heavy, plan, dayText)).toMatch(
      /^It does not hold: \d+ of 14 passages are not at tempo in time/u,
    );
    const ways = waysOut(heavy, plan, { slowestShare: 1, mostMinutes: 240 });
    const minutes = ways.find((way) => way.kind === 'minutes');
    if (minutes?.kind === 'minutes') {
      expect(makePlan({ ...heavy, minutes: minutes.minutes, cap: minutes.minutes }).holds).toBeTrue();
      expect(wayOutText(minutes, heavy, dayText)).toContain('but the cap is 30');
    }
    expect(ways.length).toBeGreaterThan(0);
    expect(waysOut(usual, makePlan(usual), { slowestShare: 1, mostMinutes: 60 })).toEqual([]);
  });

  it('proposes that what is due later waits, where that alone holds', () => {
    const passages = [
      ...Array.from({ length: 5 }, (_, n) => passage(`now${n}`, 0.7, { deadline: 12 })),
      ...Array.from({ length: 10 }, (_, n) =>
        passage(`later${n}`, 0.7, { deadline: 60, partId: 'solo', weight: 2 }),
      ),
    ];
    const crowded = inputOf(passages, {
      minutes: 24,
      parts: [
        { id: 'etude', name: 'Etude 1', seconds: asSeconds(60), deadline: 12 },
        { id: 'solo', name: 'Solo', seconds: asSeconds(60), deadline: 60 },
      ],
    });
    const plan = makePlan(crowded);
    const [way] = plan.holds ? [] : waysOut(crowded, plan, { slowestShare: 1, mostMinutes: 60 });
    expect(way).toEqual({ kind: 'postpone', partIds: ['solo'], untilDay: 12 });
  });

  it('sets a break where more than half an hour is played', () => {
    const day = makePlan({ ...usual, minutes: 60 }).days[1];
    const since = day?.blocks
      .slice(0, (day.breakAfter[0] ?? 99) + 1)
      .reduce((sum, { minutes }) => sum + minutes, 0);
    expect(since).toBeLessThanOrEqual(30);
  });

  it('puts what is no passage on its days, never after the deadline', () => {
    const tasks = tasksOf({ family: 'brass', isRecorded: true, hasAccompaniment: true, deadline: 20 });
    expect(tasks.map(({ kind, day }) => [kind, day])).toEqual([
      ['listen', 0],
      ['forms', 0],
      ['equipment', 0],
      ['sing-and-clap', 1],
      ['accompanist', 6],
      ['page-order', 10],
      ['upload', 17],
    ]);
  });

  it('asks for reeds and bows only where there are some', () => {
    const families = ['reeds', 'flutes', 'brass', 'bowed', 'plucked', 'percussion', 'keys', 'voice'] as const;
    const asking = (what: string): readonly string[] =>
      families.filter((family) =>
        tasksOf({ family, isRecorded: false, hasAccompaniment: false, deadline: 40 }).some(({ text }) =>
          text.includes(what),
        ),
      );
    expect([asking('reed'), asking('bow'), asking('mouthpiece')]).toEqual([['reeds'], ['bowed'], ['brass']]);
  });
});

describe('what a person settles about a plan', () => {
  const TODAY = dayOfDate('2026-11-30');
  const usual = inputOf([passage('low', 0.8), passage('high', 0.6)]);
  const idsOn = (wishes: typeof NO_WISHES, day: number): readonly string[] =>
    makePlan(withWishes(usual, wishes, TODAY)).days[day]?.blocks.map(({ passageId }) => passageId) ?? [];

  it('moves a passage from day to day, onto a free day too, and back again without a trace', () => {
    const dates = fc.integer({ min: 0, max: 39 });
    const isMoved = fc.property(fc.constantFrom('low', 'high'), dates, dates, (passageId, from, to) => {
      const [a, b] = [dateOfDay(TODAY + from), dateOfDay(TODAY + to)];
      const there = moved(NO_WISHES, { passageId, from: a, to: b });
      const back = moved(there, { passageId, from: b, to: a });
      const isThere =
        from === to || (idsOn(there, to).includes(passageId) && !idsOn(there, from).includes(passageId));
      return (
        isThere &&
        (from === to || (idsOn(back, from).includes(passageId) && !idsOn(back, to).includes(passageId)))
      );
    });
    expect(() => fc.assert(isMoved, { numRuns: 40 })).not.toThrow();
  });

  it('holds by date: a skipped day, other minutes and the assembly stay where they are as days go by', () => {
    const wishes = {
      ...NO_WISHES,
      skipped: ['2026-12-03'],
      minutesOf: [
        { date: '2026-12-04', minutes: 12 },
        { date: '2026-12-05', minutes: 200 },
      ],
      assembly: '2026-12-20',
    };
    for (const later of [0, 1, 2]) {
      const plan = makePlan(withWishes({ ...usual, weekday: 1 + later }, wishes, TODAY + later));
      const minutes = [3, 4, 5].map((day) => plan.days[day - later]?.minutes ?? -1);
      expect([minutes[0], minutes[1]]).toEqual([0, 12]);
      expect(minutes[2]).toBeLessThanOrEqual(usual.cap);
      expect(plan.assembly).toBe(20 - later);
    }
  });

  it('puts all together on one day of a short season, however often the plan is made again', () => {
    const days = Array.from({ length: 9 }, (_, ago) => {
      const left = 20 - ago;
      const parts = [{ id: 'etude', name: 'Etude 1', seconds: asSeconds(90), deadline: left }];
      const again = inputOf([passage('low', 0.8, { deadline: left })], { parts, begunDaysAgo: ago });
      return ago + (makePlan(again).assembly ?? 0);
    });
    expect(new Set(days).size).toBe(1);
  });

  it('lays what was planned against what was played', () => {
    const block = (passageId: string): KeptDay['blocks'][number] => ({ passageId, minutes: 12, bpm: 80 });
    const day = (date: string, ...ids: string[]): KeptDay => ({
      ...{ date, minutes: ids.length * 12, isRest: ids.length === 0, runs: [] },
      blocks: ids.map(block),
    });
    const played = (date: string, passageId: string): Parameters<typeof against>[1][number] => ({
      ...{ date, passageId, reps: 8, clean: 6, minutes: 9, bpm: 80, cleanBpm: 80 },
    });
    const found = against(
      [
        day('2026-11-23', 'a', 'b'),
        day('2026-11-24', 'a'),
        day('2026-11-25'),
        day('2026-11-26', 'b'),
        day('2026-11-30', 'a'),
      ],
      [played('2026-11-20', 'a'), played('2026-11-23', 'a'), played('2026-11-25', 'a')],
      { since: dayOfDate('2026-11-23'), until: TODAY },
    );
    expect(found).toEqual({
      days: { planned: 3, kept: 1, extra: 1 },
      minutes: { planned: 48, played: 18 },
      missed: [{ passageId: 'b', days: 2 }],
    });
    expect(againstText(found, () => 'the tune')).toBe(
      'So far 1 of 3 planned days were practised, and 1 more that was free: about 18 of 48 minutes. Not touched: “the tune”, planned on 2 days.',
    );
  });
});
