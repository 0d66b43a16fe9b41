import createVerovioModule from 'verovio/wasm';
import { VerovioToolkit } from 'verovio/esm';

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
