import type { InkImage } from './light.js';
import { middleOf, type Staff } from './staves.js';

/** A staff, and where upright strokes go on below it. Units: pixels */
export interface StaffWithStrokes {
  readonly straight: { readonly staff: Staff };
  readonly runsOnAt: readonly number[];
}

/** So many bar lines that go on to the staff below join two staves. */
const JOINING = 2;

/**
 * Staves that are played together: an upright line at their left joins them, or bar lines that run through.
 * Shape:  systems from top to bottom
 */
export function groupedStaves<T extends StaffWithStrokes>(image: InkImage, staves: readonly T[]): T[][] {
  const systems: T[][] = [];
  for (const own of staves) {
    const above = systems.at(-1)?.at(-1);
    if (above && areJoined(image, above, own.straight.staff)) systems.at(-1)?.push(own);
    else systems.push([own]);
  }
  return systems;
}

/** Staves further apart are never one system. Units: spaces between their middle lines */
const FURTHEST = 18;

/** The line leans as the page does. Units: pixels to the right for each pixel down */
const LEANS = [0, 0.02, -0.02, 0.05, -0.05, 0.08, -0.08];

function areJoined(image: InkImage, { straight, runsOnAt }: StaffWithStrokes, below: Staff): boolean {
  const above = straight.staff;
  const space = above.space[0] ?? 1;
  if (middleOf(below) - middleOf(above) > FURTHEST * space || Math.abs(above.left - below.left) > 3 * space)
    return false;
  if (hasLine(image, { above, below, x: above.left, reach: 2 })) return true;
  return runsOnAt.filter((x) => hasLine(image, { above, below, x, reach: 0.3 })).length >= JOINING;
}

/** Whether an upright line stands between two staves. Shape: within `reach` of `x`. Units: pixels; `reach` in spaces */
function hasLine(
  { width, ink }: InkImage,
  place: { readonly above: Staff; readonly below: Staff; readonly x: number; readonly reach: number },
): boolean {
  const { above, below, x: middle, reach } = place;
  const space = above.space[0] ?? 1;
  const top = middleAt(above, middle) + 2 * space;
  const bottom = middleAt(below, middle) - 2 * space;
  for (const lean of LEANS)
    for (let off = -reach; off <= reach; off += 0.08) {
      let [dark, all] = [0, 0];
      for (let y = top; y <= bottom; y += 1) {
        const x = Math.round(middle + off * space + lean * (y - top));
        all += 1;
        if (x >= 0 && x < width && (ink[Math.round(y) * width + x] as number) > 0.4) dark += 1;
      }
      if (all > 0 && dark / all > 0.85) return true;
    }
  return false;
}

function middleAt({ left, middle }: Staff, x: number): number {
  return middle[Math.min(middle.length - 1, Math.max(0, Math.round(x) - left))] ?? 0;
}
