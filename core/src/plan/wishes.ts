import type { PlanInput } from './plan.js';

/** A calendar day, as ISO 8601 writes it: "2026-11-29". */
export type CalendarDay = string;

/** A passage on a day. */
export interface OnDay {
  readonly passageId: string;
  readonly date: CalendarDay;
}

/**
 * What a person has settled about a plan, by date, so that it holds however often the plan is made again.
 * Shape:  `pinned` is practised on that day, `barred` is not; `assembly` null where the planner chooses
 * Units:  minutes
 */
export interface PlanWishes {
  readonly skipped: readonly CalendarDay[];
  readonly minutesOf: readonly { readonly date: CalendarDay; readonly minutes: number }[];
  readonly pinned: readonly OnDay[];
  readonly barred: readonly OnDay[];
  readonly assembly: CalendarDay | null;
}

/** Nothing settled. */
export const NO_WISHES: PlanWishes = Object.freeze({
  skipped: [],
  minutesOf: [],
  pinned: [],
  barred: [],
  assembly: null,
});

const DAY_MS = 86_400_000;

/** Days since 1970 of a calendar day. */
export function dayOfDate(date: CalendarDay): number {
  return Math.floor(Date.parse(`${date}T00:00:00Z`) / DAY_MS);
}

/** The calendar day so many days since 1970. */
export function dateOfDay(day: number): CalendarDay {
  return new Date(day * DAY_MS).toISOString().slice(0, 10);
}

/**
 * What a plan is made from, with the wishes in it; what is past, and passages that are gone, count for nothing.
 * Units:  `today` in days since 1970
 */
export function withWishes(input: PlanInput, wishes: PlanWishes, today: number): PlanInput {
  const from = (date: CalendarDay): number => dayOfDate(date) - today;
  const daysOf = (list: readonly OnDay[], id: string): number[] =>
    list
      .filter(({ passageId }) => passageId === id)
      .map(({ date }) => from(date))
      .filter((day) => day >= 0);
  const assembly = wishes.assembly === null ? null : from(wishes.assembly);
  return {
    ...input,
    skipped: wishes.skipped.map(from).filter((day) => day >= 0),
    minutesOf: Object.fromEntries(
      wishes.minutesOf.map(({ date, minutes }) => [from(date), minutes] as const).filter(([day]) => day >= 0),
    ),
    passages: input.passages.map((passage) => ({
      ...passage,
      pinned: daysOf(wishes.pinned, passage.id),
      barred: daysOf(wishes.barred, passage.id),
    })),
    assembly: assembly ?? input.assembly,
  };
}

/** Wishes with a passage moved from one day to another; `from` null where it stood on none. */
export function moved(
  wishes: PlanWishes,
  {
    passageId,
    from,
    to,
  }: { readonly passageId: string; readonly from: CalendarDay | null; readonly to: CalendarDay },
): PlanWishes {
  if (from === to) return wishes;
  const without = (list: readonly OnDay[], date: CalendarDay | null): OnDay[] =>
    list.filter((one) => one.passageId !== passageId || one.date !== date);
  return {
    ...wishes,
    // Who puts something on a day wants that day.
    skipped: wishes.skipped.filter((date) => date !== to),
    pinned: [...without(without(wishes.pinned, from), to), { passageId, date: to }],
    barred: [
      ...without(without(wishes.barred, to), from),
      ...(from === null ? [] : [{ passageId, date: from }]),
    ],
  };
}
