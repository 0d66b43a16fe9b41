import type { EngravedPicture } from '../report/drill-sheet';

/** A page has room for so much. Units: points */
export const PAGE_WIDTH = 511;
/** Units of an engraving on one point of paper: music is then as large as in a printed part (our own). */
export const UNITS_A_POINT = 1.35;
/** Drawn so much finer than a screen, lines stay sharp on paper. */
const FINER = 3;

/**
 * An engraved line as a picture for paper.
 * Errors: rejects where the browser cannot draw it
 */
export async function rasterOf(svg: SVGElement): Promise<EngravedPicture> {
  const [, , boxWidth = 1, boxHeight = 1] = (svg.getAttribute('viewBox') ?? '').split(' ').map(Number);
  const width = Math.min(PAGE_WIDTH, boxWidth / UNITS_A_POINT);
  const copy = svg.cloneNode(true) as SVGElement;
  // Paper is white whatever the room is like.
  copy.setAttribute('style', 'color: #000; background: #fff');
  copy.setAttribute('width', String(width * FINER));
  copy.setAttribute('height', String((width * FINER * boxHeight) / boxWidth));
  // A picture of its own has none of the page's styles; the tempo stands above it, and its note has a font of the page.
  for (const tempo of copy.querySelectorAll('g.tempo')) tempo.remove();
  const style = document.createElementNS('http://www.w3.org/2000/svg', 'style');
  style.textContent = 'path, polyline, rect, ellipse { stroke: #000 } g { font-family: Tinos, serif }';
  copy.prepend(style);
  const url = URL.createObjectURL(
    new Blob([new XMLSerializer().serializeToString(copy)], { type: 'image/svg+xml' }),
  );
  try {
    const image = await pictureAt(url);
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [image.width, image.height];
    const context = canvas.getContext('2d');
    if (!context) throw new Error('This browser draws no pictures; save it as MusicXML instead.');
    context.fillStyle = '#fff';
    context.fillRect(0, 0, canvas.width, canvas.height);
    context.drawImage(image, 0, 0);
    return { image: canvas.toDataURL('image/png'), width };
  } finally {
    URL.revokeObjectURL(url);
  }
}

/** A picture, ready to be drawn. Errors: rejects where it cannot be read */
export async function pictureAt(url: string): Promise<HTMLImageElement> {
  const image = new Image();
  image.src = url;
  await image.decode();
  return image;
}
