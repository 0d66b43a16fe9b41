import { LADDER_START, passageLadder, placeOf } from '../../core/dist/climb/index.js';
import { drillsOf } from '../../core/dist/drills/index.js';
import { makePlan } from '../../core/dist/plan/index.js';
import { beliefReliableAt, forecast, PRIOR, RATE_PRIOR } from '../../core/dist/readiness/index.js';
import { readScore } from '../../core/dist/score/index.js';
import { longStudy } from './long-study.mjs';
import { line, median, ms, ratio, times } from './timing.mjs';

const DAYS = 70;
const rungBpms = passageLadder(100, 'quarter').value.map(({ bpm }) => bpm);

/** So many passages in every state, four parts, ten weeks. */
function planInput(count) {
  const passages = Array.from({ length: count }, (_, n) => ({
    id: `p${n}`,
    name: `p${n}`,
    partId: `x${n % 4}`,
    belief: n % 3 === 0 ? PRIOR : beliefReliableAt(0.5 + (0.4 * n) / count),
    practiceDays: 3,
    idleDays: 1,
    seconds: 9,
    weight: 0.25,
    deadline: DAYS,
    targetBpm: 100,
    unit: 'quarter',
    rungBpms,
    place: placeOf(LADDER_START, 'three-in-a-row'),
    school: 'steady',
    after: [],
    pinned: [],
    barred: [],
  }));
  const parts = [0, 1, 2, 3].map((n) => ({ id: `x${n}`, name: `x${n}`, seconds: 100, deadline: DAYS }));
  const rest = { restDays: [0], skipped: [], minutesOf: {}, assembly: null, begunDaysAgo: 0, rate: 1 };
  return { weekday: 1, minutes: 45, cap: 60, passages, parts, ...rest };
}

function ahead(count) {
  const passages = planInput(count).passages.map(({ belief }) => ({
    belief,
    practiceDays: 3,
    voice: 1,
    reps: Array.from({ length: DAYS }, (_, day) => (day % 7 === 6 ? 0 : 4)),
  }));
  return () => forecast({ passages, days: DAYS, rate: RATE_PRIOR, restHazard: 0, seed: 1 });
}

/** Plans, forecasts and drills: what the desk and the instructor wait for. */
export async function benchPlan() {
  const plan40 = median(await times(6, () => makePlan(planInput(40))));
  const plan80 = median(await times(4, () => makePlan(planInput(80))));
  line('Plan of 10 weeks, 40 passages', ms(plan40), 'promise: under 500 ms');
  line('Plan of 80 passages against 40', ratio(plan80 / plan40), '2× is linear');
  const forecast40 = median(await times(4, ahead(40)));
  const forecast80 = median(await times(3, ahead(80)));
  line('Forecast of 1,000 paths, 40 passages, 70 days', ms(forecast40), 'promise: under 1 s');
  line('Forecast of 80 passages against 40', ratio(forecast80 / forecast40), '2× is linear');
  const score = readScore(new TextEncoder().encode(longStudy(64))).value;
  const drills = median(await times(8, () => drillsOf(score, { fromIndex: 8, endIndex: 16 })));
  line('Drills of 8 measures', ms(drills));
}
