import { inject, Injectable } from '@angular/core';
import {
  concat,
  defer,
  EMPTY,
  firstValueFrom,
  from,
  Observable,
  switchMap,
  tap,
  type Subscriber,
} from 'rxjs';
import type { Span } from '@vivid-cue/core/score';
import { WorkerTurns } from './worker-turns';

/** A part to be engraved. Shape: `numbers` of its measures where they are not those in the file. */
export interface EngravedPart {
  readonly musicXml: string;
  readonly partId: string;
  readonly numbers: readonly string[] | null;
}

/** What the engraving worker is asked: a whole part on a page of a width, or some of its measures on one line. */
export interface EngraveRequest extends EngravedPart {
  readonly id: number;
  readonly widthPx: number;
  readonly excerpt: Span | null;
  /**
   * How many measures each line has that is shown already, so that only the others come; null asks for what can be shown
   * soon: the first lines of a long piece, all of a short one.
   */
  readonly shown: readonly number[] | null;
}

/** Tells the worker that nobody waits for a request any more. */
export interface EngraveStop {
  readonly stop: number;
}

/** Asks the worker to load its engine. */
export interface EngraveWarmUp {
  readonly isWarmUp: true;
}

/** One engraved line of music as SVG text, or an excerpt. Units: `width` and `height` in CSS pixels of the asked page. */
export interface SheetPicture {
  readonly svg: string;
  readonly measureCount: number;
  readonly width: number;
  readonly height: number;
}

/** A sheet with the signs, as SVG elements by name, that it is the first to use; none in an excerpt, which has its own. */
export interface EngravedSheetNews {
  readonly sheet: SheetPicture;
  readonly glyphs: string;
  /** What came before it is gone: the piece begins anew. */
  readonly isFirst: boolean;
}

/** A sheet, and whether it is of the whole piece or of its beginning alone. */
type Engraved = EngravedSheetNews & { readonly isWhole: boolean };

/** What the worker answers: sheet after sheet, or why there is none. */
export type EngraveAnswer =
  | (Engraved & { readonly id: number; readonly isLast: boolean })
  | { readonly id: number; readonly failure: string };

/** Engraves scores in a web worker, so that the page never waits; the engine is loaded with the first score. */
@Injectable({ providedIn: 'root' })
export class Engraver {
  private readonly turns = inject(WorkerTurns);
  private worker: Worker | null = null;
  private lastId = 0;
  private readonly open = new Map<number, Subscriber<Engraved>>();

  /**
   * Engraves one part; who unsubscribes stops it. The first lines of a long piece come before its score is read, the
   * others after.
   * Shape:  sheets of one line of music, as wide as asked, in their order, each as soon as it is there
   * Units:  CSS pixels
   * Errors: a sentence when the engine cannot engrave the file
   */
  engrave(part: EngravedPart, widthPx: number): Observable<EngravedSheetNews> {
    return defer(() => {
      const shown: number[] = [];
      let isWhole = false;
      const wish = { ...part, widthPx, excerpt: null };
      const begun = this.turns
        .run(() => from(engravingFonts()).pipe(switchMap(() => this.ask({ ...wish, shown: null }))), 'seen')
        .pipe(
          tap((news) => {
            shown.push(news.sheet.measureCount);
            isWhole = news.isWhole;
          }),
        );
      const rest = defer(() => (isWhole ? EMPTY : this.turns.run(() => this.ask({ ...wish, shown }))));
      return concat(begun, rest);
    });
  }

  /**
   * Some measures of a part on one line, as SVG text.
   * Shape:  as wide as the music
   * Units:  measure indexes
   * Errors: as engrave
   */
  async excerpt(part: EngravedPart, span: Span): Promise<string> {
    const { sheet } = await firstValueFrom(this.ask({ ...part, widthPx: 0, excerpt: span, shown: null }));
    return sheet.svg;
  }

  /** Loads the engine and what pictures write with, before anything is to be engraved. */
  warm(): void {
    this.ready().postMessage({ isWarmUp: true } satisfies EngraveWarmUp);
    void engravingFonts();
  }

  private ask(wish: Omit<EngraveRequest, 'id'>): Observable<Engraved> {
    return new Observable((subscriber) => {
      this.lastId += 1;
      const id = this.lastId;
      this.open.set(id, subscriber);
      const worker = this.ready();
      worker.postMessage({ id, ...wish } satisfies EngraveRequest);
      return () => {
        if (this.open.delete(id)) worker.postMessage({ stop: id } satisfies EngraveStop);
      };
    });
  }

  private ready(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(new URL('../workers/engrave.worker', import.meta.url), { type: 'module' });
    worker.addEventListener('message', ({ data }: MessageEvent<EngraveAnswer>) => this.hear(data));
    worker.addEventListener('error', () => {
      const failure = new Error('The engraving engine could not be loaded; reload the page.');
      const all = [...this.open.values()];
      this.open.clear();
      this.worker = null;
      for (const subscriber of all) subscriber.error(failure);
    });
    this.worker = worker;
    return worker;
  }

  private hear(answer: EngraveAnswer): void {
    const subscriber = this.open.get(answer.id);
    if ('failure' in answer) {
      this.open.delete(answer.id);
      subscriber?.error(new Error(answer.failure));
      return;
    }
    if (answer.isLast) this.open.delete(answer.id);
    subscriber?.next(answer);
    if (answer.isLast) subscriber?.complete();
  }
}

/** Loads what pictures write with before the first one is drawn: a font that comes later is a second layout of them all. */
async function engravingFonts(): Promise<void> {
  const faces = ['16px Tinos', 'italic 16px Tinos', 'bold 16px Tinos', 'italic bold 16px Tinos'];
  await Promise.allSettled([
    ...faces.map((face) => document.fonts.load(face)),
    document.fonts.load('16px Leipzig', NOTE_SIGN),
    document.fonts.load('16px "Vivid Notes"', '♭'),
  ]);
}

/** The quarter note of a tempo mark (SMuFL, U+ECA5). */
const NOTE_SIGN = '\uECA5';
