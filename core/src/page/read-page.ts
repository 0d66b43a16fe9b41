import {
  barlineScore,
  findStrokes,
  hasStem,
  isAlone,
  joinedBarlines,
  leanOfPage,
  type BarlineKind,
  type StaffBarline,
  type Stroke,
  type StrokeContext,
} from './barlines.js';
import { scaledTo, type GrayImage } from './image.js';
import { evenLight, type InkImage } from './light.js';
import { findStaves, type Staff } from './staves.js';
import { findSingleLines } from './single-lines.js';
import { straightened, type StraightStaff } from './straight.js';
import { staffSpace, stripsOf, thinFor } from './strips.js';
import { groupedStaves } from './systems.js';

/** A bar line on a page. Shape: `isDoubtful` where it may be none. Units: fractions of the page's width */
export interface PageBarline {
  readonly x: number;
  readonly kind: BarlineKind;
  readonly isDoubtful: boolean;
}

/** A measure as a box between bar lines. Shape: `count` measures of rest share a box. Units: fractions of the page */
export interface PageMeasure {
  readonly left: number;
  readonly right: number;
  readonly count: number;
}

/** A line of music. Units: fractions of the page */
export interface PageSystem {
  readonly top: number;
  readonly bottom: number;
  readonly left: number;
  readonly right: number;
  readonly staves: number;
  readonly barlines: readonly PageBarline[];
  readonly measures: readonly PageMeasure[];
}

/** What was found on a page. Shape: systems from top to bottom; none where the page shows no music */
export interface PageReading {
  readonly width: number;
  readonly height: number;
  readonly angleDegrees: number;
  readonly systems: readonly PageSystem[];
}

/** A page of single lines may show so many staves of five where beams and stems cross. */
const MOST_FALSE = 4;
/** The space of a staff on most pages. Units: pixels of the picture that is read */
const USUAL_SPACE = 13;

/** The longer side of a picture as it is read. Units: pixels */
export const READ_LONG_SIDE = 2400;

/**
 * Finds the measures of a page of printed music.
 * Shape:  see PageReading
 * Units:  fractions of the page; degrees, clockwise
 * Errors: none: a page without staves has no systems
 * Source: our own; docs/references.md tells how well it finds them
 */
export function readPage(page: GrayImage): PageReading {
  const lit = evenLight(scaledTo(page, READ_LONG_SIDE));
  const strips = stripsOf(lit);
  const space = staffSpace(strips);
  const five = space === null ? { image: lit, staves: [] } : findStaves(lit, thinFor(strips, space), space);
  const single =
    five.staves.length > MOST_FALSE ? null : findSingleLines(lit, thinFor(strips, USUAL_SPACE), five.staves);
  const { image, staves } = single && single.staves.length > 2 * five.staves.length ? single : five;
  const lean = leanOfPage(staves.map((staff) => straightened(image, staff)));
  const groups = groupedStaves(image, staves).map((group) =>
    group.map((staff) => strokesOf(image, staff, lean)),
  );
  const usualMass = massOfThin(groups.flat());
  const systems = groups.map((group) => readSystem(image, group, usualMass));
  return {
    width: page.width,
    height: page.height,
    angleDegrees: angleOf(staves),
    systems: systems.filter(({ measures }) => measures.length > 0),
  };
}

function angleOf(staves: readonly Staff[]): number {
  const slopes = staves
    .map(({ middle }) => ((middle.at(-1) ?? 0) - (middle[0] ?? 0)) / Math.max(1, middle.length))
    .sort((a, b) => a - b);
  return Math.round(((Math.atan(slopes[slopes.length >> 1] ?? 0) * 180) / Math.PI) * 100) / 100;
}

/** Bar lines of a score this sure are shown as found; those below as doubtful. */
const SURE = 0.72;
const LEAST = 0.4;
/** Clefs stand before this. Units: spaces */
const CLEF_SPACES = 3;

function readSystem(image: InkImage, group: readonly ReadStaff[], usualMass: number): PageSystem {
  const staves = group.map(({ straight }) => straight.staff);
  const own = group.map((staff, n) =>
    barlinesOfStaff(staff, { isOpenAbove: n > 0, isOpenBelow: n < group.length - 1, usualMass }),
  );
  const [top, ...others] = own as [StaffBarline[], ...StaffBarline[][]];
  const first = staves[0] as Staff;
  const last = staves.at(-1) as Staff;
  const shared = top.filter((bar) => {
    const x = first.left + (bar.from + bar.to) / 2;
    return others.every((list, n) => {
      const staff = staves[n + 1] as Staff;
      return list.some(
        (one) => Math.abs(staff.left + (one.from + one.to) / 2 - x) < 1.2 * (first.space[0] ?? 10),
      );
    });
  });
  const width = image.width;
  const at = (staff: Staff, column: number, line: number): number => {
    const n = Math.max(0, Math.min(staff.middle.length - 1, Math.round(column)));
    return (staff.middle[n] as number) + line * (staff.space[n] as number);
  };
  const barlines = shared.map(({ from, to, kind, score }): PageBarline => ({
    x: (first.left + (from + to + 1) / 2) / width,
    kind,
    isDoubtful: score < SURE,
  }));
  const left = first.left / width;
  const right = first.right / width;
  return {
    top: Math.min(at(first, 0, -2), at(first, first.middle.length - 1, -2)) / image.height,
    bottom: Math.max(at(last, 0, 2), at(last, last.middle.length - 1, 2)) / image.height,
    left,
    right,
    staves: staves.length,
    barlines,
    measures: boxes(left, barlines),
  };
}

function boxes(left: number, barlines: readonly PageBarline[]): PageMeasure[] {
  let from = left;
  return barlines.map(({ x }) => {
    const box = { left: from, right: x, count: 1 };
    from = x;
    return box;
  });
}

/** A straightened staff with its upright strokes. */
interface ReadStaff {
  readonly straight: StraightStaff;
  readonly strokes: readonly Stroke[];
}

function strokesOf(image: InkImage, staff: Staff, lean: (x: number) => number): ReadStaff {
  const straight = straightened(image, staff, (column) => lean(staff.left + column));
  return { straight, strokes: findStrokes(straight) };
}

/** The ink of a thin bar line on this page: of strokes on which nothing hangs, few are thinner. */
function massOfThin(staves: readonly ReadStaff[]): number {
  const sure = staves
    .flatMap(({ straight, strokes }) =>
      strokes.filter((stroke) => isAlone(stroke) && stroke.from > CLEF_SPACES * 1.5 * straight.space),
    )
    .map(({ mass }) => mass)
    .sort((a, b) => a - b);
  return sure[Math.floor(sure.length * 0.25)] ?? 1e-9;
}

function barlinesOfStaff({ straight, strokes }: ReadStaff, context: StrokeContext): StaffBarline[] {
  const found = strokes
    .map((stroke) => ({ stroke, score: barlineScore(straight, stroke, context) }))
    .filter(({ score, stroke }) => score > LEAST && stroke.from > CLEF_SPACES * straight.space);
  return joinedBarlines(straight, found).filter(
    // A repeat that begins behind the clef ends no measure; behind a pickup it does.
    ({ kind, from }, n) => n > 0 || kind !== 'repeat-start' || hasStem(straight, from),
  );
}
