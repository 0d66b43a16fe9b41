import { Injectable } from '@angular/core';
import type { DrawAnswer, DrawQuestion } from '../workers/pdf-draw.worker';
import type { PdfAnswer, PdfDoc, PdfQuestion } from '../workers/pdf.worker';
import { AskedWorker } from './asked-worker';
import { fileNameOf, handOver } from './hand-over';
import { printPages } from './print-pages';

/** Makes PDF files in a web worker, so that the page never waits. */
@Injectable({ providedIn: 'root' })
export class PdfMaker {
  private readonly worker = new AskedWorker<PdfQuestion, PdfAnswer>(
    () => new Worker(new URL('../workers/pdf.worker', import.meta.url), { type: 'module' }),
    NOT_MADE,
  );
  private readonly drawer = new AskedWorker<DrawQuestion, DrawAnswer>(
    () => new Worker(new URL('../workers/pdf-draw.worker', import.meta.url), { type: 'module' }),
    NOT_PRINTED,
  );

  /** Errors: rejects with a sentence */
  async make(doc: PdfDoc): Promise<Blob> {
    const { bytes } = await this.worker.ask({ doc });
    if (!bytes) throw new Error(NOT_MADE);
    return new Blob([bytes], { type: 'application/pdf' });
  }

  /** Makes a file and hands it to the person. */
  async save(doc: PdfDoc, title: string): Promise<void> {
    handOver(await this.make(doc), fileNameOf(title, 'pdf'));
  }

  /**
   * Puts a document before the printer without a file between: its pages alone, on any browser, as tall as the paper.
   * Errors: rejects with a sentence
   */
  async print(doc: PdfDoc): Promise<void> {
    const bytes = await (await this.make(doc)).arrayBuffer();
    const { pages } = await this.drawer.ask({ bytes });
    if (pages.length === 0) throw new Error(NOT_PRINTED);
    await printPages(pages);
  }
}

const NOT_MADE = 'The PDF could not be made; reload the page and try again.';

const NOT_PRINTED = 'The page could not be made ready to print; save it as PDF and print that.';
