import { allot, type Claim } from './allot.js';
import { Course } from './course.js';
import { frameOf, type FrameDay } from './frame.js';
import type {
  BlockReason,
  PassageCourse,
  PassageToPlan,
  Plan,
  PlanInput,
  PlannedBlock,
  PlannedDay,
} from './plan.js';
import { PLAN } from './plan.data.js';

/**
 * The plan of a student over all auditions: each day's minutes go where they are worth most for the day they serve.
 * Shape:  see Plan; never more minutes than the cap; the same input gives the same plan
 * Units:  minutes, days from today
 * Source: the design, chapter 8
 */
export function makePlan(input: PlanInput, watch: (day: number, of: number) => void = () => undefined): Plan {
  const frame = frameOf(input);
  const courses = input.passages.map((passage) => new Course(passage, input.rate));
  const ready = new Map<string, number>();
  const onTheDay = new Map<string, Standing>();
  const days = frame.days.map((frameDay, day) => {
    if (day > 0) for (const course of courses) course.sleep();
    const planned = planDay(frameDay, courses, frame.assembly);
    noteReady(courses, day, ready);
    for (const course of courses)
      if (day < course.passage.deadline)
        onTheDay.set(course.passage.id, { chance: course.chance(), share: course.share() });
    watch(day + 1, frame.days.length);
    return planned;
  });
  const told = courses.map((course) =>
    courseOf(course, { ready, days, standing: onTheDay.get(course.passage.id) }),
  );
  const holds = told.every(({ readyDay }) => readyDay !== null);
  return {
    days,
    assembly: frame.assembly,
    holds,
    courses: told,
    tightest: tightestOf(told, input),
    minutes: days.reduce((sum, { minutes }) => sum + minutes, 0),
  };
}

/** A passage is practised until the last date that asks for it. */
function lastDay({ deadline, until = deadline }: PassageToPlan): number {
  return Math.max(deadline, until);
}

/** Passages are ready from the day on which they are reliable at their target and stay so. */
function noteReady(courses: readonly Course[], day: number, ready: Map<string, number>): void {
  for (const course of courses) {
    const { id, deadline } = course.passage;
    if (day >= deadline) continue;
    if (course.share() < 1 - SHARE_TOLERANCE) ready.delete(id);
    else if (!ready.has(id)) ready.set(id, day);
  }
}

/** How a passage stands on the eve of its deadline. */
type Standing = Pick<PassageCourse, 'chance' | 'share'>;

/** A tempo within one percent of the target is the target: a metronome has whole numbers. */
const SHARE_TOLERANCE = 0.01;

function courseOf(
  course: Course,
  {
    ready,
    days,
    standing = { chance: course.chance(), share: course.share() },
  }: {
    readonly ready: ReadonlyMap<string, number>;
    readonly days: readonly PlannedDay[];
    readonly standing: Standing | undefined;
  },
): PassageCourse {
  const { id } = course.passage;
  return {
    passageId: id,
    readyDay: ready.get(id) ?? null,
    minutes: days
      .flatMap(({ blocks }) => blocks)
      .filter(({ passageId }) => passageId === id)
      .reduce((sum, { minutes }) => sum + minutes, 0),
    ...standing,
  };
}

function tightestOf(courses: readonly PassageCourse[], { passages }: PlanInput): string | null {
  const spare = courses.map(({ passageId, readyDay, share }) => {
    const deadline = passages.find(({ id }) => id === passageId)?.deadline ?? 0;
    return { passageId, days: readyDay === null ? share - 2 : deadline - readyDay };
  });
  return spare.sort((a, b) => a.days - b.days)[0]?.passageId ?? null;
}

/** One day: what is pinned, what is due again, and the rest where it is worth most. */
function planDay(frame: FrameDay, courses: readonly Course[], assembly: number | null): PlannedDay {
  const { day, isRest, isLight, runs } = frame;
  const empty = { day, isRest, isLight, runs: isRest ? [] : runs, breakAfter: [] };
  if (isRest || frame.minutes <= 0) return { ...empty, minutes: 0, blocks: [] };
  const open = courses.filter(({ passage }) => lastDay(passage) > day && !passage.barred.includes(day));
  let left = frame.minutes - runs.reduce((sum, { minutes }) => sum + minutes, 0);
  const given = new Map<string, { minutes: number; reason: BlockReason }>();
  const give = (id: string, minutes: number, reason: BlockReason): void => {
    if (minutes <= 0 || left < minutes) return;
    given.set(id, {
      minutes: (given.get(id)?.minutes ?? 0) + minutes,
      reason: given.get(id)?.reason ?? reason,
    });
    left -= minutes;
  };
  for (const { passage } of open)
    if (passage.pinned.includes(day)) give(passage.id, PLAN.blockMinutes, 'pinned');
  for (const course of open.filter(isDueAgain)) give(course.passage.id, PLAN.reviewMinutes, 'review');
  const claims = claimsOf(open, courses, { day, assembly, given });
  for (const [id, minutes] of allot(claims, { minutes: left, piece: PLAN.blockMinutes })) {
    const isSeam = courses.some(({ passage }) => passage.id === id && passage.after.length > 0);
    give(id, minutes, isSeam ? 'seam' : 'climb');
  }
  const blocks = mixed(
    [...given].map(([id, { minutes, reason }]) => blockOf(courses, id, { minutes, reason })),
    (id) => courses.find(({ passage }) => passage.id === id)?.passage.partId ?? '',
  );
  for (const { passageId, minutes } of blocks)
    courses.find(({ passage }) => passage.id === passageId)?.practise(minutes);
  const minutes = frame.minutes - Math.max(0, left);
  return { ...empty, minutes: Math.round(minutes), blocks, breakAfter: breaksOf(blocks) };
}

