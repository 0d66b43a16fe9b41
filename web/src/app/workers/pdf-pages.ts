/** What is used of the PDF library. Source: pdfjs-dist 5, getDocument */
interface PdfLibrary {
  readonly VerbosityLevel: { readonly ERRORS: number };
  getDocument(options: object): { readonly promise: Promise<PdfDocument> };
}

interface PdfDocument {
  readonly numPages: number;
  getPage(number: number): Promise<PdfPage>;
}

interface PdfPage {
  getViewport(options: { readonly scale: number }): { readonly width: number; readonly height: number };
  render(options: object): { readonly promise: Promise<void> };
  cleanup(): void;
}

/** The pages of an open PDF. Shape: counted from 0 */
export interface PdfPages {
  readonly count: number;
  /** Draws a page, its longer side so long. Units: pixels */
  draw(at: number, longSide: number): Promise<OffscreenCanvas>;
}

/** Canvases without a page around them. */
class Canvases {
  create(width: number, height: number): object {
    const canvas = new OffscreenCanvas(width, height);
    return { canvas, context: canvas.getContext('2d', { willReadFrequently: true }) };
  }

  reset({ canvas }: { readonly canvas: OffscreenCanvas }, width: number, height: number): void {
    canvas.width = width;
    canvas.height = height;
  }

  destroy({ canvas }: { readonly canvas: OffscreenCanvas }): void {
    canvas.width = 0;
    canvas.height = 0;
  }
}

/** Print needs no filters. */
class Filters {
  addFilter(): string {
    return 'none';
  }
  addHCMFilter(): string {
    return 'none';
  }
  addAlphaFilter(): string {
    return 'none';
  }
  addLuminosityFilter(): string {
    return 'none';
  }
  addHighlightHCMFilter(): string {
    return 'none';
  }
  destroy(): void {
    // There is nothing to clear away.
  }
}

function assetUrl(name: string): string {
  return new URL(`/pdf/${name}`, self.location.origin).href;
}

/**
 * Opens a PDF in the worker that asks; the library stands beside the application as it came from its package, because few
 * need it. Nothing that a PDF says is executed.
 * Errors: those of the library: PasswordException where it is locked
 */
export async function openPdf(data: ArrayBuffer): Promise<PdfPages> {
  const [library, handler] = (await Promise.all([
    import(/* @vite-ignore */ assetUrl('pdf.min.mjs')),
    import(/* @vite-ignore */ assetUrl('pdf.worker.min.mjs')),
  ])) as [PdfLibrary, object];
  // The library looks here for the half of itself that is usually a worker of its own: this is one already.
  (globalThis as { pdfjsWorker?: object }).pdfjsWorker = handler;
  const document = await library.getDocument({
    data,
    verbosity: library.VerbosityLevel.ERRORS,
    isEvalSupported: false,
    disableFontFace: true,
    useSystemFonts: false,
    useWorkerFetch: true,
    CanvasFactory: Canvases,
    FilterFactory: Filters,
    wasmUrl: assetUrl('wasm/'),
    standardFontDataUrl: assetUrl('standard_fonts/'),
    cMapUrl: assetUrl('cmaps/'),
    cMapPacked: true,
  }).promise;
  return { count: document.numPages, draw: (at, longSide) => drawPage(document, at, longSide) };
}

async function drawPage(document: PdfDocument, at: number, longSide: number): Promise<OffscreenCanvas> {
  const page = await document.getPage(at + 1);
  const { width, height } = page.getViewport({ scale: 1 });
  const viewport = page.getViewport({ scale: longSide / Math.max(width, height) });
  const canvas = new OffscreenCanvas(Math.round(viewport.width), Math.round(viewport.height));
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (context) {
    context.fillStyle = '#ffffff';
    context.fillRect(0, 0, canvas.width, canvas.height);
  }
  await page.render({ canvas, canvasContext: context, viewport }).promise;
  page.cleanup();
  return canvas;
}
