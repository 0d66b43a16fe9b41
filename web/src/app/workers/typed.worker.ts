/// <reference lib="webworker" />
import { typedWork } from '@vivid-cue/core/paper';
import type { TypedAnswer, TypedRequest } from '../data/typed-reader';

/** Reads what is typed of music on paper; it has a worker of its own because the ABC library is large. */
addEventListener('message', ({ data: { id, paper, passage } }: MessageEvent<TypedRequest>) => {
  postMessage({ id, work: typedWork(paper, passage) } satisfies TypedAnswer);
});
