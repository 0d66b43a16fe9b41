/** A slice of work holds the page up no longer than this. */
const SLICE_MS = 12;

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
  let started = performance.now();
  for (const item of items) {
    if (performance.now() - started > SLICE_MS) {
      await new Promise((done) => setTimeout(done));
      started = performance.now();
    }
    if (!isWanted()) return;
    work(item);
  }
}

/**
 * An engraved picture as an element, without anything that could act.
 * Shape:  an svg element
 * Units:  none
 * Errors: none
 * Source: none
 */
export function pictureOf(svg: string): SVGElement {
  const picture = new DOMParser().parseFromString(svg, 'image/svg+xml').documentElement;
  for (const node of picture.querySelectorAll('script, foreignObject, a')) node.remove();
  for (const node of picture.querySelectorAll('*')) {
    for (const { name } of [...node.attributes]) if (name.startsWith('on')) node.removeAttribute(name);
  }
  picture.setAttribute('class', 'picture');
  picture.setAttribute('aria-hidden', 'true');
  return document.importNode(picture, true) as unknown as SVGElement;
}
