import type { KeptRecording } from './take-database';

/** What the worker that keeps recordings is told: where blocks come from, or that a recording begins. */
export type StoreOrder = { readonly port: MessagePort } | { readonly recording: KeptRecording };

/** What it tells. Shape: `unwritten` pieces that the device had no room for; `lost` frames the sound's clock skipped */
export type StoreNews =
  | { readonly kind: 'level'; readonly peak: number }
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
