import type { InkImage } from './light.js';
import { middleOf, type Staff } from './staves.js';

/** Staves that are played together: an upright line at their left joins them. Shape: systems from top to bottom */
export function groupedStaves(image: InkImage, staves: readonly Staff[]): Staff[][] {
  const systems: Staff[][] = [];
  for (const staff of staves) {
    const above = systems.at(-1)?.at(-1);
    if (above && areJoined(image, above, staff)) systems.at(-1)?.push(staff);
    else systems.push([staff]);
  }
  return systems;
}

/** Staves further apart are never one system. Units: spaces between their middle lines */
const FURTHEST = 18;

/** The line leans as the page does. Units: pixels to the right for each pixel down */
const LEANS = [0, 0.02, -0.02, 0.05, -0.05, 0.08, -0.08];

function areJoined({ width, ink }: InkImage, above: Staff, below: Staff): boolean {
  const space = above.space[0] ?? 1;
  if (middleOf(below) - middleOf(above) > FURTHEST * space || Math.abs(above.left - below.left) > 3 * space)
    return false;
  const top = (above.middle[0] ?? 0) + 2 * space;
  const bottom = (below.middle[0] ?? 0) - 2 * space;
  for (const lean of LEANS)
    for (let off = -2; off <= 2; off += 0.08) {
      let [dark, all] = [0, 0];
      for (let y = top; y <= bottom; y += 1) {
        const x = Math.round(above.left + off * space + lean * (y - top));
        all += 1;
        if (x >= 0 && x < width && (ink[Math.round(y) * width + x] as number) > 0.4) dark += 1;
      }
      if (all > 0 && dark / all > 0.85) return true;
    }
  return false;
}
