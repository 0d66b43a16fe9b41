import { dateOfDay, dayOfDate, type KeptDay, type PlayedDay } from '@vivid-cue/core/plan';
import type { FanDay } from '@vivid-cue/core/readiness';

/** One day of a passage's history. Shape: null where nothing was played or planned. Units: beats of its unit a minute */
export interface HistoryDay {
  readonly date: string;
  readonly reps: number;
  readonly clean: number;
  readonly bpm: number | null;
  readonly cleanBpm: number | null;
  readonly plannedBpm: number | null;
  readonly plannedMinutes: number | null;
  readonly minutes: number;
}

/** One day of the fan, as tempos. */
export interface FanPoint {
  readonly date: string;
  readonly low: number;
  readonly middle: number;
  readonly high: number;
}

/**
 * What was planned and played of a passage, day by day.
 * Shape:  only days on which something was, in order; planned days ahead included
 * Units:  minutes as reckoned from the reps
 */
export function historyDays(
  passageId: string,
  { kept, played }: { readonly kept: readonly KeptDay[]; readonly played: readonly PlayedDay[] },
): HistoryDay[] {
  const days = new Map<string, HistoryDay>();
  for (const day of played.filter((one) => one.passageId === passageId)) {
    const known = days.get(day.date);
    // Reps in another note value are a row of their own.
    days.set(day.date, {
      date: day.date,
      reps: day.reps + (known?.reps ?? 0),
      clean: day.clean + (known?.clean ?? 0),
      bpm: Math.max(day.bpm, known?.bpm ?? 0),
      cleanBpm: highest(day.cleanBpm, known?.cleanBpm ?? null),
      plannedBpm: null,
      plannedMinutes: null,
      minutes: day.minutes + (known?.minutes ?? 0),
    });
  }
  for (const { date, blocks } of kept) {
    const block = blocks.find((one) => one.passageId === passageId);
    if (!block) continue;
    const blank = { date, reps: 0, clean: 0, bpm: null, cleanBpm: null, minutes: 0 };
    days.set(date, {
      ...(days.get(date) ?? blank),
      plannedBpm: block.bpm,
      plannedMinutes: block.minutes,
    });
  }
  return [...days.values()].sort((a, b) => a.date.localeCompare(b.date));
}

function highest(a: number | null, b: number | null): number | null {
  if (a === null) return b;
  return b === null ? a : Math.max(a, b);
}

/** A fan of shares as tempos on dates. Units: `targetBpm` in beats of the passage's unit a minute */
export function fanPoints(fan: readonly FanDay[], today: string, targetBpm: number): FanPoint[] {
  const first = dayOfDate(today);
  return fan.map(({ day, low, middle, high }) => ({
    date: dateOfDay(first + day),
    low: low * targetBpm,
    middle: middle * targetBpm,
    high: high * targetBpm,
  }));
}
