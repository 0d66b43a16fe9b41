import { openPdf } from './pdf-pages';

/** What the worker is asked: a PDF file. */
export interface DrawQuestion {
  readonly id: number;
  readonly bytes: ArrayBuffer;
}

/** Its pages as pictures; none where the file cannot be drawn. */
export interface DrawAnswer {
  readonly id: number;
  readonly pages: readonly Blob[];
}

/** Paper's longer side at 220 dots an inch: finer than the eye at a stand. Units: pixels */
const PRINTED_LONG_SIDE = 2574;

async function drawn(bytes: ArrayBuffer): Promise<Blob[]> {
  const pdf = await openPdf(bytes);
  const pages: Blob[] = [];
  for (let at = 0; at < pdf.count; at += 1)
    pages.push(await (await pdf.draw(at, PRINTED_LONG_SIDE)).convertToBlob({ type: 'image/png' }));
  return pages;
}

// The library listens on this worker's messages too; a number tells ours from its own.
addEventListener('message', ({ data: { id, bytes } }: MessageEvent<Partial<DrawQuestion>>) => {
  if (id === undefined || !bytes) return;
  drawn(bytes).then(
    (pages) => postMessage({ id, pages } satisfies DrawAnswer),
    () => postMessage({ id, pages: [] } satisfies DrawAnswer),
  );
});
