import { Injectable } from '@angular/core';
import type { Span } from '@vivid-cue/core/score';

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
}

/** What it answers: a picture, or why there is none. */
export type EngraveAnswer =
  | { readonly id: number; readonly pages: readonly string[]; readonly fontCss: string | null }
  | { readonly id: number; readonly failure: string };

/** Engraves scores in a web worker, so that the page never waits; the engine is loaded with the first score. */
@Injectable({ providedIn: 'root' })
export class Engraver {
  private worker: Worker | null = null;
  private lastId = 0;
  private readonly open = new Map<
    number,
    { readonly done: (pages: readonly string[]) => void; readonly failed: (reason: Error) => void }
  >();

  /**
   * The engraved pictures of one part as SVG texts.
   * Shape:  pages of a few lines, as wide as asked, one below the other
   * Units:  CSS pixels
   * Errors: rejects with a sentence when the engine cannot engrave the file
   * Source: none
   */
  engrave(part: EngravedPart, widthPx: number): Promise<readonly string[]> {
    return this.ask({ ...part, widthPx, excerpt: null });
  }

  /**
   * Some measures of a part on one line, as SVG text.
   * Shape:  as wide as the music
   * Units:  measure indexes
   * Errors: as engrave
   * Source: none
   */
  async excerpt(part: EngravedPart, span: Span): Promise<string> {
    const [page = ''] = await this.ask({ ...part, widthPx: 0, excerpt: span });
    return page;
  }

  private ask(wish: Omit<EngraveRequest, 'id'>): Promise<readonly string[]> {
    this.lastId += 1;
    const request: EngraveRequest = { id: this.lastId, ...wish };
    const answer = new Promise<readonly string[]>((done, failed) =>
      this.open.set(request.id, { done, failed }),
    );
    this.ready().postMessage(request);
    return answer;
  }

  private ready(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(new URL('../workers/engrave.worker', import.meta.url), { type: 'module' });
    worker.addEventListener('message', ({ data }: MessageEvent<EngraveAnswer>) => this.settle(data));
    worker.addEventListener('error', () => {
      for (const { failed } of this.open.values())
        failed(new Error('The engraving engine could not be loaded; reload the page.'));
      this.open.clear();
      this.worker = null;
    });
    this.worker = worker;
    return worker;
  }

  private settle(answer: EngraveAnswer): void {
    const waiting = this.open.get(answer.id);
    this.open.delete(answer.id);
    if ('pages' in answer) {
      installFont(answer.fontCss);
      waiting?.done(answer.pages);
    }
    if ('failure' in answer) waiting?.failed(new Error(answer.failure));
  }
}

const FONT_ID = 'engraving-font';

/** The font of notes within words: once for the document, or every picture would make the browser style all anew. */
function installFont(fontCss: string | null): void {
  if (fontCss === null || document.getElementById(FONT_ID)) return;
  const style = document.createElement('style');
  style.id = FONT_ID;
  style.textContent = fontCss;
  document.head.append(style);
}
