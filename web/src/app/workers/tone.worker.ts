/// <reference lib="webworker" />
import { longTone } from '@vivid-cue/core/takes';
import type { ToneAnswer, ToneQuestion } from '../data/tone-reader';

addEventListener('message', ({ data: { id, samples, rate } }: MessageEvent<ToneQuestion>) => {
  postMessage({ id, tone: longTone({ samples, rate }) } satisfies ToneAnswer);
});
