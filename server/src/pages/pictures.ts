import { PAGE_LIMITS } from '@vivid-cue/core/page';
import sharp, { type Sharp } from 'sharp';
import { PAGE_SIZES, type PageSize } from '@vivid-cue/contract';
import { Problem } from '../http/problem.js';

/** A page in all the sizes that are kept. Shape: JPEG each. Units: pixels of the whole */
export interface PagePictures {
  readonly width: number;
  readonly height: number;
  readonly files: Readonly<Record<PageSize, Buffer>>;
}

/** How sharp each size is kept. Units: quality of JPEG */
const QUALITY: Readonly<Record<PageSize, number>> = { whole: 90, lines: 82, view: 78 };
/** No page takes so long. Units: seconds (our own) */
const LIMIT_SECONDS = 20;

// One core each: others are served beside it.
sharp.concurrency(1);
sharp.cache(false);

/**
 * A picture made anew: upright, on white, and with nothing of the file that brought it, neither its place nor its camera.
 * Errors: Problem page-refused with a sentence where it is no picture, a broken one, or too large
 */
export async function pagePictures(bytes: Buffer): Promise<PagePictures> {
  refuseOthers(bytes);
  const open = (): Sharp => sharp(bytes, { limitInputPixels: false, failOn: 'truncated', pages: 1 });
  const { width = 0, height = 0 } = await open()
    .metadata()
    .catch(() => ({ width: 0, height: 0 }));
  if (width * height === 0) throw refused(BROKEN);
  if (width * height > PAGE_LIMITS.pixels)
    throw refused(
      `A page has at most 40 megapixels; this one has ${Math.round((width * height) / 1e6)}. Save it smaller, or photograph it again.`,
    );
  const upright = await open()
    .timeout({ seconds: LIMIT_SECONDS })
    .rotate()
    .flatten({ background: '#ffffff' })
    .toColourspace('srgb')
    .jpeg({ quality: QUALITY.whole })
    .toBuffer({ resolveWithObject: true })
    .catch(() => {
      throw refused(BROKEN);
    });
  const smaller = async (size: PageSize): Promise<Buffer> =>
    sharp(upright.data)
      .resize({
        width: PAGE_SIZES[size] ?? 0,
        height: PAGE_SIZES[size] ?? 0,
        fit: 'inside',
        withoutEnlargement: true,
      })
      // A page photographed in the evening is shown as paper.
      .normalise({ lower: 1, upper: 88 })
      .jpeg({ quality: QUALITY[size] })
      .toBuffer();
  return {
    width: upright.info.width,
    height: upright.info.height,
    files: { whole: upright.data, lines: await smaller('lines'), view: await smaller('view') },
  };
}

/** By what it contains, whatever it is called. Source: PNG 1.2, 3.1; JPEG, ITU-T T.81, B.1.1.3; WebP, RFC 9649, 2.4 */
function refuseOthers(bytes: Buffer): void {
  const begins = (text: string, at = 0): boolean => bytes.toString('latin1', at, at + text.length) === text;
  if (begins('\u0089PNG\r\n\u001a\n') || begins('\u00ff\u00d8\u00ff')) return;
  if (begins('RIFF') && begins('WEBP', 8)) return;
  throw refused(
    begins('%PDF-')
      ? 'A PDF is drawn page by page before it is sent; bring it on the page “Bring the music”.'
      : BROKEN,
  );
}

const BROKEN =
  'This is no whole picture of a page. Bring a PNG, JPEG or WebP picture or a PDF, or tell the measures.';

function refused(message: string): Problem {
  return new Problem('page-refused', message, { issues: [{ where: 'file', message }] });
}
