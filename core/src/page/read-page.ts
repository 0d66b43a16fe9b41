import { upperMedian } from '../base/index.js';
import {
  barlineScore,
  joinedBarlines,
  type BarlineKind,
  type StaffBarline,
  type StrokeContext,
} from './barlines.js';
import { leanOfPage } from './lean.js';
import { findStrokes, hasStem, isAlone, isPlain, runsOn, type StaffPlace, type Stroke } from './strokes.js';
import { scaledTo, type GrayImage } from './image.js';
import { evenLight, type InkImage } from './light.js';
import { findStaves, type Staff } from './staves.js';
import { findSingleLines } from './single-lines.js';
import { countedRest, hasLongRest } from './long-rest.js';
import { straightened, type StraightStaff } from './straight.js';
import { staffSpace, stripsOf, thinFor } from './strips.js';
import { groupedStaves, type StaffWithStrokes } from './systems.js';

/** A bar line on a page. Shape: `isDoubtful` where it may be none. Units: fractions of the page's width */
export interface PageBarline {
  readonly x: number;
  readonly kind: BarlineKind;
  readonly isDoubtful: boolean;
}

/** A measure as a box between bar lines. Shape: `count` measures share a box; `isLongRest` where a thick rest says that several do, of which the number is not read. Units: fractions of the page */
export interface PageMeasure {
  readonly left: number;
  readonly right: number;
  readonly count: number;
  readonly isLongRest: boolean;
}

/** A line of music. Units: fractions of the page */
export interface PageSystem {
  readonly top: number;
  readonly bottom: number;
  readonly left: number;
  readonly right: number;
  /** Its first and last staff line at places that lie evenly from left to right. */
  readonly outline: { readonly top: readonly number[]; readonly bottom: readonly number[] };
  readonly staves: number;
  /** Whether a repeat begins behind its clef, where no measure ends. */
  readonly opensRepeat: boolean;
  readonly barlines: readonly PageBarline[];
  readonly measures: readonly PageMeasure[];
}

/** What was found on a page. Shape: systems from top to bottom; none where the page shows no music */
export interface PageReading {
  readonly width: number;
  readonly height: number;
  readonly angleDegrees: number;
  /** Whether the page seems to stand on its head. */
  readonly isUpsideDown: boolean;
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
  if (Math.min(page.width, page.height) < SLIMMEST * Math.max(page.width, page.height)) return noMusic(page);
  const lit = evenLight(scaledTo(page, READ_LONG_SIDE));
  const strips = stripsOf(lit);
  const space = staffSpace(strips);
  const five = space === null ? { image: lit, staves: [] } : findStaves(lit, thinFor(strips, space), space);
  const single =
    five.staves.length > MOST_FALSE ? null : findSingleLines(lit, thinFor(strips, USUAL_SPACE), five.staves);
  const { image, staves } = single && single.staves.length > 2 * five.staves.length ? single : five;
  const lean = leanOfPage(staves.map((staff) => straightened(image, staff)));
  const groups = groupedStaves(
    image,
    staves.map((staff) => strokesOf(image, staff, lean)),
  );
  const usualMass = massOfThin(groups);
  const systems = groups.map((group) => readSystem(image, group, usualMass));
  return {
    width: page.width,
    height: page.height,
    angleDegrees: angleOf(staves),
    isUpsideDown: isUpsideDown(groups.flat()),
    systems: systems.filter(({ measures }) => measures.length > 0),
  };
}

/** A picture that is slimmer is no page. Units: shorter side beside the longer */
const SLIMMEST = 0.08;

function noMusic({ width, height }: GrayImage): PageReading {
  return { width, height, angleDegrees: 0, isUpsideDown: false, systems: [] };
}

/** Within so much of a staff's end a bar line closes it. Units: spaces */
const AT_END = 0.8;

/** A line of music is closed by a bar line at its right end; where most are at their left, the page stands on its head. */
function isUpsideDown(staves: readonly ReadStaff[]): boolean {
  const closed = (at: (stroke: Stroke, staff: StraightStaff) => number): number =>
    staves.filter(({ straight, strokes }) =>
      strokes.some((stroke) => stroke.fill > 0.8 && at(stroke, straight) < AT_END * straight.space),
    ).length;
  const left = closed(({ from }) => from);
  const right = closed(({ to }, { width }) => width - to);
  return staves.length > 1 && left >= 0.6 * staves.length && right <= 0.25 * staves.length;
}

function angleOf(staves: readonly Staff[]): number {
  const slopes = staves.map(
    ({ middle }) => ((middle.at(-1) ?? 0) - (middle[0] ?? 0)) / Math.max(1, middle.length),
  );
  return Math.round(((Math.atan(upperMedian(slopes) ?? 0) * 180) / Math.PI) * 100) / 100;
}

/** Bar lines of a score this sure are shown as found; those below as doubtful. */
const SURE = 0.72;
const LEAST = 0.4;
/** Clefs stand before this. Units: spaces */
const CLEF_SPACES = 3;
/** Clef, key and meter stand before this. Units: spaces */
const OPENING_SPACES = 14;

