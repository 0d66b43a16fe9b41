import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { Issue } from '@vivid-cue/core/base';
import { Problem } from '../http/problem.js';
import type { FileReading, ReadingAnswer, ReadingWish } from './reading-worker.js';

/** No score takes so long, and no score so much room. Units: milliseconds, megabytes (our own) */
const LIMIT_MS = 20_000;
const LIMIT_MB = 512;
/** Files that wait, of one studio and of all. */
const WAITING_OF_ONE = 4;
const WAITING_OF_ALL = 40;

interface Turn {
  readonly studioId: string;
  readonly wish: ReadingWish;
  readonly done: (reading: FileReading) => void;
  readonly failed: (error: unknown) => void;
}

/**
 * Reads files beside the server, in threads that may be ended: whatever is sent, everybody else is served on. One file of
 * a studio is read at a time, so that none keeps the others from theirs.
 */
class ScoreReader {
  private readonly waiting: Turn[] = [];
  private readonly busy = new Map<string, Worker>();
  private readonly idle: Worker[] = [];

  constructor(private readonly threads: number) {}

  /**
   * Reads a file.
   * Errors: Problem score-refused with the reader's sentence, or when it takes too much; unavailable while too much waits
   */
  read(studioId: string, wish: ReadingWish): Promise<FileReading> {
    const own = this.waiting.filter((turn) => turn.studioId === studioId).length;
    if (own >= WAITING_OF_ONE || this.waiting.length >= WAITING_OF_ALL)
      return Promise.reject(
        new Problem(
          'unavailable',
          own >= WAITING_OF_ONE
            ? 'Other files of your studio are still being read; try this one again in a moment.'
            : 'Many files are being read just now; try again in a moment.',
          { retryAfterSeconds: 5 },
        ),
      );
    return new Promise((done, failed) => {
      this.waiting.push({ studioId, wish, done, failed });
      this.next();
    });
  }

  private next(): void {
    if (this.busy.size >= this.threads) return;
    const at = this.waiting.findIndex(({ studioId }) => !this.busy.has(studioId));
    const [turn] = at < 0 ? [] : this.waiting.splice(at, 1);
    if (!turn) return;
    const worker = this.idle.pop() ?? begun();
    this.busy.set(turn.studioId, worker);
    this.run(turn, worker);
    this.next();
  }

  private run({ studioId, wish, done, failed }: Turn, worker: Worker): void {
    const end = (isWell: boolean): void => {
      clearTimeout(limit);
      worker.removeAllListeners('message').removeAllListeners('error');
      worker.on('error', () => undefined);
      this.busy.delete(studioId);
      if (isWell) {
        worker.unref();
        this.idle.push(worker);
      } else void worker.terminate();
      this.next();
    };
    const limit = setTimeout(() => {
      end(false);
      failed(refused([{ code: 'score-too-slow', where: 'file', message: TOO_SLOW }]));
    }, LIMIT_MS);
    worker.ref();
    worker.once('message', (answer: ReadingAnswer) => {
      end(true);
      if ('reading' in answer) done(answer.reading);
      else failed(refused(answer.issues));
    });
    worker.once('error', (error: NodeJS.ErrnoException) => {
      end(false);
      const isFull = error.code === 'ERR_WORKER_OUT_OF_MEMORY';
      failed(isFull ? refused([{ code: 'score-too-large', where: 'file', message: TOO_LARGE }]) : error);
    });
    worker.postMessage(wish);
  }
}

const TOO_SLOW =
  'This file takes too long to read; no score does. Export it anew, or leave out what is not played.';
const TOO_LARGE =
  'This file needs more room than any score; export it anew, or leave out what is not played.';

function begun(): Worker {
  return new Worker(new URL('./reading-worker.js', import.meta.url), {
    resourceLimits: { maxOldGenerationSizeMb: LIMIT_MB },
  });
}

function refused(issues: readonly Issue[]): Problem {
  return new Problem('score-refused', issues[0]?.message ?? 'The file cannot be read.', {
    issues: issues.map(({ where, message }) => ({ where, message })),
  });
}

const reader = new ScoreReader(Math.max(1, availableParallelism() - 1));

/** Reads a file of a studio. Errors: as ScoreReader.read */
export function readFile(studioId: string, wish: ReadingWish): Promise<FileReading> {
  return reader.read(studioId, wish);
}
