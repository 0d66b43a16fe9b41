import { groupBy } from '@vivid-cue/core/base';
import { optimismText, STATES, type ReadinessState } from '@vivid-cue/core/readiness';
import {
  daysLeft,
  dueMoment,
  type NextDate,
  type ProgramPartView,
  type ProgramView,
  type SeasonRow,
  type SeasonView,
  type StudentPageView,
} from '@vivid-cue/contract';
import { inVocabulary, type Vocabulary } from '@vivid-cue/core/music';
import type { Studio } from '../db/studio.js';
import { notFound } from '../http/problem.js';
import { deadlinesOf, listSheetRows, type DeadlineRow } from '../published/repository.js';
import { fromStudent, NOTHING_SENT, sentCounts, type SentCounts } from '../students/from-student.js';
import { formsIn } from '../students/plans.js';
import { readSchools, findStudent, listStudents } from '../students/repository.js';
import { judgedParts } from '../practice/judged-parts.js';
import { studentReports } from '../practice/reports.js';
import { programPartRows, type ProgramPartRow } from '../practice/part-row.js';
import { programRows, type ProgramRow } from '../programs/repository.js';
import { nextDeadline, sheetTitle } from '../published/sheet-view.js';
import { studioFacts, type StudioFacts } from '../studio/facts.js';
import { SharedAnswers } from './shared-answers.js';

/** A registration or an upload is the instructor's own work when it is so near. Units: days (our own). */
const NEEDS_DATE_DAYS = 7;
const FORMALITIES: ReadonlySet<string> = new Set(['registration', 'late registration', 'recording']);
/** Practice that stood still for so long matters when a date is so near. Units: days (our own). */
const NEEDS_IDLE_DAYS = 5;
const NEEDS_PRACTICE_DAYS = 28;
const DAY_MS = 86_400_000;

/**
 * The season: every student with the program whose date comes next; who needs the instructor stands on top.
 * Shape:  one row a student
 * Units:  milliseconds since 1970
 */
export function season(studio: Studio, nowMs: number): Promise<SeasonView> {
  return seasons.ask(studio.id, () => wholeSeason(studio, nowMs));
}

/** A class room of devices asks for the same page at the same time. */
const seasons = new SharedAnswers<SeasonView>();

async function wholeSeason(studio: Studio, nowMs: number): Promise<SeasonView> {
  const facts = await studioFacts(studio);
  const [students, programs, sheets] = await Promise.all([
    listStudents(studio),
    programRows(studio, null),
    listSheetRows(studio),
  ]);
  const dates = await nextDates(studio, programs, { facts, nowMs });
  const byStudent = groupBy(programs, ({ student_id }) => student_id);
  const chosen = [...byStudent.values()].map((own) =>
    own.reduce((first, next) =>
      isSooner(dates.get(next.revision_id), dates.get(first.revision_id)) ? next : first,
    ),
  );
  const views = await programViews(studio, chosen, { facts, dates, nowMs });
  const [sent, forms] = await Promise.all([sentCounts(studio), formsIn(studio)]);
  const rows = students.map((student): SeasonRow => {
    const own = byStudent.get(student.id) ?? [];
    const program = views.find(({ id }) => own.some((candidate) => candidate.id === id)) ?? null;
    return {
      student,
      program,
      morePrograms: Math.max(0, own.length - 1),
      need: needOf(program, {
        ...{ nowMs, vocabulary: facts.vocabulary },
        sent: sent.get(student.id) ?? NOTHING_SENT,
        areFormsIn: forms.has(program?.id ?? ''),
      }),
    };
  });
  return {
    rows: rows.sort(byUrgency),
    bodies: new Set(sheets.map(({ body }) => body)).size,
    sheets: sheets.length,
  };
}

function isSooner(a: NextDate | null | undefined, b: NextDate | null | undefined): boolean {
  return (a?.daysLeft ?? Infinity) < (b?.daysLeft ?? Infinity);
}

/**
 * What only the instructor can do now. The rule, as the page states it: a measure that a student flagged or a line that
 * nobody has read; a form or a recording that is due within a week and not ticked; a student without a sheet, or music,
 * passages or practice that are missing four weeks before the day; a revision that the program does not stand on.
 * Shape:  the most pressing in a few words; null where practising is all that is needed
 */
function needOf(program: ProgramView | null, facts: NeedFacts): string | null {
  const { surprises, notes } = facts.sent;
  if (surprises > 0) return surprises === 1 ? 'flagged a measure' : `flagged ${surprises} measures`;
  if (notes > 0) return 'wrote to you';
  if (!program) return 'needs a sheet';
  return pressingNeed(program, facts) ?? (program.isBehind ? 'sheet revised' : null);
}

/** What else a need depends on. Units: milliseconds since 1970 */
interface NeedFacts {
  readonly sent: SentCounts;
  readonly areFormsIn: boolean;
  readonly nowMs: number;
  readonly vocabulary: Vocabulary;
}

function pressingNeed(
  { nextDate, parts }: ProgramView,
  { areFormsIn, nowMs, vocabulary }: NeedFacts,
): string | null {
  if (!nextDate) return null;
  const { what, daysLeft: days } = nextDate;
  if (!areFormsIn && days <= NEEDS_DATE_DAYS && FORMALITIES.has(what)) return `${what} ${inDays(days)}`;
  if (days > NEEDS_PRACTICE_DAYS) return null;
  const missing = parts.find(({ hasScore }) => !hasScore);
  if (missing) return `${missing.label} needs its score`;
  const uncut = parts.find(({ passages }) => passages === 0);
  if (uncut) return inVocabulary(`${uncut.label} needs passages`, vocabulary);
  const last = Math.max(0, ...parts.map(({ lastRepAt }) => (lastRepAt === null ? 0 : Date.parse(lastRepAt))));
  const idleDays = Math.floor((nowMs - last) / DAY_MS);
  if (idleDays < NEEDS_IDLE_DAYS) return null;
  return last === 0 ? 'nothing played yet' : `nothing played for ${idleDays} days`;
}

