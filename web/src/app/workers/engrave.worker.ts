/// <reference lib="webworker" />
import type {
  EngraveAnswer,
  EngraveRequest,
  EngravedSheetNews,
  EngraveStop,
  EngraveWarmUp,
} from '../data/engraver';

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

/** The engine sets the note of a tempo right after its words: some room goes between. */
function withTempoGap(musicXml: string): string {
  const meeting =
    /(<words\b[^>]*>[^<]*?)\s*(<\/words>\s*<\/direction-type>\s*<direction-type>\s*<metronome\b)/gu;
  return musicXml.replace(meeting, '$1\u00a0\u00a0$2');
}

/** Scales in percent at which a staff is comfortable to read on a screen, and on a phone. */
const SCALE = 42;
const NARROW_SCALE = 32;
const NARROW_PX = 520;

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
  const { id, musicXml, partId, numbers, widthPx, excerpt } = request;
  toolkit ??= loadToolkit();
  const engine = await toolkit;
  engine.setOptions(layoutOf(widthPx, excerpt !== null));
  // A selection made before would hold for the next file too.
  engine.select({});
  const own = withTempoGap(withNumbers(onlyPart(musicXml, partId), numbers));
  if (stopped.has(id)) return;
  if (!engine.loadData(excerpt ? withoutNames(own) : own) || engine.getPageCount() < 1) {
    tell({ id, failure: CANNOT });
    return;
  }
  if (excerpt) {
    engine.select({ measureRange: `${excerpt.fromIndex + 1}-${excerpt.endIndex}` });
    engine.redoLayout();
    tell({ id, isLast: true, ...taken(engine.renderToSVG(1), null) });
    return;
  }
  const known = new Set<string>();
  const count = engine.getPageCount();
  for (let page = 1; page <= count; page += 1) {
    tell({ id, isLast: page === count, ...taken(engine.renderToSVG(page), known) });
    // A message that stops this is heard only between pieces of work.
    await new Promise((done) => setTimeout(done));
    if (stopped.has(id)) return;
  }
}

function tell(answer: EngraveAnswer): void {
  self.postMessage(answer);
}

/**
 * A picture without what the page has once: the rules of each (styles.css), and the signs that another picture brought
 * already. Two elements of one name would make the browser style every picture anew.
 */
function taken(svg: string, known: Set<string> | null): EngravedSheetNews {
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
      measureCount: own.match(/class="measure"/gu)?.length ?? 0,
      width: Number(width),
      height: Number(height),
    },
    glyphs,
  };
}

const CANNOT = 'This score cannot be engraved; its measures can still be worked with on the ribbon.';

/** The engine holds one piece at a time: each request waits for the one before. */
let before = Promise.resolve();

self.addEventListener('message', ({ data }: MessageEvent<EngraveRequest | EngraveStop | EngraveWarmUp>) => {
  if ('isWarmUp' in data) toolkit ??= loadToolkit();
  else if ('stop' in data) stopped.add(data.stop);
  else
    before = before
      .then(() => engrave(data))
      .catch(() => tell({ id: data.id, failure: CANNOT }))
      .then(() => void stopped.delete(data.id));
});
