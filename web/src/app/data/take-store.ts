import type { KeptRecording } from './take-database';

/**
 * What the worker that keeps recordings is told: where sound comes from, as blocks through a port or as the pieces of a
 * track; that a recording begins; that it ends, which a port's own source says by its last block.
 */
export type StoreOrder =
  | { readonly port: MessagePort }
  | { readonly track: ReadableStream<AudioData> }
  | { readonly recording: KeptRecording }
  | { readonly isOver: true };

/**
 * What it tells.
 * Shape:  `unwritten` pieces that the device had no room for; `lost` samples the sound's clock skipped
 * Units:  `rate` samples a second
 */
export type StoreNews =
  | { readonly kind: 'level'; readonly peak: number; readonly rate: number }
  | { readonly kind: 'full' }
  | {
      readonly kind: 'done';
      readonly id: string;
      readonly frames: number;
      readonly peak: number;
      readonly lost: number;
      readonly unwritten: readonly Int16Array<ArrayBuffer>[];
    };

/** A recording that has ended. Units: samples; frames that were lost */
export type EndedRecording = Extract<StoreNews, { readonly kind: 'done' }>;
