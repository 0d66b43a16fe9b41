import { Injectable } from '@angular/core';

/** What the engraving worker is asked. */
export interface EngraveRequest {
  readonly id: number;
  readonly musicXml: string;
  readonly partId: string;
  readonly widthPx: number;
}

/** What it answers: a picture, or why there is none. */
export type EngraveAnswer =
  { readonly id: number; readonly svg: string } | { readonly id: number; readonly failure: string };

/** Engraves scores in a web worker, so that the page never waits; the engine is loaded with the first score. */
@Injectable({ providedIn: 'root' })
export class Engraver {
  private worker: Worker | null = null;
  private lastId = 0;
  private readonly open = new Map<
    number,
    { readonly done: (svg: string) => void; readonly failed: (reason: Error) => void }
  >();

  /**
   * The engraved picture of one part as SVG text.
   * Shape:  one tall picture as wide as asked
   * Units:  CSS pixels
   * Errors: rejects with a sentence when the engine cannot engrave the file
   * Source: none
   */
  engrave(musicXml: string, partId: string, widthPx: number): Promise<string> {
    this.lastId += 1;
    const request: EngraveRequest = { id: this.lastId, musicXml, partId, widthPx };
    const answer = new Promise<string>((done, failed) => this.open.set(request.id, { done, failed }));
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
    if ('svg' in answer) waiting?.done(answer.svg);
    else waiting?.failed(new Error(answer.failure));
  }
}
