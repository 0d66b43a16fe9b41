import { seededRandom } from '../base/index.js';
import type { PartKind } from '../sheet/index.js';
import { AURAL_CRITERIA } from './aural.js';

/** A part that a mock may hold. Shape: no points where the sheet states none. Units: seconds of a whole performance */
export interface PartForMock {
  readonly id: string;
  readonly kind: PartKind;
  readonly title: string;
  readonly points: number | null;
}

/** How something is called up. */
export type CallKind = 'as-asked' | 'drawn' | 'from-a-start' | 'sight' | 'aural';

/** Something that listeners score. Units: points */
export interface Criterion {
  readonly name: string;
  readonly points: number;
}

/**
 * One thing that is called up on the day.
 * Shape:  `partIds` what it may be, one of them is drawn where there are several; `words` are said to the player
 * Units:  seconds
 */
export interface MockItem {
  readonly id: string;
  readonly call: CallKind;
  readonly partIds: readonly string[];
  readonly title: string;
  readonly words: string;
  /** How hard what is read at sight or heard is, 1 to 8; of no meaning elsewhere. */
  readonly level: number;
  readonly studySeconds: number;
  readonly pauseSeconds: number;
  readonly criteria: readonly Criterion[];
}

/** A share of a part's points. Shape: shares add up to 1 */
export interface CriterionShare {
  readonly name: string;
  readonly share: number;
}

/** What a panel usually listens for (common practice, no source); a studio sets its own. */
export const USUAL_CRITERIA: readonly CriterionShare[] = Object.freeze([
  { name: 'Tone', share: 0.25 },
  { name: 'Notes and intonation', share: 0.25 },
  { name: 'Rhythm and tempo', share: 0.25 },
  { name: 'Music', share: 0.25 },
]);

/** Points of a part whose sheet states none. */
const USUAL_POINTS = 20;
/** Study time for sight-reading where the sheet says nothing (common practice, no source). Units: seconds */
const STUDY_SECONDS = 30;
/** Studies are read, and ears tested, at this level until somebody says another (our own). */
const USUAL_LEVEL = 3;
/** Between two things. Units: seconds (our own) */
const PAUSE_SECONDS = 15;
/** From so many scales on one is drawn: nobody hears them all. */
const DRAWN_FROM = 3;

const SCALES: readonly PartKind[] = ['scale', 'chromatic'];

/**
 * A day in the sheet's own order: several scales become one that is drawn, sight-reading has its study time, and every part
 * is scored by the sheet's points, split into what listeners listen for.
 * Shape:  identifiers made by the caller
 */
export function mockItems(
  parts: readonly PartForMock[],
  { criteria, newId }: { readonly criteria: readonly CriterionShare[]; readonly newId: () => string },
): MockItem[] {
  const scales = parts.filter(({ kind }) => SCALES.includes(kind));
  const isDrawn = scales.length >= DRAWN_FROM;
  return parts.flatMap((part): MockItem[] => {
    const isScale = isDrawn && SCALES.includes(part.kind);
    if (isScale && part.id !== scales[0]?.id) return [];
    const call = isScale ? 'drawn' : callOf(part.kind);
    return [
      {
        ...{ id: newId(), call, partIds: isScale ? scales.map(({ id }) => id) : [part.id] },
        title: isScale ? 'A scale, drawn' : part.title,
        words: wordsOf(call, part.title),
        level: USUAL_LEVEL,
        studySeconds: call === 'sight' ? STUDY_SECONDS : 0,
        pauseSeconds: PAUSE_SECONDS,
        criteria: criteriaOf(call, part.points ?? USUAL_POINTS, criteria),
      },
    ];
  });
}

function callOf(kind: PartKind): CallKind {
  return kind === 'sight-reading' ? 'sight' : kind === 'aural' ? 'aural' : 'as-asked';
}

/** What something that is called up is scored for: an ear test by its questions, whatever is listened for elsewhere. */
export function criteriaOf(call: CallKind, points: number, shares: readonly CriterionShare[]): Criterion[] {
  return splitPoints(points, call === 'aural' ? AURAL_CRITERIA : shares);
}

/** What is said to the player. */
function wordsOf(call: CallKind, title: string): string {
  switch (call) {
    case 'drawn':
      return 'Draw one, and play it when you are ready.';
    case 'sight':
      return 'You have your study time; you may finger, and not sound. Then play it once.';
    case 'aural':
      return 'Listen, and answer when it has ended.';
    case 'from-a-start':
      return `${title}, from the place that you are told.`;
    case 'as-asked':
      return `${title}, please. Begin when you are ready.`;
  }
}

/**
 * Points split by shares into whole and half points; what rounding leaves goes to the first.
 * Shape:  adds up to the points
 */
export function splitPoints(points: number, shares: readonly CriterionShare[]): Criterion[] {
  const total = shares.reduce((sum, { share }) => sum + share, 0) || 1;
  const split = shares.map(({ name, share }) => ({
    name,
    points: Math.round((2 * points * share) / total) / 2,
  }));
  const over = points - split.reduce((sum, one) => sum + one.points, 0);
  return split.map((one, n) => (n === 0 ? { ...one, points: one.points + over } : one));
}

/** What a draw came to. Shape: `start` counts the measures of what is asked from 0 */
export interface Drawn {
  readonly partId: string;
  readonly start: number;
}

/** The seed of one thing of a day. Shape: places of the player and of the thing, from 0 */
export function itemSeed(daySeed: number, player: number, item: number): number {
  return daySeed + player * 1000 + item;
}

/**
 * What is drawn for an item: the same seed draws the same, so that a draw can be looked up again.
 * Shape:  null where there is nothing to draw from; `starts` measures at which a start may lie
 */
export function drawnFor(
  { partIds, call }: Pick<MockItem, 'partIds' | 'call'>,
  { seed, starts }: { readonly seed: number; readonly starts: readonly number[] },
): Drawn | null {
  const random = seededRandom(seed);
  // The first number of a seed is close to that of its neighbour: the draw begins behind it.
  random();
  const partId = partIds[Math.floor(random() * partIds.length)];
  if (partId === undefined) return null;
  const start = call === 'from-a-start' ? (starts[Math.floor(random() * starts.length)] ?? 0) : 0;
  return { partId, start };
}

/**
 * An order of things that is the same for the same seed.
 * Source: Fisher and Yates (1938), as Durstenfeld (1964) wrote it for machines (from memory)
 */
export function shuffled<Thing>(things: readonly Thing[], seed: number): Thing[] {
  const random = seededRandom(seed);
  random();
  const order = [...things];
  for (let n = order.length - 1; n > 0; n -= 1) {
    const other = Math.floor(random() * (n + 1));
    [order[n], order[other]] = [order[other] as Thing, order[n] as Thing];
  }
  return order;
}
