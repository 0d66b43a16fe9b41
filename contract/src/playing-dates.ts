import { dayOfDate } from '@vivid-cue/core/plan';

/** A date of a program, as its sheet calls it. */
export interface ProgramDate {
  readonly programId: string;
  /** The title of its sheet. */
  readonly sheetTitle: string;
  readonly what: string;
  readonly date: string;
}

/** Dates on which somebody plays; where a sheet names none of them, whatever else it names may be one. */
const PLAYED: ReadonlySet<string> = new Set(['recording', 'audition']);

/**
 * The days on which a program is played: what practice is planned for, which a registration is not.
 * Shape:  days from today, from 1 on, rising; empty where none lies ahead
 * Units:  `today` in days since 1970
 */
export function playingDays(dates: readonly ProgramDate[], programId: string, today: number): number[] {
  const own = dates.filter((one) => one.programId === programId);
  const played = own.filter(({ what }) => PLAYED.has(what));
  const days = (played.length > 0 ? played : own.filter(({ what }) => what === 'other')).map(
    ({ date }) => dayOfDate(date) - today,
  );
  return [...new Set(days)].filter((day) => day > 0).sort((a, b) => a - b);
}
