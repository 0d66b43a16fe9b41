/** Keeps what is recorded. */
export function takeStoreWorker(): Worker {
  return new Worker(new URL('../workers/take-store.worker', import.meta.url), { type: 'module' });
}

/** Reads a take. */
export function takeWorker(): Worker {
  return new Worker(new URL('../workers/take.worker', import.meta.url), { type: 'module' });
}

/** So long a worker has to be fetched. Units: milliseconds */
const FETCH_MS = 8000;

/** Fetches what records and reads, so that it is on the device before there is no connection. */
export function warmTakes(): void {
  for (const worker of [takeStoreWorker(), takeWorker()]) setTimeout(() => worker.terminate(), FETCH_MS);
}
