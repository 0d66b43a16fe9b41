import type { StraightStaff } from './straight.js';
import { beyond, dots, endsBeyond, hung, isAlone, type StaffPlace, type Stroke } from './strokes.js';

/** What a bar line is by its strokes and dots. */
export type BarlineKind = 'single' | 'double' | 'final' | 'repeat-start' | 'repeat-end' | 'repeat-both';

/** What a stroke is weighed against. */
export interface StrokeContext extends StaffPlace {
  /** Ink a row of the thin bar lines of the page. Units: columns of full ink */
  readonly usualMass: number;
}

/** Whether a stroke is a bar line: as thick above as below, and it ends with the staff. Shape: 0 is not, 1 is; between is doubtful */
export function barlineScore(staff: StraightStaff, stroke: Stroke, context: StrokeContext): number {
  const width = (stroke.to - stroke.from + 1) / staff.space;
  // Blur runs the two strokes of a final bar line together.
  if (width > (stroke.uneven < 0.06 || (stroke.fill > 0.9 && hung(stroke) < 0.1) ? 1.7 : 1.1)) return 0;
  if (closesStaff(staff, stroke)) return 0.4 + 0.5 * ramp(stroke.fill, 0.6, 0.9);
  const outward = beyond(stroke, context);
  return (
    dark(stroke, context) *
    Math.max(1 - ramp(outward, 0.12, 0.5), isUnderSign(stroke, context) ? 0.66 : 0) *
    Math.max(steady(stroke), tied(stroke, context), untouched(stroke, context))
  );
}

/** Whether what stands beyond an even stroke, on one side, is no part of it: a breath mark stands over its bar line. */
function isUnderSign(stroke: Stroke, context: StrokeContext): boolean {
  const isOneSided = Math.min(...endsBeyond(stroke, context)) === 0;
  return isOneSided && stroke.alike < 0.7 && stroke.uneven < 0.07 && stroke.head < 0.4;
}

/** Whether a stroke is dark and thick enough: on which nothing hangs may be paler, and no stem is as even as a bar line. */
function dark(stroke: Stroke, context: StrokeContext): number {
  const mass = stroke.mass / context.usualMass;
  if (isAlone(stroke, context)) return ramp(stroke.fill, 0.32, 0.44) * ramp(mass, 0.28, 0.5);
  const isEven = stroke.uneven < 0.04 && beyond(stroke, context) === 0 && stroke.outside < 0.4;
  return ramp(stroke.fill, 0.42, 0.6) * (isEven ? ramp(mass, 0.36, 0.5) : ramp(mass, 0.45, 0.7));
}

/** Whatever stands close to a bar line, its rows have the same ink; a head, a beam or a flag that hangs on a stem adds to some. */
function steady(stroke: Stroke): number {
  // The blur of what stands beside its whole height adds to its ink as well.
  const isBeside = hung(stroke) > 0.25;
  const [low, high] = isBeside ? [0.1, 0.17] : stroke.isHungAtHead ? [0.02, 0.05] : [0.07, 0.13];
  const even = 1 - ramp(stroke.uneven, low, high);
  return even * headless(stroke) * (1 - 0.3 * ramp(hung(stroke), 0.1, 0.3));
}

/** A tie goes through a bar line: it touches on both sides, over little of its height. */
function tied(stroke: Stroke, { usualMass }: StrokeContext): number {
  const least = Math.min(stroke.attachedLeft, stroke.attachedRight);
  return (
    (2 / 3) *
    ramp(least, 0.03, 0.06) *
    (1 - ramp(hung(stroke), 0.26, 0.34)) *
    ramp(stroke.fill, 0.9, 0.97) *
    ramp(stroke.mass / usualMass, 0.85, 0.95) *
    (1 - ramp(stroke.uneven, 0.25, 0.3)) *
    (1 - ramp(stroke.outside, 0.2, 0.4)) *
    (1 - ramp(stroke.head, 0.8, 0.9))
  );
}

/** A poor print has uneven bar lines too; nothing hangs on them, and figures and signs are thicker. */
function untouched(stroke: Stroke, { usualMass }: StrokeContext): number {
  if (stroke.mass > 1.25 * usualMass) return 0;
  return (1 - ramp(stroke.uneven, 0.16, 0.26)) * (1 - ramp(hung(stroke), 0.05, 0.1)) * headless(stroke);
}

function headless({ head, uneven }: Stroke): number {
  return Math.max(1 - ramp(head, 0.56, 0.74), 1 - ramp(uneven, 0.04, 0.08));
}

/** A staff ends with a bar line: so near its end, a stroke on whose right nothing is, is that one. Units: spaces */
const END = 0.8;

function closesStaff(staff: StraightStaff, { to, fill, attachedRight }: Stroke): boolean {
  return staff.width - to < END * staff.space && fill > 0.6 && attachedRight < 0.1;
}

function ramp(value: number, low: number, high: number): number {
  return Math.max(0, Math.min(1, (value - low) / (high - low)));
}

/** A bar line of a staff. Units: columns of the straightened staff */
export interface StaffBarline {
  readonly from: number;
  readonly to: number;
  readonly kind: BarlineKind;
  readonly score: number;
}

/** Strokes that stand within so much of one another are one bar line. Units: spaces */
const CLOSE = 1.05;
/** A stroke this wide is thick, and has so much more ink than the thin ones of its page. Units: spaces; times */
const THICK = 0.33;
const THICK_MASS = 1.9;
/** Two thin strokes that run together are so wide, and have less ink than a thin and a thick one. Units: spaces; times */
const DOUBLE = 0.7;
const DOUBLE_MASS = 2.8;

/** Joins strokes that stand together, and tells by thickness, number and dots what they are. */
export function joinedBarlines(
  staff: StraightStaff,
  strokes: readonly { readonly stroke: Stroke; readonly score: number }[],
  usualMass: number,
): StaffBarline[] {
  const groups: { stroke: Stroke; score: number }[][] = [];
  for (const one of strokes) {
    const last = groups.at(-1)?.at(-1);
    if (last && one.stroke.from - last.stroke.to < CLOSE * staff.space) groups.at(-1)?.push(one);
    else groups.push([one]);
  }
  return groups.map((group) => {
    const [first, last] = [group[0]?.stroke, group.at(-1)?.stroke];
    const [from, to] = [first?.from ?? 0, last?.to ?? 0];
    const before = dots(staff, from, -1);
    const after = dots(staff, to, 1);
    return {
      from,
      to,
      kind: kindOf(staff, group, { before, after, usualMass }),
      score: Math.max(...group.map(({ score }) => score)),
    };
  });
}

function kindOf(
  staff: StraightStaff,
  group: readonly { readonly stroke: Stroke }[],
  {
    before,
    after,
    usualMass,
  }: { readonly before: boolean; readonly after: boolean; readonly usualMass: number },
): BarlineKind {
  const widthOf = ({ from, to }: Stroke): number => (to - from + 1) / staff.space;
  const thick = group.filter(({ stroke }) => widthOf(stroke) > THICK && stroke.mass > THICK_MASS * usualMass);
  const [lone] = group.length === 1 ? thick : [];
  const isRunTogether =
    lone !== undefined && widthOf(lone.stroke) > DOUBLE && lone.stroke.mass < DOUBLE_MASS * usualMass;
  if (before && after) return 'repeat-both';
  if (before && (thick.length > 0 || group.length > 1)) return 'repeat-end';
  if (after && (thick.length > 0 || group.length > 1)) return 'repeat-start';
  if (isRunTogether) return 'double';
  if (thick.length > 0) return 'final';
  return group.length > 1 ? 'double' : 'single';
}
