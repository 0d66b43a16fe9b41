import { resolve } from 'node:path';
import { readPage, type PageReading } from '@vivid-cue/core/page';
import { CommandError, readArgs } from '../command-error.js';
import { picturesOf } from '../page-pictures.js';

/**
 * `page FILE.png|FILE.pdf [--page N]`: the measures of printed pages.
 * Shape:  JSON text, see docs/formats.md; a page without music has no systems
 * Units:  fractions of the page, degrees
 * Errors: CommandError with a sentence where the file is no page
 * Source: docs/formats.md
 */
export async function pageCommand(args: readonly string[], folder: string): Promise<string> {
  const { positionals, values } = readArgs(args, { page: { type: 'string' } });
  const [path] = positionals;
  if (path === undefined) throw new CommandError('Which page? Name a picture or a PDF.');
  const only = values['page'] === undefined ? null : Number(values['page']);
  if (only !== null && !(Number.isInteger(only) && only > 0))
    throw new CommandError(`--page counts from 1; ${String(values['page'])} came.`);
  const pictures = await picturesOf(resolve(folder, path), only);
  return JSON.stringify({ pages: pictures.map(({ image }) => printed(readPage(image))) }, null, 2);
}

/** A reading with the fields of the format, rounded. */
function printed({ width, height, angleDegrees, systems }: PageReading): object {
  const share = (value: number): number => Math.round(value * 1e5) / 1e5;
  return {
    width,
    height,
    angleDegrees,
    systems: systems.map(({ top, bottom, staves, barlines, measures }) => ({
      top: share(top),
      bottom: share(bottom),
      staves,
      barlines: barlines.map(({ x, kind }) => ({ x: share(x), kind })),
      measures: measures.map(({ left, right, count }) => ({ left: share(left), right: share(right), count })),
    })),
  };
}