function inDays(days: number): string {
  return days === 0 ? 'today' : days === 1 ? 'tomorrow' : `in ${days} days`;
}

function byUrgency(a: SeasonRow, b: SeasonRow): number {
  const days = (row: SeasonRow): number => row.program?.nextDate?.daysLeft ?? 10_000;
  return (
    Number(b.need !== null) - Number(a.need !== null) ||
    days(a) - days(b) ||
    (a.program?.chance ?? -1) - (b.program?.chance ?? -1) ||
    a.student.name.localeCompare(b.student.name)
  );
}

/**
 * A student's page: every program with every part.
 * Shape:  the program whose date comes next stands first
 * Units:  milliseconds since 1970
 * Errors: Problem not-found
 */
export async function studentPage(
  studio: Studio,
  studentId: string,
  nowMs: number,
): Promise<StudentPageView> {
  const student = await findStudent(studio, studentId);
  if (!student) throw notFound('student');
  const facts = await studioFacts(studio);
  const programs = await programRows(studio, studentId);
  const dates = await nextDates(studio, programs, { facts, nowMs });
  const views = await programViews(studio, programs, { facts, dates, nowMs });
  return {
    student,
    schools: await readSchools(studio, studentId),
    fromStudent: await fromStudent(studio, studentId),
    reportsText: optimismText(await studentReports(studio, studentId, nowMs)),
    programs: views.sort((a, b) => (a.nextDate?.daysLeft ?? 10_000) - (b.nextDate?.daysLeft ?? 10_000)),
  };
}

type Dates = ReadonlyMap<string, NextDate | null>;

async function nextDates(
  studio: Studio,
  programs: readonly ProgramRow[],
  { facts, nowMs }: { readonly facts: StudioFacts; readonly nowMs: number },
): Promise<Dates> {
  const revisionIds = [...new Set(programs.map(({ revision_id }) => revision_id))];
  const byRevision = groupBy(await deadlinesOf(studio, revisionIds), ({ revision_id }) => revision_id);
  return new Map(
    revisionIds.map((id) => [id, nextDateView(nextDeadline(byRevision.get(id) ?? [], nowMs), facts, nowMs)]),
  );
}

function nextDateView(next: DeadlineRow | null, facts: StudioFacts, nowMs: number): NextDate | null {
  const moment = next && dueMoment(next);
  if (!moment) return null;
  return { what: next.kind, ...moment, daysLeft: daysLeft(moment, nowMs, facts.zone) };
}

async function programViews(
  studio: Studio,
  programs: readonly ProgramRow[],
  { facts, dates, nowMs }: { readonly facts: StudioFacts; readonly dates: Dates; readonly nowMs: number },
): Promise<ProgramView[]> {
  const programIds = programs.map(({ id }) => id);
  const parts = (await programPartRows(studio, { programIds, withoutMusic: true })).filter(isPractised);
  const views = await judgedParts(studio, parts, { facts, nowMs });
  const byProgram = groupBy(
    parts.map((part, n) => ({ programId: part.program_id, view: views[n] })),
    ({ programId }) => programId,
  );
  return programs.map((program) => {
    const judged = (byProgram.get(program.id) ?? []).flatMap(({ view }) => view ?? []);
    return {
      id: program.id,
      sheetId: program.sheet_id,
      sheetTitle: sheetTitle(program),
      isBehind: program.revision_id !== program.current_revision_id,
      nextDate: dates.get(program.revision_id) ?? null,
      state: programState(judged),
      ...programNumbers(judged),
      sentence: weakest(judged)?.sentence ?? 'Nothing is chosen to practise yet.',
      parts: judged,
    };
  });
}

/** Parts without music of their own: nothing of them can be measured from a score. */
const WITHOUT_SCORE: ReadonlySet<ProgramPartRow['kind']> = new Set([
  'sight-reading',
  'aural',
  'improvisation',
  'rudiments',
]);

/** What the student plays, and what a score can stand for. */
function isPractised({ is_taken: isTaken, kind, score_id: scoreId }: ProgramPartRow): boolean {
  return isTaken === 1 && (scoreId !== null || !WITHOUT_SCORE.has(kind));
}

/** A program is as far as its least advanced part: it is played as a whole. */
function programState(parts: readonly ProgramPartView[]): ReadinessState {
  return (
    STATES[Math.min(...parts.map(({ state }) => STATES.indexOf(state)), STATES.length - 1)] ?? 'unopened'
  );
}

/** Chance and slips over the parts of which anything is known; the others are counted beside them, never as zero. */
function programNumbers(
  parts: readonly ProgramPartView[],
): Pick<ProgramView, 'chance' | 'expectedSlips' | 'tracked'> {
  const known = parts.filter(({ chance }) => chance !== null);
  return {
    chance: known.length === 0 ? null : known.reduce((product, { chance }) => product * (chance ?? 1), 1),
    expectedSlips:
      known.length === 0 ? null : known.reduce((sum, { expectedSlips }) => sum + (expectedSlips ?? 0), 0),
    tracked: [known.length, parts.length],
  };
}

function weakest(parts: readonly ProgramPartView[]): ProgramPartView | null {
  const rank = ({ state, chance }: ProgramPartView): number => STATES.indexOf(state) + (chance ?? 0);
  return parts.reduce<ProgramPartView | null>(
    (low, part) => (low === null || rank(part) < rank(low) ? part : low),
    null,
  );
}
