/// <reference lib="webworker" />
import type { EngraveAnswer, EngraveRequest } from '../data/engraver';

interface Toolkit {
  setOptions(options: Readonly<Record<string, unknown>>): void;
  loadData(data: string): boolean;
  getPageCount(): number;
  renderToSVG(page: number): string;
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

/** Scales in percent at which a staff is comfortable to read on a screen, and on a phone. */
const SCALE = 42;
const NARROW_SCALE = 32;
const NARROW_PX = 520;

async function engrave({ id, musicXml, partId, widthPx }: EngraveRequest): Promise<EngraveAnswer> {
  toolkit ??= loadToolkit();
  const engine = await toolkit;
  const scale = widthPx < NARROW_PX ? NARROW_SCALE : SCALE;
  engine.setOptions({
    scale,
    pageWidth: Math.round((widthPx * 100) / scale),
    pageHeight: 60_000,
    adjustPageHeight: true,
    pageMarginLeft: 60,
    pageMarginRight: 20,
    pageMarginTop: 30,
    pageMarginBottom: 30,
    header: 'none',
    footer: 'none',
    breaks: 'auto',
    svgViewBox: true,
    expandNever: true,
    mnumInterval: 0,
  });
  if (!engine.loadData(onlyPart(musicXml, partId)) || engine.getPageCount() < 1) {
    return {
      id,
      failure: 'This score cannot be engraved; its measures can still be worked with on the ribbon.',
    };
  }
  return { id, svg: engine.renderToSVG(1) };
}

self.addEventListener('message', ({ data }: MessageEvent<EngraveRequest>) => {
  engrave(data)
    .catch((): EngraveAnswer => ({
      id: data.id,
      failure: 'This score cannot be engraved; its measures can still be worked with on the ribbon.',
    }))
    .then((answer) => self.postMessage(answer))
    .catch(() => undefined);
});
