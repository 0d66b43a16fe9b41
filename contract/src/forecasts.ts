/**
 * How a program is likely to stand on the day on which it is played.
 * Shape:  the middle 80 % of the paths between `low` and `high`; `ready` the share of paths in which every passage is
 *         reliable at its target
 * Units:  chances of a clean run of what is tracked
 */
export interface ProgramForecast {
  readonly programId: string;
  readonly date: string;
  readonly daysLeft: number;
  readonly chance: number;
  readonly low: number;
  readonly high: number;
  readonly ready: number;
}

/** Forecasts of all programs. Shape: `isWorking` while some are still reckoned; ask again then */
export interface ForecastsView {
  readonly forecasts: readonly ProgramForecast[];
  readonly isWorking: boolean;
}
