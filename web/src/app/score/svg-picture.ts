/** A slice of work holds the page up no longer than this. */
const SLICE_MS = 6;

/**
 * Does a piece of work item by item and lets the page breathe between slices.
 * Shape:  in order; stops quietly when `isWanted` says so
 * Units:  none
 * Errors: those of the work
 * Source: none
 */
export async function inSlices<T>(
  items: readonly T[],
  work: (item: T) => void,
  isWanted: () => boolean,
): Promise<void> {
  // Not within the work that asked for it: that has a frame of its own.
  await nextFrame();
  let started = performance.now();
  for (const item of items) {
    if (performance.now() - started > SLICE_MS) {
      await nextFrame();
      started = performance.now();
    }
    if (!isWanted()) return;
    work(item);
  }
}

/** The time after the next picture of the page was drawn; a page in the background draws none, so time alone goes on too. */
export function nextFrame(): Promise<void> {
  return new Promise((done) => {
    const late = setTimeout(done, 100);
    requestAnimationFrame(() => {
      clearTimeout(late);
      setTimeout(done);
    });
  });
}

const SVG = 'http://www.w3.org/2000/svg';

/**
 * An engraved picture as an element, without anything that could act.
 * Shape:  an svg element
 * Units:  none
 * Errors: none
 * Source: none
 */
export function pictureOf(svg: string): SVGElement {
  const picture = elementOf(svg);
  picture.setAttribute('class', 'picture');
  picture.setAttribute('aria-hidden', 'true');
  return picture;
}

/** A place without size for signs that pictures use. */
export function signBox(): SVGElement {
  const box = document.createElementNS(SVG, 'svg');
  box.setAttribute('class', 'signs');
  box.setAttribute('aria-hidden', 'true');
  return box;
}

/** The signs in a text of SVG elements, without anything that could act. */
export function signsOf(glyphs: string): Element[] {
  return [...elementOf(`<svg xmlns="${SVG}">${glyphs}</svg>`).children];
}

function elementOf(svg: string): SVGElement {
  const picture = new DOMParser().parseFromString(svg, 'image/svg+xml').documentElement;
  for (const node of picture.querySelectorAll('script, foreignObject, a')) node.remove();
  // Walking every attribute is slow: only a text that could hold a handler is walked.
  const attributes = /[\s"'/]on\w+\s*=/iu.test(svg) ? picture.querySelectorAll('*') : [];
  for (const node of attributes)
    for (const { name } of [...node.attributes]) if (/^on/iu.test(name)) node.removeAttribute(name);
  return document.adoptNode(picture) as unknown as SVGElement;
}
