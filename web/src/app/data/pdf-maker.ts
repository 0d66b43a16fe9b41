import { Injectable } from '@angular/core';
import type { PdfAnswer, PdfDoc, PdfQuestion } from '../workers/pdf.worker';
import { AskedWorker } from './asked-worker';
import { fileNameOf, handOver } from './hand-over';

/** Makes PDF files in a web worker, so that the page never waits. */
@Injectable({ providedIn: 'root' })
export class PdfMaker {
  private readonly worker = new AskedWorker<PdfQuestion, PdfAnswer>(
    () => new Worker(new URL('../workers/pdf.worker', import.meta.url), { type: 'module' }),
    NOT_MADE,
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
}

const NOT_MADE = 'The PDF could not be made; reload the page and try again.';
