import { groupBy } from '@vivid-cue/core/base';
import { schoolOf, type ClimbSchool } from '@vivid-cue/core/climb';
import type { ScoreDigest } from '@vivid-cue/core/score';
import type {
  DeskPart,
  DeskPassage,
  DeskScore,
  DeskView,
  Settings,
  StudentPageView,
  StudentSchools,
} from '@vivid-cue/contract';
import { cueRows, cueView } from '../cues/repository.js';
import type { Studio } from '../db/studio.js';
import { passageView } from '../passages/view.js';
import { askedSpans } from '../practice/asked.js';
import { programPartRows, type Practice, type ProgramPartRow } from '../practice/part-row.js';
import { passageRows, type PassageRow } from '../practice/passage-row.js';
import { practiceTarget } from '../practice/target.js';
import { partView } from '../published/sheet-part.js';
import { findScore } from '../scores/repository.js';
import { studentPage } from '../season/service.js';
import { lessonsOf } from '../students/lessons.js';
import { programRows } from '../programs/repository.js';
import { begunDaysAgo, deskPlan } from './steering.js';
import { readBook } from '../studio/book.js';
import { readSettings } from '../studio/settings.js';

/**
 * All that a student's desk needs, with and without a connection.
 * Units:  milliseconds since 1970
 * Errors: Problem not-found
 */
export async function deskView(studio: Studio, studentId: string, nowMs: number): Promise<DeskView> {
  return (await deskOf(studio, studentId, nowMs)).desk;
}

/** A student's desk, with the student's page and the parts that it was made from. */
export interface DeskOf {
  readonly desk: DeskView;
  readonly parts: readonly ProgramPartRow[];
  readonly page: StudentPageView;
}

/**
 * A student's desk beside the page it was made from.
 * Units:  milliseconds since 1970
 * Errors: Problem not-found
 */
export async function deskOf(studio: Studio, studentId: string, nowMs: number): Promise<DeskOf> {
  // The page reckons how the student reports: what is reported from here on is counted by it.
  const page = await studentPage(studio, studentId, nowMs);
  const settings = await readSettings(studio);
  const parts = await programPartRows(studio, { programIds: page.programs.map(({ id }) => id) });
  const scores = await scoresOf(studio, parts);
  const digests = new Map(scores.map(({ id, digest }) => [id, digest]));
  const desk: DeskView = {
    student: { id: page.student.id, name: page.student.name, instrument: page.student.instrument },
    studio: {
      ...{ name: settings.studioName, zone: settings.zone, vocabulary: settings.vocabulary },
      looks: (await readBook(studio)).looks,
    },
    at: new Date(nowMs).toISOString(),
    day: dayOf(settings, page.schools),
    parts: deskParts(page, parts, digests),
    scores,
    passages: await deskPassages(studio, parts, { nowMs, settings, schools: page.schools }),
    surprises: page.fromStudent.surprises,
    asks: (await lessonsOf(studio, studentId, 1))[0]?.asks ?? [],
    ...(await planned(studio, page, { parts, settings, nowMs })),
  };
  return { desk, page, parts };
}

/** What the plan says of the days to come, and since when the season runs. */
async function planned(
  studio: Studio,
  { student, programs }: StudentPageView,
  {
    parts,
    settings: { zone },
    nowMs,
  }: { readonly parts: readonly ProgramPartRow[]; readonly settings: Settings; readonly nowMs: number },
): Promise<Pick<DeskView, 'plan' | 'begunDaysAgo'>> {
  const { id, instrument } = student;
  const rows = await programRows(studio, id);
  return {
    begunDaysAgo: begunDaysAgo(rows, nowMs, zone),
    plan: await deskPlan(studio, id, { instrument, zone, nowMs, programs, rows, parts }),
  };
}

function dayOf(settings: Settings, own: StudentSchools): DeskView['day'] {
  const cap = own.dayCap ?? settings.dayCap;
  return {
    minutes: Math.min(cap, own.dayMinutes ?? settings.dayMinutes),
    cap,
    restDays: own.restDays ?? settings.restDays,
  };
}

function deskParts(
  { programs }: StudentPageView,
  rows: readonly ProgramPartRow[],
  digests: ReadonlyMap<string, ScoreDigest>,
): DeskPart[] {
  const byId = new Map(rows.map((row) => [row.program_part_id, row]));
  return programs.flatMap((program) => {
    const own = program.parts.flatMap((part) => {
      const row = byId.get(part.id);
      return row ? [{ part, row, points: partView(row).points ?? null }] : [];
    });
    const all = own.reduce((sum, { points }) => sum + (points ?? 0), 0);
    return own.map(({ part, row, points }): DeskPart => {
      const digest = row.score_id === null ? undefined : digests.get(row.score_id);
      const spans = digest && askedSpans(digest.measures, row);
      return {
        id: part.id,
        programId: program.id,
        label: part.label,
        workTitle: part.workTitle,
        sourceText: part.sourceText,
        askedText: part.spanText,
        sheetTitle: program.sheetTitle,
        tempoText: part.tempoText,
        scoreId: row.score_id,
        runs: spans?.ok ? spans.value : [],
        // Where a sheet gives points to some parts only, the others count for little; without points all count alike.
        weight: all > 0 ? Math.max(0.02, (points ?? 0) / all) : 1 / own.length,
        nextDate: program.nextDate,
        chance: part.chance,
      };
    });
  });
}

/** Every score that is played from, once, with its cues. */
async function scoresOf(studio: Studio, parts: readonly ProgramPartRow[]): Promise<DeskScore[]> {
  const practices = new Map(parts.map((part) => [part.score_id, part]));
  const scores: DeskScore[] = [];
  for (const [scoreId, part] of practices) {
    const score = scoreId === null ? null : await findScore(studio, scoreId);
    if (!score) continue;
    scores.push({
      id: score.id,
      digest: JSON.parse(score.digest) as ScoreDigest,
      fileName: score.file_name,
      cues: (await cueRows(studio, part)).map(cueView),
    });
  }
  return scores;
}

async function deskPassages(
  studio: Studio,
  parts: readonly ProgramPartRow[],
  facts: { readonly nowMs: number; readonly settings: Settings; readonly schools: StudentSchools },
): Promise<DeskPassage[]> {
  const rows = await passageRows(studio, parts);
  const byScore = groupBy(rows, ({ score_id: id }) => id);
  const passages: DeskPassage[] = [];
  for (const own of byScore.values()) {
    const [first] = own;
    const isAsked = first ? await isAskedOf(studio, first) : false;
    for (const row of own)
      passages.push({
        ...passageView(row, { nowMs: facts.nowMs, isAsked }),
        scoreId: row.score_id,
        climbSchool: schoolOfRow(row, facts),
      });
  }
  return passages;
}

async function isAskedOf(studio: Studio, practice: Practice): Promise<boolean> {
  return (await practiceTarget(studio, practice))?.isAsked ?? false;
}

function schoolOfRow(
  { climb_school: school }: PassageRow,
  { settings, schools }: { readonly settings: Settings; readonly schools: StudentSchools },
): ClimbSchool {
  const own = { climbSchool: school, rungRule: null, slipRule: null };
  return schoolOf([own, schools, settings]).climbSchool;
}
