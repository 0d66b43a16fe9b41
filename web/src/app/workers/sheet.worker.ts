/// <reference lib="webworker" />
import { readErrata, readSheet } from '@vivid-cue/core/sheet';
import { v7 as newId } from 'uuid';
import type { ReaderAnswer, ReaderRequest } from '../data/sheet-reader';

addEventListener('message', ({ data }: MessageEvent<ReaderRequest>) => {
  const answer = (): ReaderAnswer => {
    try {
      return data.kind === 'sheet'
        ? { id: data.id, reading: readSheet(data.text, newId, data.corrections) }
        : { id: data.id, errata: readErrata(data.text, data.base) };
    } catch {
      return { id: data.id, failure: 'The text could not be read; paste a shorter part of it.' };
    }
  };
  postMessage(answer());
});

// The patterns are compiled with the first text: a short one now makes the real one quick.
readSheet('Warm-up 2027: Flute\nEtude 1: "A", p. 1, mm. 1-2, quarter = 60. Audition: May 1, 2027 at 5 p.m.');
