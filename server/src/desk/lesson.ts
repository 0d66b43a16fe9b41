import { groupBy } from '@vivid-cue/core/base';
import { quarterBpm, secondsAt } from '@vivid-cue/core/music';
import { lessonOf, type PartToHear, type PassageToHear } from '@vivid-cue/core/plan';
import type { RepContext, Witness } from '@vivid-cue/core/readiness';
import { spanQuarters } from '@vivid-cue/core/score';
import type { DeskPart, DeskPassage, DeskView, LessonInput, LessonView } from '@vivid-cue/contract';
import { deskPartName, isInPart, sidesOf, targetSeconds } from '@vivid-cue/contract/desk-music';
import { Problem } from '../http/problem.js';
import { rowsOf, type Studio } from '../db/studio.js';
import { keepLesson, lessonsOf, rungsAtLastLesson } from '../students/lessons.js';
import { deskOf } from './view.js';

const DAY_MS = 86_400_000;
/** Lessons shown beside today's. */
const SHOWN_LESSONS = 12;
/** Reps that say what was played lately. Units: days */
const LATELY_DAYS = 60;

interface PlayedRow {
  readonly passage_id: string;
  readonly at: Date;
  readonly day: number;
  readonly context: RepContext;
  readonly is_clean: number;
  readonly witness: Witness;
}

/**
 * What to hear in a lesson of so many minutes, beside the last lessons and what the student sent.
 * Units:  minutes; milliseconds since 1970
 * Errors: Problem not-found
 */
export async function lessonView(
  studio: Studio,
  studentId: string,
  { minutes, nowMs }: { readonly minutes: number; readonly nowMs: number },
): Promise<LessonView> {
  const { desk, page } = await deskOf(studio, studentId, nowMs);
  const lessons = await lessonsOf(studio, studentId, SHOWN_LESSONS);
  const played = await playedLately(studio, studentId, nowMs);
  const rungs = await rungsAtLastLesson(studio, studentId);
  const facts = { desk, played, nowMs, rungs, last: lessons[0] ?? null };
  return {
    student: desk.student,
    items: lessonOf({
      minutes,
      passages: desk.passages.map((passage) => passageToHear(passage, facts)),
      parts: desk.parts.flatMap((part) => partToHear(part, facts)),
    }),
    parts: desk.parts,
    passages: desk.passages,
    scores: desk.scores,
    fromStudent: page.fromStudent,
    reportsText: page.reportsText,
    week: weekOf(played, nowMs),
    lessons,
  };
}

/**
 * Keeps a lesson, with where each passage stands at its end.
 * Errors: Problem not-found, id-taken
 */
export async function keepLessonHeld(
  studio: Studio,
  studentId: string,
  { lesson, nowMs }: { readonly lesson: LessonInput; readonly nowMs: number },
): Promise<void> {
  const { desk } = await deskOf(studio, studentId, nowMs);
  const rungs = Object.fromEntries(desk.passages.map(({ id, place }) => [id, place.rungIndex]));
  if (!(await keepLesson(studio, studentId, { ...lesson, rungs })))
    throw new Problem('id-taken', 'This lesson could not be kept; reload the page and try again.');
}

interface Facts {
  readonly desk: DeskView;
  readonly played: readonly PlayedRow[];
  readonly nowMs: number;
  readonly last: LessonInput | null;
  readonly rungs: Readonly<Record<string, number>> | null;
}

function playedLately(studio: Studio, studentId: string, nowMs: number): Promise<PlayedRow[]> {
  return rowsOf(studio, 'reps as x')
    .join('passages as p', 'p.id', 'x.passage_id')
    .leftJoin('rep_retractions as t', 't.rep_id', 'x.id')
    .where('p.student_id', studentId)
    .where('x.at', '>=', new Date(nowMs - LATELY_DAYS * DAY_MS))
    .whereNull('t.id')
    .select('x.passage_id', 'x.at', 'x.day', 'x.context', 'x.is_clean', 'x.witness') as unknown as Promise<
    PlayedRow[]
  >;
}

function weekOf(played: readonly PlayedRow[], nowMs: number): LessonView['week'] {
  const week = played.filter(({ at }) => nowMs - at.getTime() <= 7 * DAY_MS);
  return { days: new Set(week.map(({ day }) => day)).size, reps: week.length };
}

function passageToHear(passage: DeskPassage, { desk, played, nowMs, last, rungs }: Facts): PassageToHear {
  const own = played.filter(({ passage_id: id }) => id === passage.id);
  const sinceMs = last === null ? 0 : Date.parse(last.at);
  const reported = own.filter(({ witness, at }) => witness === 'student' && at.getTime() > sinceMs);
  const heard = own.filter(({ witness }) => witness !== 'student').map(({ at }) => at.getTime());
  return {
    id: passage.id,
    name: passage.name,
    isSeam: passage.isSeam,
    seconds: targetSeconds(passage, desk),
    bpm: passage.rungs[passage.place.rungIndex]?.bpm ?? passage.target.bpm,
    unit: passage.target.beatUnit,
    interval: passage.interval,
    reported: { clean: reported.filter((rep) => rep.is_clean === 1).length, reps: reported.length },
    heardDays: heard.length === 0 ? null : Math.floor((nowMs - Math.max(...heard)) / DAY_MS),
    flagged: desk.surprises.filter(({ passageId }) => passageId === passage.id).map(({ measure }) => measure),
    isPromised: last?.asks.some(({ passageId }) => passageId === passage.id) ?? false,
    rungsSince: passage.place.rungIndex - (rungs?.[passage.id] ?? passage.place.rungIndex),
    weight: Math.max(0, ...desk.parts.filter((part) => isInPart(passage, part)).map(({ weight }) => weight)),
    sidesReady: passage.isSeam
      ? sidesOf(passage, desk.passages).map(
          ({ readiness: { state } }) => state === 'at-tempo' || state === 'holding',
        )
      : [],
  };
}

function partToHear(part: DeskPart, { desk, played, nowMs }: Facts): PartToHear[] {
  const own = desk.passages.filter((passage) => isInPart(passage, part));
  const [first] = own;
  const measures = desk.scores.find(({ id }) => id === part.scoreId)?.digest.measures;
  if (!first || !measures) return [];
  const runs = part.runs.length === 0 ? [{ fromIndex: 0, endIndex: measures.length }] : part.runs;
  const quarters = runs.reduce((sum, run) => sum + spanQuarters(measures, run), 0);
  const ids = new Set(own.map(({ id }) => id));
  const byContext = groupBy(
    played.filter(({ passage_id: id }) => ids.has(id)),
    ({ context }) => context === 'run' || context === 'mock',
  );
  const lastRunMs = Math.max(0, ...(byContext.get(true) ?? []).map(({ at }) => at.getTime()));
  return [
    {
      id: part.id,
      name: deskPartName(part),
      seconds: secondsAt(quarters, quarterBpm(first.target.bpm, first.target.beatUnit)),
      runDays: lastRunMs === 0 ? null : Math.floor((nowMs - lastRunMs) / DAY_MS),
      daysLeft: part.nextDate?.daysLeft ?? 10_000,
    },
  ];
}
