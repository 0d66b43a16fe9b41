/** A slice of work holds the page up no longer than this. */
const SLICE_MS = 12;

/**
 * Does a piece of work item by item and lets the page breathe between slices.
 * Shape:  in order, at most so many in a slice; stops quietly when `isWanted` says so
 * Units:  none
 * Errors: those of the work
 * Source: none
 */
export async function inSlices<T>(
  items: readonly T[],
  work: (item: T) => void,
  isWanted: () => boolean,
  most = Infinity,
): Promise<void> {
  // Not within the work that asked for it: that has a frame of its own.
  await nextFrame();
  let started = performance.now();
  let count = 0;
  for (const item of items) {
    count += 1;
    if (performance.now() - started > SLICE_MS || count > most) {
      count = 1;
      await nextFrame();
      started = performance.now();
    }
    if (!isWanted()) return;
    work(item);
  }
}

/** The time after the next picture of the page was drawn; a page in the background draws none, so time alone goes on too. */
function nextFrame(): Promise<void> {
  return new Promise((done) => {
    const late = setTimeout(done, 100);
    requestAnimationFrame(() => {
      clearTimeout(late);
      setTimeout(done);
    });
  });
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
  // Walking every attribute is slow: only a text that could hold a handler is walked.
  const attributes = /[\s"'/]on\w+\s*=/iu.test(svg) ? picture.querySelectorAll('*') : [];
  for (const node of attributes)
    for (const { name } of [...node.attributes]) if (/^on/iu.test(name)) node.removeAttribute(name);
  picture.setAttribute('class', 'picture');
  picture.setAttribute('aria-hidden', 'true');
  return document.adoptNode(picture) as unknown as SVGElement;
}
