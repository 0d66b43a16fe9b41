import { Injectable } from '@angular/core';
import { AskedWorker } from './asked-worker';

interface FlacQuestion {
  readonly id: number;
  readonly pieces: readonly Int16Array[];
  readonly rate: number;
}

interface FlacAnswer {
  readonly id: number;
  readonly bytes: Uint8Array<ArrayBuffer> | null;
}

const LOST = 'The take could not be packed; reload the page. It is still on this device.';

/** Packs sound as 16-bit FLAC in a worker. */
@Injectable({ providedIn: 'root' })
export class FlacMaker {
  private readonly worker = new AskedWorker<FlacQuestion, FlacAnswer>(
    () => new Worker('/flac-worker.js'),
    LOST,
  );

  /** A sound as FLAC. Units: 16-bit samples; samples a second. Errors: rejects with one sentence */
  async flacOf(pieces: readonly Int16Array[], rate: number): Promise<Blob> {
    const { bytes } = await this.worker.ask({ pieces, rate });
    if (!bytes) throw new Error(LOST);
    return new Blob([bytes], { type: 'audio/flac' });
  }
}
