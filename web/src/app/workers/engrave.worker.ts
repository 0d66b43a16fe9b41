/// <reference lib="webworker" />
import type {
  EngraveAnswer,
  EngraveRequest,
  EngravedSheetNews,
  EngraveStop,
  EngraveWarmUp,
} from '../data/engraver';
import { firstMeasures, onlyPart, withNumbers, withoutNames, withTempoGap } from './part-text';
import { WARM_STUDY } from './warm-study';

interface Toolkit {
  setOptions(options: Readonly<Record<string, unknown>>): void;
  loadData(data: string): boolean;
  getPageCount(): number;
  renderToSVG(page: number): string;
  select(selection: Readonly<Record<string, string>>): boolean;
  redoLayout(): void;
}

interface Wrapper {
  readonly VerovioToolkit: new (module: unknown) => Toolkit;
  readonly enableLog: (level: number, module: unknown) => void;
  readonly LOG_OFF: number;
}

let toolkit: Promise<Toolkit> | null = null;

/** The engine stands beside the application as it came from its package: bundling its seven megabytes would cost a minute a build. */
async function loadToolkit(): Promise<Toolkit> {
  const [engine, wrapper] = (await Promise.all([
    import(/* @vite-ignore */ assetUrl('verovio-module.mjs')),
    import(/* @vite-ignore */ assetUrl('verovio.mjs')),
  ])) as [{ default: () => Promise<unknown> }, Wrapper];
  const module = await engine.default();
  // The engine would tell the console of every tight system; what matters comes back as an answer.
  wrapper.enableLog(wrapper.LOG_OFF, module);
  return new wrapper.VerovioToolkit(module);
}

function assetUrl(name: string): string {
  return new URL(`/verovio/${name}`, self.location.origin).href;
}

/** Scales in percent at which a staff is comfortable to read on a screen, and on a phone. */
const SCALE = 42;
const NARROW_SCALE = 32;
const NARROW_PX = 520;
const WARM_PX = 800;

/** Height of a page in pixels, low enough for one line of music each: drawn one by one they never hold the page up. */
const PAGE_PX = 120;

/** The requests nobody waits for any more. */
const stopped = new Set<number>();

/** How a file is set: line by line for a page, all in one line for an excerpt. Units: pixels in, tenths out. */
function layoutOf(widthPx: number, isExcerpt: boolean): Readonly<Record<string, unknown>> {
  const scale = widthPx > 0 && widthPx < NARROW_PX ? NARROW_SCALE : SCALE;
  return {
    scale,
    pageWidth: isExcerpt ? 30_000 : Math.round((widthPx * 100) / scale),
    pageHeight: isExcerpt ? 60_000 : Math.round((PAGE_PX * 100) / scale),
    adjustPageHeight: true,
    adjustPageWidth: isExcerpt,
    pageMarginLeft: isExcerpt ? 20 : 60,
    pageMarginRight: 20,
    pageMarginTop: 30,
    pageMarginBottom: 30,
    header: 'none',
    footer: 'none',
    breaks: isExcerpt ? 'none' : 'auto',
    svgViewBox: true,
    expandNever: true,
    // The page has it from its own style sheet.
    smuflTextFont: 'none',
    mnumInterval: isExcerpt ? 1 : 0,
  };
}

async function engrave(request: EngraveRequest): Promise<void> {
  const { id, musicXml, partId, numbers, widthPx, excerpt, shown } = request;
  toolkit ??= loadToolkit();
  const engine = await toolkit;
  engine.setOptions(layoutOf(widthPx, excerpt !== null));
  // A selection made before would hold for the next file too.
  engine.select({});
  const own = withTempoGap(withNumbers(onlyPart(musicXml, partId), numbers));
  if (stopped.has(id)) return;
  if (!excerpt && shown === null && (await engraveBeginning(engine, id, own))) return;
  if (!engine.loadData(excerpt ? withoutNames(own) : own) || engine.getPageCount() < 1) {
    tell({ id, failure: CANNOT });
    return;
  }
  if (excerpt) {
    engine.select({ measureRange: `${excerpt.fromIndex + 1}-${excerpt.endIndex}` });
    engine.redoLayout();
    tell({ ...taken(engine.renderToSVG(1), null), id, isFirst: true, isLast: true, isWhole: true });
    return;
  }
  const svgOf = (page: number): string => engine.renderToSVG(page + 1);
  const lines = shown ?? [];
  const isAsShown = lines.every((measures, n) => measures === measuresIn(svgOf(n)));
  const from = isAsShown ? lines.length : 0;
  await tellPages(id, svgOf, { from, end: engine.getPageCount(), isWhole: true });
}

