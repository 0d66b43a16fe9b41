import type { Bpm, BeatUnit, Seconds } from '../music/index.js';

/**
 * A passage as a lesson looks at it.
 * Shape:  `interval` the middle 80 % of what its chance may be, null without a rep; `reported` and `heard` what was played
 *         since the last lesson; `heardDays` days since the instructor last heard it, null for never; `flagged` printed
 *         numbers of measures that surprised; `rungsSince` rungs it moved since the last lesson
 * Units:  seconds at the target; beats of `unit` a minute; chances
 */
export interface PassageToHear {
  readonly id: string;
  readonly name: string;
  readonly isSeam: boolean;
  readonly seconds: Seconds;
  readonly bpm: Bpm;
  readonly unit: BeatUnit;
  readonly interval: { readonly low: number; readonly high: number } | null;
  readonly reported: { readonly clean: number; readonly reps: number };
  readonly heardDays: number | null;
  readonly flagged: readonly string[];
  readonly isPromised: boolean;
  readonly rungsSince: number;
  /** What the part is worth on the sheet, 0 to 1. */
  readonly weight: number;
  /** For a seam: whether its two sides are at tempo, first and second. */
  readonly sidesReady: readonly boolean[];
}

/** A part that may be heard as a whole. Shape: `runDays` days since its last run, null for never */
export interface PartToHear {
  readonly id: string;
  readonly name: string;
  readonly seconds: Seconds;
  readonly runDays: number | null;
  readonly daysLeft: number;
}

/** Something to hear. Shape: `reason` one short phrase; the most important first, a whole run last */
export interface LessonItem {
  readonly kind: 'passage' | 'run';
  readonly id: string;
  readonly minutes: number;
  readonly reason: string;
}

/** What a lesson is made from. Units: minutes */
export interface LessonWish {
  readonly minutes: number;
  readonly passages: readonly PassageToHear[];
  readonly parts: readonly PartToHear[];
}

/** Reps that are heard of a passage, and seconds around each (our own). */
const REPS_HEARD = 3;
const SECONDS_AROUND = 25;
/** Talking about a passage takes a minute. */
const TALK_MINUTES = 1;
/** The last minutes belong to what is asked until next time. */
const CLOSING_MINUTES = 3;
/** A part is heard as a whole where the day is so near, and no run was played for so long. Units: days */
const RUN_WITHIN = 28;
const RUN_EVERY = 6;
/** How much each reason counts (our own; the order is the design's: flagged, promised, uncertain, only reported, moved). */
const WORTH = { flagged: 4, promised: 3, uncertain: 3, reported: 1.6, seam: 0.8, moved: 0.4 } as const;
/** How wide an interval is told as a reason (our own). */
const TOLD_WIDTH = 0.25;
/** Below this chance a passage is on its way (our own). */
const STILL_CLIMBING = 0.6;
/** Fewer reports are no reason to listen. */
const REPORTS_TO_CHECK = 3;

/**
 * What to hear in a lesson, in order, in the minutes there are.
 * Shape:  never more minutes than there are; what has no reason is not heard
 * Source: the design; the weights are our own
 */
export function lessonOf({ minutes, passages, parts }: LessonWish): LessonItem[] {
  const run = runToHear(parts, minutes);
  let left = minutes - CLOSING_MINUTES - (run?.minutes ?? 0);
  const items: LessonItem[] = [];
  for (const { item } of passages
    .map((passage) => ({ item: itemOf(passage), worth: worthOf(passage) }))
    .filter(({ worth }) => worth > 0)
    .sort((a, b) => b.worth - a.worth || a.item.id.localeCompare(b.item.id))) {
    if (item.minutes > left) continue;
    items.push(item);
    left -= item.minutes;
  }
  return run ? [...items, run] : items;
}

function itemOf(passage: PassageToHear): LessonItem {
  const seconds = REPS_HEARD * (passage.seconds + SECONDS_AROUND);
  return {
    kind: 'passage',
    id: passage.id,
    minutes: Math.max(2, Math.round(seconds / 60) + TALK_MINUTES),
    reason: reasonOf(passage),
  };
}

/** One reason to hear a passage. Shape: `text` "" where it counts and is not worth saying */
interface Reason {
  readonly worth: number;
  readonly text: string;
}

/** Every reason to hear a passage, the most telling first. */
function reasonsFor(passage: PassageToHear): Reason[] {
  const { flagged, isPromised, interval, reported, heardDays, sidesReady, isSeam, rungsSince } = passage;
  const reasons: Reason[] = [];
  if (flagged.length > 0) reasons.push({ worth: WORTH.flagged, text: `flagged: ${flagged.join(', ')}` });
  if (isPromised) reasons.push({ worth: WORTH.promised, text: 'promised last time' });
  if (heardDays === null && reported.reps >= REPORTS_TO_CHECK)
    reasons.push({ worth: WORTH.reported, text: 'never heard by you' });
  if (isSeam && sidesReady.includes(true) && sidesReady.includes(false))
    reasons.push({ worth: WORTH.seam, text: 'joins what is ready to what is not' });
  if (interval !== null) reasons.push(uncertainty(interval));
  if (rungsSince !== 0)
    reasons.push({ worth: WORTH.moved * Math.min(3, Math.abs(rungsSince)), text: movedText(rungsSince) });
  return reasons;
}

function uncertainty({ low, high }: NonNullable<PassageToHear['interval']>): Reason {
  return {
    worth: WORTH.uncertain * (high - low),
    text: high - low > TOLD_WIDTH ? `least certain: between ${percent(low)} and ${percent(high)} %` : '',
  };
}

function movedText(rungs: number): string {
  if (rungs < 0) return 'went down since last time';
  return `${rungs} ${rungs === 1 ? 'rung' : 'rungs'} up since last time`;
}

function worthOf(passage: PassageToHear): number {
  return reasonsFor(passage).reduce((sum, { worth }) => sum + worth, 0) * (0.5 + passage.weight);
}

/** The two most telling reasons, or else where the passage is. */
function reasonOf(passage: PassageToHear): string {
  const told = reasonsFor(passage).flatMap(({ text }) => (text === '' ? [] : [text]));
  if (told.length > 0) return told.slice(0, 2).join('; ');
  const { interval } = passage;
  const middle = interval === null ? 0 : (interval.low + interval.high) / 2;
  return middle < STILL_CLIMBING ? 'still on the climb' : 'once, to keep it';
}

function percent(chance: number): number {
  return Math.round(chance * 100);
}

/** The part whose run is due most, where there is room for it. */
function runToHear(parts: readonly PartToHear[], minutes: number): LessonItem | null {
  const due = parts
    .filter(({ daysLeft, runDays }) => daysLeft <= RUN_WITHIN && (runDays === null || runDays >= RUN_EVERY))
    .sort((a, b) => (b.runDays ?? 999) - (a.runDays ?? 999) || a.daysLeft - b.daysLeft);
  for (const { id, seconds, runDays } of due) {
    const own = Math.max(2, Math.round(seconds / 60) + TALK_MINUTES);
    if (own <= (minutes - CLOSING_MINUTES) / 2)
      return {
        kind: 'run',
        id,
        minutes: own,
        reason:
          runDays === null ? 'never run as a whole; tap what slips' : 'no run this week; tap what slips',
      };
  }
  return null;
}
