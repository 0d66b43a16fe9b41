import type { NoteFigures } from '@vivid-cue/core/cues';
import type { BeatUnit, QuarterBpm } from '@vivid-cue/core/music';
import { inject, Injectable } from '@angular/core';
import { Observable, of, switchMap } from 'rxjs';
import type { SuggestedPassage } from '@vivid-cue/core/passages';
import type {
  EditionDifference,
  EngravedNote,
  Finding,
  MeasureFacts,
  MusicReading,
  ReadingStep,
} from '@vivid-cue/core/reading';
import type { MeasureDigest, NumberRestart, Span } from '@vivid-cue/core/score';
import { WorkerTurns } from './worker-turns';

/** A score to be read. Units: `quarterBpm` in quarters a minute, null for the file's own tempo. */
export interface ReadRequest {
  readonly kind: 'read';
  readonly bytes: ArrayBuffer;
  readonly partId: string;
  readonly instrument: string | null;
  readonly quarterBpm: QuarterBpm | null;
  /** What the sheet's tempo counts. */
  readonly unit: BeatUnit | null;
  readonly numbering: readonly NumberRestart[];
  /** What is asked: it alone is read, weighed and cut into passages; all of the score where there are none. */
  readonly runs: readonly Span[];
  /** What the sheet says about ornaments. */
  readonly ornamentRules: readonly string[];
}

/** Two editions to be compared. */
export interface CompareRequest {
  readonly kind: 'compare';
  readonly own: Pick<ReadRequest, 'bytes' | 'partId' | 'numbering'>;
  readonly other: ArrayBuffer;
  readonly instrument: string;
}

/** A file of which only the measures are asked. */
export interface OutlineRequest {
  readonly kind: 'outline';
  readonly bytes: ArrayBuffer;
  readonly instrument: string;
}

/** The measures of a file. */
export interface ScoreOutline {
  readonly measures: readonly MeasureDigest[];
}

/** All that the score room shows of a score. */
export interface ScoreReading {
  readonly reading: MusicReading;
  readonly findings: readonly Finding[];
  /** The music of each measure as one mark. */
  readonly prints: readonly string[];
  readonly facts: readonly MeasureFacts[];
  readonly engraved: readonly (readonly EngravedNote[])[];
  readonly suggestions: readonly SuggestedPassage[];
  /** Each note as a mark, by measure: what comes again is cued alike. */
  readonly figures: NoteFigures;
}

/** What two editions differ in, and what the other one is. */
export interface EditionReading {
  readonly differences: readonly EditionDifference[];
  readonly title: string | null;
  readonly partId: string;
  readonly engraved: readonly (readonly EngravedNote[])[];
  readonly musicXml: string;
}

/** What is told while reading: a step that begins, the result, or why there is none. */
export type ReaderNews<T> =
  | { readonly step: ReadingStep | 'opening' | 'findings' }
  | { readonly result: T }
  | { readonly failure: string };

/** How the worker tells it: a large result comes in pieces, so that taking it in never holds the page up. */
export type WorkerNews<T> =
  Exclude<ReaderNews<T>, { readonly result: T }> | { readonly piece: Partial<T>; readonly isLast: boolean };

/** Puts the next piece to those that came: lists go on where they ended. */
export function withPiece<T extends object>(known: Partial<T>, piece: Partial<T>): Partial<T> {
  const joined = Object.entries(piece).map(([key, value]) => {
    const before: unknown = known[key as keyof T];
    return [key, Array.isArray(before) && Array.isArray(value) ? [...before, ...value] : value] as const;
  });
  return { ...known, ...(Object.fromEntries(joined) as Partial<T>) };
}

/** Whether a file begins as an ABC text does, with a field or a comment; the worker that knows ABC looks closer. */
function mayBeAbc(bytes: ArrayBuffer): boolean {
  return /^\s*[%X]/u.test(new TextDecoder().decode(bytes.slice(0, 64)));
}

/** Reads scores in a web worker: it tells of its progress, and who unsubscribes stops it. */
@Injectable({ providedIn: 'root' })
export class ScoreReaderClient {
  private readonly turns = inject(WorkerTurns);

  /** Reads a score for findings, facts and passages. */
  read(request: ReadRequest): Observable<ReaderNews<ScoreReading>> {
    return this.run(request);
  }

  /** Compares the score with another edition, which stays on this device. */
  compare(request: CompareRequest): Observable<ReaderNews<EditionReading>> {
    return this.withoutAbc(request.other, (other) => this.run<EditionReading>({ ...request, other }));
  }

  /** Reads only the measures of a file that is not kept yet. */
  outline(request: OutlineRequest): Observable<ReaderNews<ScoreOutline>> {
    return this.withoutAbc(request.bytes, (bytes) => this.run<ScoreOutline>({ ...request, bytes }));
  }

  /** Goes on with a file once it is MusicXML. */
  private withoutAbc<T>(
    bytes: ArrayBuffer,
    then: (bytes: ArrayBuffer) => Observable<ReaderNews<T>>,
  ): Observable<ReaderNews<T>> {
    if (!mayBeAbc(bytes)) return then(bytes);
    const abcWorker = (): Worker =>
      new Worker(new URL('../workers/abc.worker', import.meta.url), { type: 'module' });
    return this.run<{ bytes: Uint8Array<ArrayBuffer> }>(bytes, abcWorker).pipe(
      switchMap((news) => ('result' in news ? then(news.result.bytes.slice().buffer) : of(news))),
    );
  }

  private run<T extends object>(
    request: ReadRequest | CompareRequest | OutlineRequest | ArrayBuffer,
    begin = (): Worker =>
      new Worker(new URL('../workers/reading.worker', import.meta.url), { type: 'module' }),
  ): Observable<ReaderNews<T>> {
    return this.turns.run(
      () =>
        new Observable<ReaderNews<T>>((subscriber) => {
          const worker = begin();
          let known: Partial<T> = {};
          worker.addEventListener('message', ({ data }: MessageEvent<WorkerNews<T>>) => {
            if ('piece' in data) {
              known = withPiece(known, data.piece);
              if (data.isLast) subscriber.next({ result: known as T });
            } else subscriber.next(data);
            if ('failure' in data || ('piece' in data && data.isLast)) subscriber.complete();
          });
          worker.addEventListener('error', () => {
            subscriber.next({ failure: 'The reader could not be loaded; reload the page.' });
            subscriber.complete();
          });
          worker.postMessage(request);
          return () => worker.terminate();
        }),
    );
  }
}
