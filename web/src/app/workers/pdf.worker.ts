import pdfMake from 'pdfmake/build/pdfmake.min.js';

/** A document as pdfmake takes it, without functions: it crosses to the worker. */
export type PdfDoc = Readonly<Record<string, unknown>>;

/** What the worker is asked. */
export interface PdfQuestion {
  readonly id: number;
  readonly doc: PdfDoc;
}

/** What it answers. */
export interface PdfAnswer {
  readonly id: number;
  readonly bytes: ArrayBuffer | null;
}

interface PdfMake {
  addVirtualFileSystem(files: Readonly<Record<string, string>>): void;
  addFonts(fonts: Readonly<Record<string, Readonly<Record<string, string>>>>): void;
  createPdf(doc: PdfDoc): { getBuffer(): Promise<Uint8Array> };
}

const FILES = {
  text: 'atkinson-hyperlegible-next-latin-400-normal.woff',
  bold: 'atkinson-hyperlegible-next-latin-700-normal.woff',
  more: 'atkinson-hyperlegible-next-latin-ext-400-normal.woff',
  notes: 'noto-music-music-400-normal.woff',
} as const;

let ready: Promise<PdfMake> | null = null;

/** The maker with the application's own fonts. */
async function maker(): Promise<PdfMake> {
  const make = pdfMake as unknown as PdfMake;
  const files: Record<string, string> = {};
  for (const file of Object.values(FILES))
    files[file] = base64(await (await fetch(`/pdf-fonts/${file}`)).arrayBuffer());
  make.addVirtualFileSystem(files);
  const font = (normal: string, bold: string): Readonly<Record<string, string>> => ({
    ...{ normal, bold, italics: normal, bolditalics: bold },
  });
  make.addFonts({
    Text: font(FILES.text, FILES.bold),
    More: font(FILES.more, FILES.more),
    Notes: font(FILES.notes, FILES.notes),
  });
  return make;
}

function base64(bytes: ArrayBuffer): string {
  let text = '';
  for (const byte of new Uint8Array(bytes)) text += String.fromCharCode(byte);
  return btoa(text);
}

async function made(doc: PdfDoc): Promise<ArrayBuffer> {
  ready ??= maker();
  const bytes = await (await ready).createPdf(doc).getBuffer();
  return new Uint8Array(bytes).buffer;
}

addEventListener('message', ({ data: { id, doc } }: MessageEvent<PdfQuestion>) => {
  made(doc).then(
    (bytes) => postMessage({ id, bytes } satisfies PdfAnswer),
    () => {
      ready = null;
      postMessage({ id, bytes: null } satisfies PdfAnswer);
    },
  );
});
