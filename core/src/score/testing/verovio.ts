import createVerovioModule from 'verovio/wasm';
import { enableLog, enableLogToBuffer, LOG_WARNING, VerovioToolkit } from 'verovio/esm';

/** One entry of the reference engine's timemap. Units: milliseconds, quarter notes. */
export interface TimemapEntry {
  readonly tstamp: number;
  readonly qstamp: number;
  readonly on?: readonly string[];
  readonly measureOn?: string;
}

/** Loads the reference engine once; `timemap` then plays a file with or without its repeats. */
export async function referenceEngine(): Promise<
  (musicXml: string, repeats: boolean) => readonly TimemapEntry[]
> {
  const toolkit = new VerovioToolkit(await createVerovioModule());
  return (musicXml, repeats) => {
    toolkit.resetOptions();
    toolkit.setOptions(repeats ? { expandAlways: true } : { expandNever: true });
    toolkit.loadData(musicXml);
    return toolkit.renderToTimemap({
      includeMeasures: true,
      includeRests: true,
    }) as unknown as TimemapEntry[];
  };
}

/**
 * The notes that the engraving engine draws, as letters, measure by measure.
 * Shape:  a function from MusicXML text to one text of letters a measure, "x" for unpitched notes
 * Source: Verovio, renderToSVG: the order of `g.note` in `g.measure`; letters by its getMEI of the same identifiers
 */
export async function drawnNotes(): Promise<(musicXml: string) => string[]> {
  const toolkit = new VerovioToolkit(await createVerovioModule());
  toolkit.setOptions({ breaks: 'none', expandNever: true });
  return (musicXml) => {
    toolkit.loadData(musicXml);
    const svg = toolkit.renderToSVG(1);
    const letters = new Map(
      [...toolkit.getMEI().matchAll(/<note\b([^>]*)>/gu)].map(([, inside = '']) => [
        /xml:id="([^"]+)"/u.exec(inside)?.[1] ?? '',
        /\bpname="(\w)"/u.exec(inside)?.[1]?.toUpperCase() ?? 'x',
      ]),
    );
    return svg
      .split(/class="measure"/u)
      .slice(1)
      .map((part) =>
        [...part.matchAll(/<g id="([^"]+)" class="note"/gu)]
          .map(([, id = '']) => letters.get(id) ?? '?')
          .join(''),
      );
  };
}

/**
 * What the engraving engine has to say against a file.
 * Shape:  a function from MusicXML text to its warnings and errors, "" for a file that it takes as it is
 */
export async function engineWarnings(): Promise<(musicXml: string) => string> {
  const module = await createVerovioModule();
  enableLog(LOG_WARNING, module);
  enableLogToBuffer(true, module);
  const toolkit = new VerovioToolkit(module);
  return (musicXml) => {
    // Each call begins a log of its own.
    toolkit.loadData(musicXml);
    const loading = toolkit.getLog();
    toolkit.renderToSVG(1);
    return loading + toolkit.getLog();
  };
}

/** How many breath marks and fingerings the engraving engine draws. */
export async function drawnSigns(): Promise<
  (musicXml: string) => { readonly breath: number; readonly fing: number }
> {
  const toolkit = new VerovioToolkit(await createVerovioModule());
  return (musicXml) => {
    toolkit.loadData(musicXml);
    const svg = toolkit.renderToSVG(1);
    const count = (name: string): number => svg.split(`class="${name}"`).length - 1;
    return { breath: count('breath'), fing: count('fing') };
  };
}
