import { Injectable } from '@angular/core';
import type { DrillKind, SoundedDrillNote } from '@vivid-cue/core/drills';
import type { ClickSettings } from '@vivid-cue/core/climb';
import type { BeatUnit, Bpm } from '@vivid-cue/core/music';
import type { Span } from '@vivid-cue/core/score';
import { AskedWorker } from './asked-worker';

/** What drills are made of. Units: measure indexes; beats of the unit a minute. */
export interface DrillWish {
  readonly bytes: ArrayBuffer;
  readonly partId: string;
  readonly instrument: string;
  /** The measures' numbers as everybody says them. */
  readonly numbers: readonly string[];
  readonly span: Span;
  /** Measures that slipped or surprised. */
  readonly flagged: readonly number[];
  readonly tempo: { readonly bpm: Bpm; readonly unit: BeatUnit } | null;
  readonly seed: number;
}

/** The same with its number. */
export interface DrillQuestion extends DrillWish {
  readonly id: number;
}

/** A drill as it is shown. Shape: `musicXml` null where the passage itself is played; `turns` of its measures, if any */
export interface ShownDrill {
  readonly kind: DrillKind;
  readonly title: string;
  readonly why: string;
  readonly how: string;
  readonly minutes: number;
  readonly turns: readonly string[];
  readonly musicXml: string | null;
  readonly measures: number;
  readonly sound: readonly SoundedDrillNote[];
  /** Its measures as a click takes them. */
  readonly bars: ClickSettings['measures'];
}

/** What the worker answers. */
export interface DrillAnswer {
  readonly id: number;
  readonly drills: readonly ShownDrill[];
  readonly failure: string | null;
}

/** Makes drills in a web worker. */
@Injectable({ providedIn: 'root' })
export class Driller {
  private readonly worker = new AskedWorker<DrillQuestion, DrillAnswer>(
    () => new Worker(new URL('../workers/drill.worker', import.meta.url), { type: 'module' }),
    'The drills could not be loaded; reload the page.',
  );

  /**
   * The drills of a passage.
   * Errors: rejects with a sentence
   */
  async drills(wish: DrillWish): Promise<readonly ShownDrill[]> {
    const { drills, failure } = await this.worker.ask(wish);
    if (failure !== null) throw new Error(failure);
    return drills;
  }
}
