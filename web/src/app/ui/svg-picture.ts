const SVG = 'http://www.w3.org/2000/svg';

/**
 * An engraved picture as an element, without anything that could act.
 * Shape:  an svg element
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
