/// <reference lib="webworker" />
import { accompaniment } from '@vivid-cue/core/mock';
import type { AccompanyAnswer, AccompanyQuestion } from '../data/accompanist';

addEventListener('message', ({ data }: MessageEvent<AccompanyQuestion>) => {
  const { id, bytes, partId, span, own } = data;
  const read = accompaniment(new Uint8Array(bytes), { partId, span, own });
  const answer: AccompanyAnswer = read.ok
    ? { id, notes: read.value, failure: null }
    : { id, notes: [], failure: read.issues[0]?.message ?? 'This file cannot be read.' };
  postMessage(answer);
});
