import { retry, switchMap, timer, type Observable } from 'rxjs';

/** What could not be fetched is tried again after so long. Units: milliseconds */
const AGAIN_MS = 30_000;

/** Fetches what no page needs at once some time after it; a server that is away for a while is asked again. */
export function fetchAhead<Fetched>(afterMs: number, load: () => Promise<Fetched>): Observable<Fetched> {
  return timer(afterMs).pipe(switchMap(load), retry({ delay: AGAIN_MS }));
}
