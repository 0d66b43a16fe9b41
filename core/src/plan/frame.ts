import { CLIMB_SCHOOLS } from '../climb/index.js';
import type { PartToPlan, PlanInput, PlannedRun } from './plan.js';
import { PLAN } from './plan.data.js';

/** A day before anything is planned on it. Units: minutes. */
export interface FrameDay {
  readonly day: number;
  readonly minutes: number;
  readonly isRest: boolean;
  readonly isLight: boolean;
  /** Minutes that pinned passages ask for at least. */
  readonly pinned: number;
  /** Whether something may be run as a whole: not on a free weekday that only a pin has opened. */
  readonly isForRuns: boolean;
  readonly runs: readonly PlannedRun[];
}

/** The days of a plan with what stands fixed. Shape: `assembly` a day from today, negative where it was, null where nothing is put together */
export interface Frame {
  readonly days: readonly FrameDay[];
  readonly assembly: number | null;
}

/**
 * The days until the last deadline with their minutes, rest days, assembly, weekly runs, mocks and the lighter end.
 * Shape:  the deadline's own day is not practised
 * Units:  days from today, minutes
 */
export function frameOf(input: PlanInput): Frame {
  const last = Math.max(
    0,
    ...input.parts.map(({ deadline }) => deadline),
    ...input.passages.map(({ deadline, until = deadline }) => until),
  );
  const assembly = input.assembly ?? assemblyDay(input);
  const days = Array.from({ length: last }, (_, day) => {
    const pinned = PLAN.blockMinutes * input.passages.filter((one) => one.pinned.includes(day)).length;
    const isFree = input.restDays.includes((input.weekday + day) % 7) && !isEve(input, day);
    const own = input.minutesOf[day] ?? (isFree && pinned > 0 ? pinned : null);
    const isRest = input.skipped.includes(day) || (isFree && own === null);
    const isLight = input.parts.some(({ deadline }) => deadline > day && deadline - day <= PLAN.lightDays);
    const usual = Math.min(input.cap, input.minutes) * (isLight ? PLAN.lightShare : 1);
    const minutes = isRest ? 0 : Math.round(Math.min(input.cap, own ?? usual));
    const isForRuns = !isRest && (!isFree || input.minutesOf[day] !== undefined);
    return { day, minutes, isRest, isLight, pinned, isForRuns, runs: [] as readonly PlannedRun[] };
  });
  return { assembly, days: withRuns(days, input, assembly) };
}

/** The day before a deadline is played a little, whatever weekday it is. */
function isEve({ parts }: PlanInput, day: number): boolean {
  return parts.some(({ deadline }) => deadline - day === 1);
}

/** Three weeks before the first day, earlier for many parts and for the school of the whole; in a short season later. */
function assemblyDay({ parts, passages, begunDaysAgo }: PlanInput): number | null {
  if (parts.length === 0) return null;
  const first = Math.min(...parts.map(({ deadline }) => deadline));
  const school = Math.max(1, ...passages.map(({ school: one }) => CLIMB_SCHOOLS[one].assembly));
  const count = new Set(parts.map(({ id }) => id)).size;
  const more = Math.max(0, count - PLAN.partsWithoutMore) * PLAN.assemblyDaysPerPart;
  const before = (PLAN.assemblyDays + more) * school;
  // Measured from the beginning of the season, so that it stays where it is however often the plan is made again.
  const earliest = (first + begunDaysAgo) * PLAN.earliestAssembly - begunDaysAgo;
  return Math.round(Math.max(first - before, earliest));
}

function withRuns(
  days: readonly FrameDay[],
  { parts, passages, cap, mocks = [] }: PlanInput,
  assembly: number | null,
): FrameDay[] {
  const open = (day: number): readonly PartToPlan[] => {
    const ahead = parts.filter(({ deadline }) => deadline > day);
    return [...new Map(ahead.map((part) => [part.id, part])).values()];
  };
  const wanted = new Map<number, PlannedRun['kind']>();
  const mark = (day: number, kind: PlannedRun['kind']): void => {
    const free = nearest(days, day);
    if (free !== null && !wanted.has(free)) wanted.set(free, kind);
  };
  // A mock that is set stands on its day, whatever else would be there.
  for (const day of mocks) if (days[day]) wanted.set(day, 'mock');
  if (assembly !== null) {
    for (const deadline of mocks.length > 0 ? [] : new Set(parts.map((part) => part.deadline)))
      for (const before of PLAN.mocks) if (deadline - before > assembly) mark(deadline - before, 'mock');
    if (assembly >= 0) mark(assembly, 'assembly');
    const end = Math.max(...parts.map(({ deadline }) => deadline)) - PLAN.lightDays;
    for (let day = assembly + PLAN.runEvery; day < end; day += PLAN.runEvery) if (day >= 0) mark(day, 'run');
    if (passages.every(({ idleDays }) => idleDays === null)) mark(0, 'first-run');
    for (let day = PLAN.runEvery - 1; day < assembly; day += PLAN.runEvery) mark(day, 'take');
  }
  return days.map((one) => {
    const kind = wanted.get(one.day);
    const run = kind === undefined ? null : runOf(kind, open(one.day), one.minutes);
    // What is pinned has its minutes, whatever else stands on the day, up to the cap.
    const asked = one.isRest ? 0 : one.pinned + (run?.minutes ?? 0);
    const minutes = Math.min(cap, Math.max(one.minutes, asked));
    return { ...one, minutes, runs: run === null ? [] : [run] };
  });
}

/** The nearest day that is practised: this one, else a day before, else one after. */
function nearest(days: readonly FrameDay[], day: number): number | null {
  for (const away of [0, -1, 1, -2, 2]) {
    const one = days[day + away];
    if (one?.isForRuns === true) return one.day;
  }
  return null;
}

/** A run of what there is room for; a take is of the part whose turn it is. */
function runOf(kind: PlannedRun['kind'], parts: readonly PartToPlan[], minutes: number): PlannedRun | null {
  const room = kind === 'take' ? minutes / 3 : minutes * 0.8;
  const taken: PartToPlan[] = [];
  let spent = 0;
  for (const part of kind === 'take' ? parts.slice(0, 1) : parts) {
    const own = (part.seconds + PLAN.runOverhead) / 60;
    if (taken.length > 0 && spent + own > room) continue;
    taken.push(part);
    spent += own;
  }
  if (taken.length === 0) return null;
  return {
    kind,
    partIds: taken.map(({ id }) => id),
    minutes: Math.min(minutes, Math.max(1, Math.round(spent))),
  };
}
