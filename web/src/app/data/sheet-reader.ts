import { Injectable } from '@angular/core';
import {
  SHEET_TEXT_LIMIT,
  type Correction,
  type ErrataReading,
  type SheetReading,
  type StructuredSheet,
} from '@vivid-cue/core/sheet';
import { AskedWorker } from './asked-worker';

/** What the reading worker is asked. */
export type ReaderRequest =
  | {
      readonly id: number;
      readonly kind: 'sheet';
      readonly text: string;
      readonly corrections: readonly Correction[];
    }
  | { readonly id: number; readonly kind: 'errata'; readonly text: string; readonly base: StructuredSheet };

/** What it answers. */
export type ReaderAnswer =
  | { readonly id: number; readonly reading: SheetReading }
  | { readonly id: number; readonly errata: ErrataReading }
  | { readonly id: number; readonly failure: string };

/** The sentence for a text beyond the limit. Units: characters. */
export function tooLong(length: number): string {
  return `A sheet has at most ${SHEET_TEXT_LIMIT / 1000} thousand characters; ${Math.round(length / 1000)} thousand came. Paste only the pages that speak of the audition.`;
}

/** Reads sheets and notices in a web worker, so that the page never waits. */
@Injectable({ providedIn: 'root' })
export class SheetReaderClient {
  private readonly worker = new AskedWorker<ReaderRequest, ReaderAnswer>(
    () => new Worker(new URL('../workers/sheet.worker', import.meta.url), { type: 'module' }),
    'The reader could not be loaded; reload the page.',
  );

  /** Starts the worker before it is needed. */
  warmUp(): void {
    this.worker.ready();
  }

  /** Reads a published sheet; rejects with a sentence when the text is too long or cannot be read. */
  async sheet(text: string, corrections: readonly Correction[] = []): Promise<SheetReading> {
    if (text.length > SHEET_TEXT_LIMIT) throw new Error(tooLong(text.length));
    const answer = await this.worker.ask({ kind: 'sheet', text, corrections });
    if ('reading' in answer) return answer.reading;
    throw new Error('failure' in answer ? answer.failure : 'The text could not be read.');
  }

  /** Reads an errata notice against the sheet it amends. */
  async errata(text: string, base: StructuredSheet): Promise<ErrataReading> {
    if (text.length > SHEET_TEXT_LIMIT)
      throw new Error('This notice is too long; paste only what it changes.');
    const answer = await this.worker.ask({ kind: 'errata', text, base });
    if ('errata' in answer) return answer.errata;
    throw new Error('failure' in answer ? answer.failure : 'The notice could not be read.');
  }
}
