import { Injectable } from '@angular/core';
import type { CueWriting } from '@vivid-cue/core/cues';
import type { QuarterBpm } from '@vivid-cue/core/music';
import type { Span } from '@vivid-cue/core/score';
import { AskedWorker } from './asked-worker';

/** A score that is to be written with its cues. */
export interface ScoreShare extends CueWriting {
  readonly kind: 'score';
  readonly bytes: ArrayBuffer;
}

/** A stretch that is to sound elsewhere. Units: measure indexes; quarters a minute, null for the file's own tempo */
export interface MidiShare {
  readonly kind: 'midi';
  readonly bytes: ArrayBuffer;
  readonly partId: string;
  readonly span: Span;
  readonly quarterBpm: QuarterBpm | null;
  readonly instrument: string;
  readonly title: string;
}

/** What the worker is asked. */
export type ShareQuestion = (ScoreShare | MidiShare) & { readonly id: number };

/** What it answers. */
export interface ShareAnswer {
  readonly id: number;
  readonly musicXml: string | null;
  readonly midi: ArrayBuffer | null;
  readonly failure: string | null;
}

/** Writes scores and stretches of them for other programs, in a web worker. */
@Injectable({ providedIn: 'root' })
export class Sharer {
  private readonly worker = new AskedWorker<ShareQuestion, ShareAnswer>(
    () => new Worker(new URL('../workers/share.worker', import.meta.url), { type: 'module' }),
    NOT_MADE,
  );

  /**
   * A score with its cues, as MusicXML.
   * Errors: rejects with a sentence
   */
  async withCues(wish: Omit<ScoreShare, 'kind'>): Promise<string> {
    const { musicXml, failure } = await this.worker.ask({ kind: 'score', ...wish });
    if (musicXml === null) throw new Error(failure ?? NOT_MADE);
    return musicXml;
  }

  /**
   * A stretch as a standard MIDI file.
   * Errors: rejects with a sentence
   */
  async midi(wish: Omit<MidiShare, 'kind'>): Promise<Blob> {
    const { midi, failure } = await this.worker.ask({ kind: 'midi', ...wish });
    if (!midi) throw new Error(failure ?? NOT_MADE);
    return new Blob([midi], { type: 'audio/midi' });
  }
}

const NOT_MADE = 'The file could not be made; reload the page and try again.';
