/// <reference lib="webworker" />
import type { EngraveAnswer, EngraveRequest } from '../data/engraver';

interface Toolkit {
  setOptions(options: Readonly<Record<string, unknown>>): void;
  loadData(data: string): boolean;
  getPageCount(): number;
  renderToSVG(page: number): string;
  select(selection: Readonly<Record<string, string>>): boolean;
  redoLayout(): void;
}

let toolkit: Promise<Toolkit> | null = null;

/** The engine stands beside the application as it came from its package: bundling its seven megabytes would cost a minute a build. */
async function loadToolkit(): Promise<Toolkit> {
  const [engine, wrapper] = (await Promise.all([
    import(/* @vite-ignore */ assetUrl('verovio-module.mjs')),
    import(/* @vite-ignore */ assetUrl('verovio.mjs')),
  ])) as [{ default: () => Promise<unknown> }, { VerovioToolkit: new (module: unknown) => Toolkit }];
  const module = await engine.default();
  // The engine would tell the console of every tight system; what matters comes back as an answer.
  wrapper.enableLog(wrapper.LOG_OFF, module);
  return new wrapper.VerovioToolkit(module);
}

function assetUrl(name: string): string {
  return new URL(`/verovio/${name}`, self.location.origin).href;
}

/** Only the chosen part is engraved: the others are taken out of the file first. */
function onlyPart(musicXml: string, partId: string): string {
  if (!musicXml.includes('<score-partwise')) return musicXml;
  const keep = (whole: string, id: string): string => (id === partId ? whole : '');
  return musicXml
    .replace(/<score-part\s+id="([^"]*)"[\s\S]*?<\/score-part>/gu, keep)
    .replace(/<part\s+id="([^"]*)"\s*>[\s\S]*?<\/part>/gu, keep)
    .replace(/<part-group\b[^>]*\/>|<part-group\b[\s\S]*?<\/part-group>/gu, '');
}

/** An excerpt says by its caption whose it is. */
function withoutNames(musicXml: string): string {
  return musicXml.replace(
    /<part-(name|abbreviation)(-display)?\b[^>]*>[\s\S]*?<\/part-\1\2>/gu,
    (whole, kind) => (kind === 'name' && !whole.startsWith('<part-name-d') ? '<part-name></part-name>' : ''),
  );
}

/** Measures are numbered as the instructor counts them. */
function withNumbers(musicXml: string, numbers: readonly string[] | null): string {
  if (numbers === null) return musicXml;
  let at = -1;
  return musicXml.replace(/(<measure\b[^>]*?\bnumber=")[^"]*"/gu, (whole, before: string) => {
    at += 1;
    const number = numbers[at];
    return number === undefined ? whole : `${before}${number.replace(/[^\w.-]/gu, '')}"`;
  });
}

/** Scales in percent at which a staff is comfortable to read on a screen, and on a phone. */
const SCALE = 42;
const NARROW_SCALE = 32;
const NARROW_PX = 520;

/** Height of a page in pixels: each is put into the document by itself, so that no long piece holds the page up. */
const PAGE_PX = 270;

async function engrave(request: EngraveRequest): Promise<EngraveAnswer> {
  const { id, musicXml, partId, numbers, widthPx, excerpt } = request;
  toolkit ??= loadToolkit();
  const engine = await toolkit;
  const scale = widthPx > 0 && widthPx < NARROW_PX ? NARROW_SCALE : SCALE;
  engine.setOptions({
    scale,
    pageWidth: excerpt ? 30_000 : Math.round((widthPx * 100) / scale),
    pageHeight: excerpt ? 60_000 : Math.round((PAGE_PX * 100) / scale),
    adjustPageHeight: true,
    adjustPageWidth: excerpt !== null,
    pageMarginLeft: excerpt ? 20 : 60,
    pageMarginRight: 20,
    pageMarginTop: 30,
    pageMarginBottom: 30,
    header: 'none',
    footer: 'none',
    breaks: excerpt ? 'none' : 'auto',
    svgViewBox: true,
    expandNever: true,
    mnumInterval: excerpt ? 1 : 0,
  });
  // A selection made before would hold for the next file too.
  engine.select({});
  const own = withNumbers(onlyPart(musicXml, partId), numbers);
  if (!engine.loadData(excerpt ? withoutNames(own) : own) || engine.getPageCount() < 1)
    return { id, failure: CANNOT };
  if (excerpt) {
    engine.select({ measureRange: `${excerpt.fromIndex + 1}-${excerpt.endIndex}` });
    engine.redoLayout();
    return answerOf(id, [engine.renderToSVG(1)]);
  }
  return answerOf(
    id,
    Array.from({ length: engine.getPageCount() }, (_, n) => engine.renderToSVG(n + 1)),
  );
}

/** Each picture comes with the same rules and perhaps a font: the page has them once (styles.css, data/engraver). */
function answerOf(id: number, pages: readonly string[]): EngraveAnswer {
  const style = /<style\b[^>]*>([\s\S]*?)<\/style>/gu;
  const fonts = pages.flatMap((page) => [...page.matchAll(style)].map(([, css = '']) => css));
  return {
    id,
    pages: pages.map((page) => page.replace(style, '')),
    fontCss: fonts.find((css) => css.includes('@font-face')) ?? null,
  };
}

const CANNOT = 'This score cannot be engraved; its measures can still be worked with on the ribbon.';

self.addEventListener('message', ({ data }: MessageEvent<EngraveRequest>) => {
  engrave(data)
    .catch((): EngraveAnswer => ({ id: data.id, failure: CANNOT }))
    .then((answer) => self.postMessage(answer))
    .catch(() => undefined);
});
