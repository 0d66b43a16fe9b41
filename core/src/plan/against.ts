import type { Bpm } from '../music/index.js';
import type { Plan, PlannedRun } from './plan.js';
import { dateOfDay, dayOfDate, type CalendarDay } from './wishes.js';

/** What was planned for a day and kept. Units: minutes, beats of the passage's unit a minute */
export interface KeptDay {
  readonly date: CalendarDay;
  readonly minutes: number;
  readonly isRest: boolean;
  readonly blocks: readonly { readonly passageId: string; readonly minutes: number; readonly bpm: Bpm }[];
  readonly runs: readonly PlannedRun[];
}

/** The days of a plan as they are kept. Units: `today` in days since 1970 */
export function keptDays({ days }: Plan, today: number): KeptDay[] {
  return days.map(({ day, minutes, isRest, blocks, runs }) => ({
    date: dateOfDay(today + day),
    minutes,
    isRest,
    blocks: blocks.map(({ passageId, minutes: own, bpm }) => ({ passageId, minutes: own, bpm })),
    runs,
  }));
}

/** What was played of a passage on a day. Shape: `cleanBpm` null where nothing was clean. Units: minutes as reckoned from the reps */
export interface PlayedDay {
  readonly date: CalendarDay;
  readonly passageId: string;
  readonly reps: number;
  readonly clean: number;
  readonly minutes: number;
  readonly bpm: Bpm;
  readonly cleanBpm: Bpm | null;
}

/** How a stretch of days went against its plan. Units: days, minutes */
export interface Against {
  readonly days: { readonly planned: number; readonly kept: number; readonly extra: number };
  readonly minutes: { readonly planned: number; readonly played: number };
  /** Passages that were planned and not played at all, by how many days. */
  readonly missed: readonly { readonly passageId: string; readonly days: number }[];
}

/**
 * What was planned against what happened, over the days before `until`.
 * Shape:  a day is kept where anything was played on a day that had something planned; days without a kept plan are left out
 * Units:  days since 1970
 */
export function against(
  kept: readonly KeptDay[],
  played: readonly PlayedDay[],
  { since, until }: { readonly since: number; readonly until: number },
): Against {
  const isInside = ({ date }: { readonly date: CalendarDay }): boolean =>
    dayOfDate(date) >= since && dayOfDate(date) < until;
  const plans = kept.filter(isInside);
  const plays = played.filter(isInside);
  const playedOn = new Set(plays.map(({ date }) => date));
  const due = plans.filter(({ blocks, runs }) => blocks.length + runs.length > 0);
  const dueDates = new Set(due.map(({ date }) => date));
  const planned = plans.map(({ date }) => date);
  const times = new Map<string, number>();
  for (const { blocks } of due)
    for (const { passageId } of blocks) times.set(passageId, (times.get(passageId) ?? 0) + 1);
  const touched = new Set(plays.map(({ passageId }) => passageId));
  return {
    days: {
      planned: due.length,
      kept: due.filter(({ date }) => playedOn.has(date)).length,
      extra: [...playedOn].filter((date) => planned.includes(date) && !dueDates.has(date)).length,
    },
    minutes: {
      planned: Math.round(due.reduce((sum, { minutes }) => sum + minutes, 0)),
      played: Math.round(
        plays.filter(({ date }) => planned.includes(date)).reduce((sum, { minutes }) => sum + minutes, 0),
      ),
    },
    missed: [...times]
      .filter(([passageId]) => !touched.has(passageId))
      .map(([passageId, days]) => ({ passageId, days }))
      .sort((a, b) => b.days - a.days),
  };
}

/**
 * Says how it went, calmly.
 * Shape:  one or two sentences; "" where nothing was planned before today
 */
export function againstText(
  { days, minutes, missed }: Against,
  nameOf: (passageId: string) => string,
): string {
  if (days.planned === 0) return '';
  const extra =
    days.extra > 0 ? `, and ${days.extra} more that ${days.extra === 1 ? 'was' : 'were'} free` : '';
  const [first] = missed;
  const left =
    first === undefined
      ? ''
      : ` Not touched: “${nameOf(first.passageId)}”, planned on ${first.days} ${first.days === 1 ? 'day' : 'days'}${missed.length > 1 ? `, and ${missed.length - 1} more` : ''}.`;
  return `So far ${days.kept} of ${days.planned} planned days were practised${extra}: about ${minutes.played} of ${minutes.planned} minutes.${left}`;
}
