import { asSeconds, quarterBpm, secondsAt } from '@vivid-cue/core/music';
import {
  dayOfDate,
  withWishes,
  type PassageToPlan,
  type PlanInput,
  type PlanWishes,
} from '@vivid-cue/core/plan';
import { spanQuarters } from '@vivid-cue/core/spans';
import { learningRate, type LearningRate } from '@vivid-cue/core/readiness';
import type { DeskPart, DeskPassage, DeskView } from './desk.js';
import { deskPartName, isInPart, sidesOf, targetSeconds } from './desk-music.js';
import { playingDays } from './playing-dates.js';
import { dayNumber } from './zones.js';

/** Without a date, practice is planned for so many days. */
const DAYS_WITHOUT_A_DATE = 42;
/** What a part lasts of which nothing is known. Units: seconds */
const USUAL_PART_SECONDS = asSeconds(90);
const DAY_MS = 86_400_000;

/**
 * What a student's plan is made from.
 * Shape:  passages that belong to a part; a passage of several programs is due with the first and weighs for all; a part
 *         stands once for each day on which it is played; what was settled is in it
 * Units:  days from today in the studio's zone, minutes, seconds
 */
export function planInputOf(view: DeskView, nowMs: number, wishes: PlanWishes = view.plan.wishes): PlanInput {
  const { zone } = view.studio;
  const today = dayNumber(nowMs, zone);
  const parts = view.parts.flatMap((part): PartWithDays[] => {
    const days = daysOf(part, view, today);
    return days.length > 0 ? [{ ...part, days }] : [];
  });
  const input: PlanInput = {
    weekday: new Date(today * DAY_MS).getUTCDay(),
    minutes: view.day.minutes,
    cap: view.day.cap,
    restDays: view.day.restDays,
    skipped: [],
    minutesOf: {},
    passages: view.passages.flatMap((passage) => passageToPlan(passage, { view, parts, today })),
    parts: parts.flatMap((part) =>
      part.days.map((deadline) => ({
        id: part.id,
        name: deskPartName(part),
        seconds: secondsOfPart(part, view),
        deadline,
      })),
    ),
    mocks: view.plan.mocks.map((date) => dayOfDate(date) - today).filter((day) => day >= 0),
    assembly: null,
    begunDaysAgo: view.begunDaysAgo,
    rate: deskRate(view).mean,
  };
  return withWishes(input, wishes, today);
}

/** How fast the student of a desk learns, from all that was played. */
export function deskRate({ passages }: Pick<DeskView, 'passages'>): LearningRate {
  return learningRate(passages.map(({ record: { belief, reps } }) => ({ belief, reps })));
}

/** A part with the days on which it is played. Shape: from tomorrow on, rising, at least one */
interface PartWithDays extends DeskPart {
  readonly days: readonly number[];
}

/** A program whose dates are all past is practised no more; one without any for some weeks. */
function daysOf({ programId }: DeskPart, { plan: { dates } }: DeskView, today: number): readonly number[] {
  const ahead = playingDays(dates, programId, today);
  const isOver = playingDays(dates, programId, 0).length > 0;
  return ahead.length > 0 || isOver ? ahead : [DAYS_WITHOUT_A_DATE];
}

function passageToPlan(
  passage: DeskPassage,
  {
    view,
    parts,
    today,
  }: { readonly view: DeskView; readonly parts: readonly PartWithDays[]; readonly today: number },
): PassageToPlan[] {
  const own = parts.filter((part) => isInPart(passage, part));
  const [first] = own;
  if (!first) return [];
  const { record } = passage;
  return [
    {
      id: passage.id,
      name: passage.name,
      partId: first.id,
      belief: record.belief,
      practiceDays: record.practiceDays,
      idleDays: record.lastDay === null ? null : Math.max(0, today - record.lastDay),
      seconds: targetSeconds(passage, view),
      weight: own.reduce((sum, { weight }) => sum + weight, 0),
      deadline: Math.min(...own.flatMap(({ days }) => days)),
      until: Math.max(...own.flatMap(({ days }) => days)),
      targetBpm: passage.target.bpm,
      unit: passage.target.beatUnit,
      rungBpms: passage.rungs.map(({ bpm }) => bpm),
      place: passage.place,
      school: passage.climbSchool,
      after: passage.isSeam ? sidesOf(passage, view.passages).map(({ id }) => id) : [],
      pinned: [],
      barred: [],
    },
  ];
}

function secondsOfPart(part: DeskPart, view: DeskView): PassageToPlan['seconds'] {
  const measures = view.scores.find(({ id }) => id === part.scoreId)?.digest.measures ?? [];
  const target = view.passages.find(({ scoreId }) => scoreId === part.scoreId)?.target;
  const quarters = part.runs.reduce((sum, run) => sum + spanQuarters(measures, run), 0);
  const tempo = target ? quarterBpm(target.bpm, target.beatUnit) : quarterBpm(80, 'quarter');
  return quarters > 0 ? secondsAt(quarters, tempo) : USUAL_PART_SECONDS;
}
