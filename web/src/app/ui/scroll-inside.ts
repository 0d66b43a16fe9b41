/** So much is seen beyond the node. */
const MARGIN_PX = 20;

/**
 * Scrolls a box just so far that a node in it can be seen; the page itself stays where it is.
 * Shape:  does nothing where the box does not scroll
 */
export function scrollInside(box: Element | null, node: Element | undefined): void {
  if (!box || !node || box.scrollHeight <= box.clientHeight + 1) return;
  const [outer, inner] = [box.getBoundingClientRect(), node.getBoundingClientRect()];
  if (inner.top < outer.top) box.scrollTop -= outer.top - inner.top + MARGIN_PX;
  else if (inner.bottom > outer.bottom - MARGIN_PX)
    box.scrollTop += Math.min(inner.bottom - outer.bottom + MARGIN_PX, inner.top - outer.top);
}