/** A piece longer than this shows its first lines before the whole is laid out. Units: measures */
const LONG_PIECE = 120;
/** So much of it is laid out for them; nothing that is drawn over several measures reaches over the last of these. */
const BEGINNING = 40;
const REACH = 16;

/** Tells the first lines of a long piece; says whether it did. */
async function engraveBeginning(engine: Toolkit, id: number, own: string): Promise<boolean> {
  const beginning = firstMeasures(own, LONG_PIECE) && firstMeasures(own, BEGINNING);
  if (!beginning || !engine.loadData(beginning)) return false;
  const lines: string[] = [];
  let measures = 0;
  while (lines.length < engine.getPageCount()) {
    const svg = engine.renderToSVG(lines.length + 1);
    measures += measuresIn(svg);
    if (measures > BEGINNING - REACH) break;
    lines.push(svg);
  }
  const svgOf = (page: number): string => lines[page] ?? '';
  if (lines.length > 0) await tellPages(id, svgOf, { from: 0, end: lines.length, isWhole: false });
  return lines.length > 0;
}

/** Tells of pages one by one; half-open from `from`, counted from 0. */
async function tellPages(
  id: number,
  svgOf: (page: number) => string,
  { from, end, isWhole }: { readonly from: number; readonly end: number; readonly isWhole: boolean },
): Promise<void> {
  const known = new Set<string>();
  for (let page = from; page < end; page += 1) {
    tell({
      ...taken(svgOf(page), known),
      id,
      isFirst: page === 0,
      isLast: page === end - 1,
      isWhole,
    });
    // A message that stops this is heard only between pieces of work.
    await new Promise((done) => setTimeout(done));
    if (stopped.has(id)) return;
  }
}

function measuresIn(svg: string): number {
  return svg.match(/class="measure"/gu)?.length ?? 0;
}

function tell(answer: EngraveAnswer): void {
  self.postMessage(answer);
}

/**
 * A picture without what the page has once: the rules of each (styles.css), and the signs that another picture brought
 * already. Two elements of one name would make the browser style every picture anew.
 */
function taken(svg: string, known: Set<string> | null): Omit<EngravedSheetNews, 'isFirst'> {
  let glyphs = '';
  let own = svg.replace(/<style\b[^>]*>[\s\S]*?<\/style>/gu, '');
  if (known)
    own = own.replace(/<defs>([\s\S]*?)<\/defs>/gu, (_whole, signs: string) => {
      glyphs += signs.replace(/<g id="([^"]*)">[\s\S]*?<\/g>\s*/gu, (sign, name: string) => {
        if (known.has(name)) return '';
        known.add(name);
        return sign;
      });
      return '';
    });
  const [, width = '1', height = '1'] = /viewBox="0 0 ([\d.]+) ([\d.]+)"/u.exec(svg) ?? [];
  return {
    sheet: {
      svg: own,
      measureCount: measuresIn(own),
      width: Number(width),
      height: Number(height),
    },
    glyphs,
  };
}

const CANNOT = 'This score cannot be engraved; its measures can still be worked with on the ribbon.';

/** Engraves a little of everything, for nobody: what the engine does for the first time it does slowly. */
async function warm(): Promise<void> {
  toolkit ??= loadToolkit();
  const engine = await toolkit;
  engine.setOptions(layoutOf(WARM_PX, false));
  if (engine.loadData(WARM_STUDY)) engine.renderToSVG(1);
}

/** The engine holds one piece at a time: each request waits for the one before. */
let before = Promise.resolve();

self.addEventListener('message', ({ data }: MessageEvent<EngraveRequest | EngraveStop | EngraveWarmUp>) => {
  if ('isWarmUp' in data) before = before.then(warm).catch(() => undefined);
  else if ('stop' in data) stopped.add(data.stop);
  else
    before = before
      .then(() => engrave(data))
      .catch(() => tell({ id: data.id, failure: CANNOT }))
      .then(() => void stopped.delete(data.id));
});
