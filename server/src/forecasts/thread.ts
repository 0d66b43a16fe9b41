import { Worker } from 'node:worker_threads';
import type { ForecastAnswer, ForecastWish } from './forecast-worker.js';

/** No forecast takes so long, and none so much room. Units: milliseconds, megabytes (our own) */
const LIMIT_MS = 60_000;
const LIMIT_MB = 256;

let worker: Worker | null = null;
let last: Promise<unknown> = Promise.resolve();

/**
 * Looks ahead in a thread beside the server, one student after the other: everybody else is served on.
 * Errors: when it takes too long or the thread ends
 */
export function lookAheadBeside(wish: ForecastWish): Promise<ForecastAnswer> {
  const answer = last.then(() => asked(wish));
  last = answer.catch(() => undefined);
  return answer;
}

function asked(wish: ForecastWish): Promise<ForecastAnswer> {
  worker ??= new Worker(new URL('./forecast-worker.js', import.meta.url), {
    resourceLimits: { maxOldGenerationSizeMb: LIMIT_MB },
  });
  const own = worker;
  own.ref();
  return new Promise((done, failed) => {
    const end = (): void => {
      clearTimeout(limit);
      own.removeAllListeners('message').removeAllListeners('error');
      // An idle thread keeps no process alive.
      own.unref();
    };
    const lose = (error: Error): void => {
      end();
      if (worker === own) worker = null;
      void own.terminate();
      failed(error);
    };
    const limit = setTimeout(() => lose(new Error('A forecast took too long.')), LIMIT_MS);
    own.once('message', (answer: ForecastAnswer) => {
      end();
      done(answer);
    });
    own.once('error', lose);
    own.postMessage(wish);
  });
}