/** What may have more of a day's minutes: all that is not sure yet and may be practised. */
function claimsOf(
  open: readonly Course[],
  courses: readonly Course[],
  {
    given,
    ...when
  }: {
    readonly day: number;
    readonly assembly: number | null;
    readonly given: ReadonlyMap<string, { readonly minutes: number }>;
  },
): Claim[] {
  return open
    .filter((course) => course.chance() < PLAN.enoughChance && isUnlocked(course, courses, when))
    .map((course) => {
      const has = given.get(course.passage.id)?.minutes ?? 0;
      return {
        id: course.passage.id,
        most: Math.max(0, PLAN.longestBlock - has),
        worth: (minutes: number) => course.worth(has + minutes) - course.worth(has),
      };
    });
}

/** Whether something learned has waited as long as it may. */
function isDueAgain(course: Course): boolean {
  const idle = course.idle();
  if (idle === null || course.share() < 0.95) return false;
  const gap = PLAN.reviewGaps[Math.min(course.days - 1, PLAN.reviewGaps.length - 1)] ?? 7;
  return idle >= gap;
}

/** A seam is practised when both its sides climb, and in any case from a week before all is put together. */
function isUnlocked(
  { passage }: Course,
  courses: readonly Course[],
  { day, assembly }: { readonly day: number; readonly assembly: number | null },
): boolean {
  if (passage.after.length === 0) return true;
  if (assembly !== null && day >= assembly - 7) return true;
  return passage.after.every((id) => {
    const side = courses.find((course) => course.passage.id === id);
    return side === undefined || side.share() >= PLAN.seamShare;
  });
}

function blockOf(
  courses: readonly Course[],
  passageId: string,
  { minutes, reason }: { readonly minutes: number; readonly reason: BlockReason },
): PlannedBlock {
  const course = courses.find(({ passage }) => passage.id === passageId);
  const rungBpms = course?.passage.rungBpms ?? [];
  const share = course?.share() ?? 0;
  const target = course?.passage.targetBpm ?? 0;
  const reached = rungBpms.findLastIndex((bpm) => bpm <= share * target * RUNG_AHEAD);
  const here = course?.passage.place.rungIndex ?? 0;
  // The ladder says where it stands today; later the course says where it will, and nothing is unlearned.
  const rungIndex = Math.max(0, Math.min(rungBpms.length - 1, Math.max(here, reached)));
  return { passageId, minutes, reason, rungIndex, bpm: rungBpms[rungIndex] ?? target };
}

/** The rung to work on lies a little above what is reliable already (our own). */
const RUNG_AHEAD = 1.06;

/** Passages of different parts in turn, the longest first: what comes back after something else stays better. */
function mixed(blocks: readonly PlannedBlock[], partOf: (passageId: string) => string): PlannedBlock[] {
  const left = [...blocks].sort((a, b) => b.minutes - a.minutes || a.passageId.localeCompare(b.passageId));
  const order: PlannedBlock[] = [];
  while (left.length > 0) {
    const last = order.at(-1);
    const other = left.findIndex(
      ({ passageId }) => last === undefined || partOf(passageId) !== partOf(last.passageId),
    );
    order.push(...left.splice(Math.max(0, other), 1));
  }
  return order;
}

/** Blocks after which a break is due. Shape: their places, from 0 */
export function breaksOf(blocks: readonly Pick<PlannedBlock, 'minutes'>[]): number[] {
  const after: number[] = [];
  let since = 0;
  blocks.forEach(({ minutes }, n) => {
    since += minutes;
    const next = blocks[n + 1];
    if (next && since + next.minutes > PLAN.breakEvery) {
      after.push(n);
      since = 0;
    }
  });
  return after;
}
