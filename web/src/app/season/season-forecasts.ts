import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { catchError, EMPTY, expand, timer, switchMap } from 'rxjs';
import type { ForecastsView, ProgramForecast } from '@vivid-cue/contract/forecasts';
import { StudioApi } from '../data/studio-api';

/** While the server reckons it is asked again after so long. Units: milliseconds */
const AGAIN_MS = 2500;

/** How each program of a season is likely to stand on its day; asked for again until all are reckoned. */
@Injectable()
export class SeasonForecasts {
  private readonly view = signal<ForecastsView>({ forecasts: [], isWorking: false });
  readonly isWorking = computed(() => this.view().isWorking);
  private readonly byProgram = computed(
    () => new Map(this.view().forecasts.map((one) => [one.programId, one])),
  );

  constructor() {
    const api = inject(StudioApi);
    const ask = (): ReturnType<StudioApi['forecasts']> => api.forecasts();
    ask()
      .pipe(
        expand(({ isWorking }) => (isWorking ? timer(AGAIN_MS).pipe(switchMap(ask)) : EMPTY)),
        // A forecast is no fact: where it does not come the page has today's numbers.
        catchError(() => EMPTY),
        takeUntilDestroyed(inject(DestroyRef)),
      )
      .subscribe((view) => this.view.set(view));
  }

  of(programId: string): ProgramForecast | null {
    return this.byProgram().get(programId) ?? null;
  }
}
