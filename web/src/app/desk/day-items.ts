import { BREAKS } from '@vivid-cue/core/care';
import { breaksOf, type KeptDay, type Plan, type PlannedDay } from '@vivid-cue/core/plan';

/** Something to do today. Shape: `key` names it within its day; minutes of a break are not practice */
export type DayItem =
  | { readonly kind: 'passage'; readonly key: string; readonly passageId: string; readonly minutes: number }
  | {
      readonly kind: 'run';
      readonly key: string;
      readonly what: PlannedDay['runs'][number]['kind'];
      readonly partIds: readonly string[];
      readonly minutes: number;
    }
  | { readonly kind: 'break'; readonly key: string; readonly minutes: number };

/** A day's list as it stays for the day. Shape: `day` counts days of the studio's zone */
export interface DayList {
  readonly day: number;
  readonly items: readonly DayItem[];
  readonly isRest: boolean;
  /** The plan that it was made from; another one makes another list. */
  readonly madeAt?: string | null;
}

/**
 * Today's list in order: what the plan says, with its breaks, runs at the end.
 * Shape:  empty on a rest day
 */
export function dayListOf(plan: Plan, day: number): DayList {
  const [today] = plan.days;
  if (!today || today.isRest) return { day, items: [], isRest: true };
  return listOf(today, day);
}

/** The list of a day as it was planned and kept. */
export function keptListOf(kept: KeptDay, day: number): DayList {
  if (kept.isRest) return { day, items: [], isRest: true };
  return listOf({ ...kept, breakAfter: breaksOf(kept.blocks) }, day);
}

function listOf(
  {
    blocks,
    runs,
    breakAfter,
  }: {
    readonly blocks: readonly { readonly passageId: string; readonly minutes: number }[];
    readonly runs: KeptDay['runs'];
    readonly breakAfter: readonly number[];
  },
  day: number,
): DayList {
  const items = blocks.flatMap(({ passageId, minutes }, n): DayItem[] => [
    { kind: 'passage', key: passageId, passageId, minutes },
    ...(breakAfter.includes(n)
      ? [{ kind: 'break' as const, key: `break-${n}`, minutes: BREAKS.minutes }]
      : []),
  ]);
  const whole = runs.map(({ kind, partIds, minutes }): DayItem => ({
    kind: 'run',
    key: `run-${kind}`,
    what: kind,
    partIds,
    minutes,
  }));
  return { day, items: [...items, ...whole], isRest: false };
}

/** Minutes of practice in a list. */
export function minutesOf({ items }: DayList): number {
  return items.reduce((sum, item) => sum + (item.kind === 'break' ? 0 : item.minutes), 0);
}

/** How a run is called. */
export const RUN_WORDS: Readonly<Record<PlannedDay['runs'][number]['kind'], string>> = {
  'first-run': 'Everything once, for a first impression',
  run: 'This week’s run',
  assembly: 'All together for the first time',
  mock: 'As on the day',
  take: 'A take at a comfortable tempo',
};
