import type { InkImage } from './light.js';
import type { Staff } from './staves.js';

/** Rows of a straightened staff between two of its lines. */
export const ROWS = 12;
/** Spaces above the top line and below the bottom line that are looked at. */
export const MARGIN = 3;

/**
 * A staff straightened along its lines.
 * Shape:  `ink` row after row; row 0 lies MARGIN spaces above the top line; a column for each pixel of the staff
 */
export interface StraightStaff {
  readonly width: number;
  readonly height: number;
  readonly ink: Float32Array;
  /** Where a column's middle lies on the page. */
  readonly staff: Staff;
  /** Widths of things in the picture, in pixels a space. */
  readonly space: number;
  /** Heights of things in the picture, in pixels a row. */
  readonly rowPx: number;
}

/** The row of a place in spaces below the top line. */
export function rowAt(spaces: number): number {
  return (MARGIN + spaces) * ROWS;
}

/**
 * Straightens a staff: the lines lie level. A bent page bends its lines, but not its upright strokes: these lean as the
 * page is turned and as far as the camera stood at an angle.
 * Shape:  `lean` is by how much upright things lean, by column
 * Units:  pixels to the right for each pixel down
 */
export function straightened(
  image: InkImage,
  staff: Staff,
  lean: (column: number) => number = () => 0,
): StraightStaff {
  const width = staff.right - staff.left;
  const height = (4 + 2 * MARGIN) * ROWS + 1;
  const ink = new Float32Array(width * height);
  for (let x = 0; x < width; x += 1) {
    const [y, space, own] = [staff.middle[x] as number, staff.space[x] as number, lean(x)];
    for (let row = 0; row < height; row += 1) {
      const below = (row / ROWS - MARGIN - 2) * space;
      ink[row * width + x] = inkAt(image, staff.left + x + own * below, y + below);
    }
  }
  const mean = staff.space.reduce((sum, one) => sum + one, 0) / Math.max(1, width);
  // The lines of a staff of one line are taken half a space apart, so that its bar lines are as high as the others.
  return { width, height, ink, staff, space: mean * (staff.lines === 1 ? 2 : 1), rowPx: mean / ROWS };
}

function inkAt({ width, height, ink }: InkImage, x: number, y: number): number {
  if (x < 0 || y < 0 || x >= width - 1 || y >= height - 1) return 0;
  const [x0, y0] = [Math.floor(x), Math.floor(y)];
  const [fx, fy] = [x - x0, y - y0];
  const at = y0 * width + x0;
  return (
    ((ink[at] as number) * (1 - fx) + (ink[at + 1] as number) * fx) * (1 - fy) +
    ((ink[at + width] as number) * (1 - fx) + (ink[at + width + 1] as number) * fx) * fy
  );
}

/** Rows between two places, in spaces below the top line. */
export function rowsOf(top: number, bottom: number): number[] {
  const rows: number[] = [];
  for (let row = Math.ceil(rowAt(top)); row <= Math.floor(rowAt(bottom)); row += 1) rows.push(row);
  return rows;
}

/** Rows between the lines of a staff, away from the lines themselves. */
export const GAP_ROWS: readonly (readonly number[])[] = [0, 1, 2, 3].map((gap) =>
  rowsOf(gap + 0.22, gap + 0.78),
);