function readSystem(image: InkImage, group: readonly ReadStaff[], usualMass: number): PageSystem {
  const staves = group.map(({ straight }) => straight.staff);
  const own = group.map((staff, n) => barlinesOfStaff(staff, { ...placeIn(group, n), usualMass }));
  const [top, ...others] = own.map(({ bars }) => bars) as [StaffBarline[], ...StaffBarline[][]];
  const first = staves[0] as Staff;
  const last = staves.at(-1) as Staff;
  const shared = top.filter((bar) =>
    others.every((list, n) => list.some(standsAt(bar, first, staves[n + 1] as Staff))),
  );
  const width = image.width;
  const barlines = shared.map(({ from, to, kind, score }): PageBarline => ({
    x: (first.left + (from + to + 1) / 2) / width,
    kind,
    isDoubtful: score < SURE,
  }));
  const left = first.left / width;
  const right = first.right / width;
  const outline = {
    top: outlineOf(first, -2).map((y) => y / image.height),
    bottom: outlineOf(last, 2).map((y) => y / image.height),
  };
  return {
    top: Math.min(outline.top[0] ?? 0, outline.top.at(-1) ?? 0),
    bottom: Math.max(outline.bottom[0] ?? 0, outline.bottom.at(-1) ?? 0),
    ...{ left, right, outline },
    staves: staves.length,
    opensRepeat: own.every(({ opensRepeat }) => opensRepeat),
    barlines,
    measures: boxes(left, barlines).map((box) => withRest(group, box, width)),
  };
}

/** Whether a bar line of another staff of a system stands under one of its first. */
function standsAt(bar: StaffBarline, first: Staff, staff: Staff): (one: StaffBarline) => boolean {
  const x = first.left + (bar.from + bar.to) / 2;
  return (one) => Math.abs(staff.left + (one.from + one.to) / 2 - x) < 1.2 * (first.space[0] ?? 10);
}

/** So many places tell where a staff runs. */
const OUTLINE_PLACES = 5;

/** A line of a staff at places from left to right. Shape: `line` counts from the middle. Units: pixels */
function outlineOf({ middle, space }: Staff, line: number): number[] {
  return Array.from({ length: OUTLINE_PLACES }, (_, n) => {
    const at = Math.round((n * (middle.length - 1)) / (OUTLINE_PLACES - 1));
    return (middle[at] as number) + line * (space[at] as number);
  });
}

/** A box with the measures that a rest in it stands for. */
function withRest(
  group: readonly ReadStaff[],
  box: Omit<PageMeasure, 'isLongRest'>,
  width: number,
): PageMeasure {
  const counts = group.map(({ straight }) => countedRest(straight, box, width));
  const [count] = counts;
  const isCounted = count != null && counts.every((one) => one === count);
  return {
    ...box,
    count: isCounted ? count : 1,
    isLongRest: !isCounted && group.every(({ straight }) => hasLongRest(straight, box, width)),
  };
}

function boxes(left: number, barlines: readonly PageBarline[]): Omit<PageMeasure, 'isLongRest'>[] {
  let from = left;
  return barlines.map(({ x }) => {
    const box = { left: from, right: x, count: 1 };
    from = x;
    return box;
  });
}

/** A straightened staff with its upright strokes. */
interface ReadStaff extends StaffWithStrokes {
  readonly straight: StraightStaff;
  readonly strokes: readonly Stroke[];
}

function strokesOf(image: InkImage, staff: Staff, lean: (x: number) => number): ReadStaff {
  const straight = straightened(image, staff, (column) => lean(staff.left + column));
  const strokes = findStrokes(straight);
  const runsOnAt = strokes.filter(runsOn).map(({ from, to }) => staff.left + (from + to) / 2);
  return { straight, strokes, runsOnAt };
}

/** Where a staff stands in its system. */
function placeIn(group: readonly ReadStaff[], n: number): StaffPlace {
  return { isOpenAbove: n > 0, isOpenBelow: n < group.length - 1 };
}

/** The ink of a thin bar line on this page: of strokes on which nothing hangs, few are thinner. Shape: endless where there are none, as in a text */
function massOfThin(groups: readonly (readonly ReadStaff[])[]): number {
  const masses = (is: (stroke: Stroke, place: StaffPlace) => boolean): number[] =>
    groups
      .flatMap((group) =>
        group.flatMap(({ straight, strokes }, n) => {
          const place = placeIn(group, n);
          return strokes.filter(
            (stroke) => is(stroke, place) && stroke.from > CLEF_SPACES * 1.5 * straight.space,
          );
        }),
      )
      .map(({ mass }) => mass)
      .sort((a, b) => a - b);
  const alone = masses(isAlone);
  const sure = alone.length > 0 ? alone : masses(isPlain);
  return sure[Math.floor(sure.length * 0.25)] ?? Number.POSITIVE_INFINITY;
}

/** The bar lines of a staff. Shape: `opensRepeat` where a repeat begins behind the clef, which ends no measure */
function barlinesOfStaff(
  { straight, strokes }: ReadStaff,
  context: StrokeContext,
): { readonly bars: StaffBarline[]; readonly opensRepeat: boolean } {
  const found = strokes
    .map((stroke) => ({ stroke, score: barlineScore(straight, stroke, context) }))
    .filter(({ score, stroke }) => score > LEAST && stroke.from > CLEF_SPACES * straight.space);
  const bars = joinedBarlines(straight, found, context.usualMass);
  const [first, ...others] = bars;
  if (!first || first.kind === 'single') return { bars, opensRepeat: false };
  // A repeat that begins behind the clef ends no measure; behind a pickup it does. Figures of a meter are thick, and no notes
  // stand before them.
  const { kind, from, to } = first;
  const endsMeasure =
    straight.width - to < straight.space ||
    (kind !== 'repeat-start' && from > OPENING_SPACES * straight.space) ||
    hasStem(straight, from);
  return { bars: endsMeasure ? bars : others, opensRepeat: !endsMeasure && kind === 'repeat-start' };
}
