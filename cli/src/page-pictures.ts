import { readFile, stat } from 'node:fs/promises';
import { createCanvas } from '@napi-rs/canvas';
import type { PDFDocumentProxy } from 'pdfjs-dist';
import sharp from 'sharp';
import { grayOf, PAGE_LIMITS, READ_LONG_SIDE, type GrayImage } from '@vivid-cue/core/page';
import { CommandError } from './command-error.js';

/** The pages of a picture or a PDF. Shape: `only` counts from 1, null for all; `number` is the page's own */
export async function picturesOf(
  path: string,
  only: number | null,
): Promise<{ readonly number: number; readonly image: GrayImage }[]> {
  const bytes = await bytesOf(path);
  const isPdf = new TextDecoder('latin1').decode(bytes.subarray(0, 1024)).includes('%PDF-');
  if (isPdf) return pdfPages(bytes, only);
  if (only !== null && only !== 1)
    throw new CommandError(`A picture has one page; page ${only} was asked for.`);
  return [{ number: 1, image: await picture(bytes) }];
}

async function bytesOf(path: string): Promise<Uint8Array> {
  const size = await stat(path).then(
    (found) => found.size,
    () => -1,
  );
  if (size < 0) throw new CommandError(`There is no file ${path}.`);
  if (size > PAGE_LIMITS.fileBytes)
    throw new CommandError(`A page has at most 20 MB; ${path} has ${(size / 1048576).toFixed(1)} MB.`);
  if (size === 0) throw new CommandError(`${path} is empty; bring a picture or a PDF.`);
  return new Uint8Array(await readFile(path));
}

/** A picture upright, as its camera held it, without its colours. */
async function picture(bytes: Uint8Array): Promise<GrayImage> {
  const open = (): ReturnType<typeof sharp> => sharp(bytes, { limitInputPixels: false, failOn: 'truncated' });
  const { width, height } = await open()
    .metadata()
    .catch(() => ({ width: 0, height: 0 }));
  if (width * height > PAGE_LIMITS.pixels)
    throw new CommandError(
      `A picture has at most 40 megapixels; ${Math.round((width * height) / 1e6)} came. Save it smaller.`,
    );
  const drawn = await open()
    .rotate()
    .flatten({ background: '#ffffff' })
    .grayscale()
    .raw()
    .toBuffer({ resolveWithObject: true })
    .catch(() => null);
  if (!drawn || width * height === 0)
    throw new CommandError(
      'This is neither a whole picture (PNG, JPEG, WebP) nor a PDF; take a photograph of the page.',
    );
  return { width: drawn.info.width, height: drawn.info.height, data: new Uint8Array(drawn.data) };
}

async function pdfPages(
  data: Uint8Array,
  only: number | null,
): Promise<{ readonly number: number; readonly image: GrayImage }[]> {
  const { getDocument, VerbosityLevel } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const task = getDocument({ data, verbosity: VerbosityLevel.ERRORS, isEvalSupported: false });
  const document = await task.promise.catch((error: unknown) => {
    const isLocked = error instanceof Error && error.name === 'PasswordException';
    throw new CommandError(
      isLocked
        ? 'This PDF is locked with a password; save it without one, or photograph its pages.'
        : 'This PDF is broken; save it anew, or photograph its pages.',
    );
  });
  const { numPages } = document;
  if (only !== null && only > numPages)
    throw new CommandError(`This PDF has ${numPages} pages; page ${only} was asked for.`);
  if (only === null && numPages > PAGE_LIMITS.pages)
    throw new CommandError(
      `This PDF has ${numPages} pages, more than ${PAGE_LIMITS.pages}; choose one with --page N.`,
    );
  const numbers = only === null ? Array.from({ length: numPages }, (_, n) => n + 1) : [only];
  const pages: { number: number; image: GrayImage }[] = [];
  try {
    for (const number of numbers) pages.push({ number, image: await drawnPage(document, number) });
  } catch {
    throw new CommandError('This PDF is broken; save it anew, or photograph its pages.');
  } finally {
    await task.destroy();
  }
  return pages;
}

async function drawnPage(document: PDFDocumentProxy, number: number): Promise<GrayImage> {
  const page = await document.getPage(number);
  const whole = page.getViewport({ scale: 1 });
  const viewport = page.getViewport({ scale: READ_LONG_SIDE / Math.max(whole.width, whole.height) });
  const canvas = createCanvas(Math.round(viewport.width), Math.round(viewport.height));
  const context = canvas.getContext('2d');
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, canvas.width, canvas.height);
  await page.render({ canvas: canvas as never, canvasContext: context as never, viewport }).promise;
  const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
  return grayOf(canvas.width, canvas.height, data);
}
