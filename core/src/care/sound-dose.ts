/** Level at which a working day of eight hours is the whole dose. Units: dBA. Source: NIOSH Publication 98-126 */
export const FULL_DAY_DBA = 85;
/** Each so many decibels more halve the time. Source: NIOSH Publication 98-126, exchange rate */
export const EXCHANGE_DB = 3;
const FULL_DAY_MINUTES = 480;

/**
 * How long a level may be heard in a day.
 * Shape:  above 0; longer than a day for soft levels
 * Units:  `dba` A-weighted decibels; minutes
 * Source: NIOSH Publication 98-126, T = 480 / 2^((L − 85) / 3)
 */
export function allowedMinutes(dba: number): number {
  return FULL_DAY_MINUTES / 2 ** ((dba - FULL_DAY_DBA) / EXCHANGE_DB);
}

/**
 * How much of a day's dose some stretches of practice are.
 * Shape:  1 is the whole dose; more is too much
 * Units:  minutes at A-weighted decibels
 * Source: NIOSH Publication 98-126, D = Σ C / T
 */
export function dailyDose(stretches: readonly { readonly minutes: number; readonly dba: number }[]): number {
  return stretches.reduce((sum, { minutes, dba }) => sum + minutes / allowedMinutes(dba), 0);
}
