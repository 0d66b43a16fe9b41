/// <reference lib="webworker" />
import { grayOf, PAGE_LIMITS, READ_LONG_SIDE, readPage, type GrayImage } from '@vivid-cue/core/page';
import type { PageNews, PageTurn, PageWish } from '../data/page-reader';
import { openPdf, type PdfPages } from './pdf-pages';

/** A page of a PDF is kept at about 300 dots an inch. Units: pixels of its longer side */
const KEPT_LONG_SIDE = 3300;
/** So large it is shown first. Units: pixels of its longer side */
const SEEN_LONG_SIDE = 1100;
const JPEG = { type: 'image/jpeg', quality: 0.9 };

function tell(news: PageNews): void {
  postMessage(news);
}

addEventListener('message', ({ data }: MessageEvent<PageWish>) => {
  void readFile(data).catch((error: unknown) => {
    const message = error instanceof Told ? error.message : NO_PAGE;
    tell({ kind: 'failure', message });
  });
});

const NO_PAGE =
  'This is neither a whole picture nor a PDF that can be opened here. Save it as JPEG, PNG or PDF, or photograph the page.';

/** Something that is said as it stands. */
class Told extends Error {}

async function readFile({ file, turn, room }: PageWish): Promise<void> {
  if (file.size > PAGE_LIMITS.fileBytes)
    throw new Told(`A file of pages has at most 20 MB; this one has ${(file.size / 1048576).toFixed(1)} MB.`);
  const head = new TextDecoder('latin1').decode(await file.slice(0, 1024).arrayBuffer());
  if (head.includes('%PDF-')) await readPdf(await file.arrayBuffer(), room);
  else await readPicture(file, { head, turn });
  tell({ kind: 'done' });
}

async function readPicture(
  file: Blob,
  { head, turn }: { readonly head: string; readonly turn: PageTurn },
): Promise<void> {
  const bitmap = await createImageBitmap(file).catch(() => {
    throw new Told(NO_PAGE);
  });
  const { width, height } = bitmap;
  if (width * height > PAGE_LIMITS.pixels)
    throw new Told(
      `A page has at most 40 megapixels; this one has ${Math.round((width * height) / 1e6)}. Save it smaller, or photograph it again.`,
    );
  // What the server takes goes as it came; other kinds, and turned pages, are drawn anew.
  const isKnown = /^(?:\u0089PNG|\u00ff\u00d8\u00ff|RIFF....WEBP)/su.test(head);
  const picture =
    isKnown && turn === 0 ? file : await drawn(bitmap, turn, Math.max(width, height)).convertToBlob(JPEG);
  tell({ kind: 'page', at: 0, of: 1, picture, isWhole: true });
  readDrawn(0, drawn(bitmap, turn, READ_LONG_SIDE));
  bitmap.close();
}

async function readPdf(bytes: ArrayBuffer, room: number): Promise<void> {
  const pdf = await openPdf(bytes).catch((error: unknown) => {
    const isLocked = error instanceof Error && error.name === 'PasswordException';
    throw new Told(
      isLocked
        ? 'This PDF is locked with a password; save it without one, or photograph its pages.'
        : 'This PDF is broken; save it anew, or photograph its pages.',
    );
  });
  if (pdf.count > room)
    throw new Told(
      `This PDF has ${pdf.count} pages, and a part has at most ${PAGE_LIMITS.pages}; save only the pages of this music.`,
    );
  for (let at = 0; at < pdf.count; at += 1) await readPdfPage(pdf, at);
}

async function readPdfPage(pdf: PdfPages, at: number): Promise<void> {
  const of = pdf.count;
  const small = await pdf.draw(at, SEEN_LONG_SIDE);
  tell({ kind: 'page', at, of, picture: await small.convertToBlob(JPEG), isWhole: false });
  const canvas = await pdf.draw(at, KEPT_LONG_SIDE);
  tell({ kind: 'page', at, of, picture: await canvas.convertToBlob(JPEG), isWhole: true });
  readDrawn(at, scaled(canvas));
}

/** Reads a drawing and tells of it. */
function readDrawn(at: number, canvas: OffscreenCanvas): void {
  const begun = performance.now();
  const reading = readPage(gray(canvas));
  tell({ kind: 'read', at, reading, ms: performance.now() - begun });
}

/** A picture turned, its longer side so long. Units: pixels */
function drawn(bitmap: ImageBitmap, turn: PageTurn, longSide: number): OffscreenCanvas {
  const factor = longSide / Math.max(bitmap.width, bitmap.height);
  const [w, h] = [Math.round(bitmap.width * factor), Math.round(bitmap.height * factor)];
  const canvas = turn % 2 === 0 ? new OffscreenCanvas(w, h) : new OffscreenCanvas(h, w);
  const context = contextOf(canvas);
  context.translate(canvas.width / 2, canvas.height / 2);
  context.rotate((turn * Math.PI) / 2);
  context.drawImage(bitmap, -w / 2, -h / 2, w, h);
  return canvas;
}

function scaled(canvas: OffscreenCanvas): OffscreenCanvas {
  const factor = READ_LONG_SIDE / Math.max(canvas.width, canvas.height);
  const small = new OffscreenCanvas(Math.round(canvas.width * factor), Math.round(canvas.height * factor));
  contextOf(small).drawImage(canvas, 0, 0, small.width, small.height);
  return small;
}

function contextIn(canvas: OffscreenCanvas): OffscreenCanvasRenderingContext2D {
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (context) return context;
  throw new Told('This device has not enough memory for the page; close other pages and try again.');
}

/** White paper under whatever is drawn. */
function contextOf(canvas: OffscreenCanvas): OffscreenCanvasRenderingContext2D {
  const context = contextIn(canvas);
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.imageSmoothingQuality = 'high';
  return context;
}

/** A drawing without its colours. */
function gray(canvas: OffscreenCanvas): GrayImage {
  const { width, height } = canvas;
  return grayOf(width, height, contextIn(canvas).getImageData(0, 0, width, height).data);
}
