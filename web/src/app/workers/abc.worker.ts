/// <reference lib="webworker" />
import { withoutAbc } from '@vivid-cue/core/abc';
import type { WorkerNews } from '../data/score-reader';

/** Turns a file in ABC notation into MusicXML; it has a worker of its own because few files need that library. */
addEventListener('message', ({ data }: MessageEvent<ArrayBuffer>) => {
  const read = withoutAbc(new Uint8Array(data));
  const news: WorkerNews<{ bytes: Uint8Array }> = read.ok
    ? { piece: { bytes: read.value }, isLast: true }
    : { failure: read.issues[0]?.message ?? 'This ABC text cannot be read.' };
  postMessage(news);
});
