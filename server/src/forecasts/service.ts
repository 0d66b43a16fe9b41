import { groupBy } from '@vivid-cue/core/base';
import { dateOfDay } from '@vivid-cue/core/plan';
import type { PassageVoice } from '@vivid-cue/core/readiness';
import { dayNumber } from '@vivid-cue/contract';
import type { ForecastsView, ProgramForecast } from '@vivid-cue/contract/forecasts';
import { deskRate, planInputOf } from '@vivid-cue/contract/plan-input';
import { playingDays, type ProgramDate } from '@vivid-cue/contract/playing-dates';
import { rowsOf, type Studio } from '../db/studio.js';
import { sha256 } from '../db/sha256.js';
import { deskOf } from '../desk/view.js';
import { datesOf } from '../desk/steering.js';
import { partVoices, PASSAGES_MARK, type PartAhead } from '../practice/judged-parts.js';
import { programRows, type ProgramRow } from '../programs/repository.js';
import { studioFacts } from '../studio/facts.js';
import type { ForecastAnswer, ProgramAhead } from './forecast-worker.js';
import { lookAheadBeside } from './thread.js';

/** What a forecast stands on without its program. */
type Answer = Omit<ProgramForecast, 'programId'>;

/** Studios whose forecasts are being reckoned. */
const working = new Map<string, Promise<void>>();
/** Students that could not be reckoned are not tried again until something moves. */
const failed = new Set<string>();

/**
 * How each program is likely to stand on its day, as far as it is reckoned: what is missing or has moved is reckoned in
 * the background, student by student, and stored.
 * Units:  milliseconds since 1970
 */
export async function forecasts(studio: Studio, nowMs: number): Promise<ForecastsView> {
  const programs = await programRows(studio, null);
  const bases = await basesOf(studio, programs, nowMs);
  const stored = await storedOf(studio);
  const isKnown = ({ id }: ProgramRow): boolean =>
    stored.get(id)?.basis === bases.get(id) || failed.has(bases.get(id) ?? '');
  const missing = programs.filter((program) => !isKnown(program));
  if (missing.length > 0 && !working.has(studio.id)) begin(studio, missing, { bases, nowMs });
  return {
    forecasts: programs.flatMap(({ id }) => {
      const answer = stored.get(id)?.answer;
      return answer ? [{ ...answer, programId: id }] : [];
    }),
    isWorking: missing.length > 0,
  };
}

/** Done when nothing is reckoned for a studio any more. */
export async function forecastsDone(studioId: string): Promise<void> {
  await working.get(studioId);
}

function begin(
  studio: Studio,
  missing: readonly ProgramRow[],
  { bases, nowMs }: { readonly bases: ReadonlyMap<string, string>; readonly nowMs: number },
): void {
  const work = reckonAll(studio, missing, { bases, nowMs }).finally(() => working.delete(studio.id));
  working.set(studio.id, work);
}

async function reckonAll(
  studio: Studio,
  missing: readonly ProgramRow[],
  { bases, nowMs }: { readonly bases: ReadonlyMap<string, string>; readonly nowMs: number },
): Promise<void> {
  for (const [studentId, own] of groupBy(missing, ({ student_id: id }) => id))
    try {
      await reckon(studio, studentId, { own, bases, nowMs });
    } catch {
      // A forecast is no fact: where it fails the page shows today's number alone, until something moves.
      for (const { id } of own) failed.add(bases.get(id) ?? '');
    }
}

async function reckon(studio: Studio, studentId: string, { own, bases, nowMs }: Missing): Promise<void> {
  const { desk, parts } = await deskOf(studio, studentId, nowMs);
  const today = dayNumber(nowMs, desk.studio.zone);
  const voices = await partVoices(studio, parts, nowMs);
  const programs = own.flatMap(({ id }) => programAhead(id, { voices, dates: desk.plan.dates, today }));
  const rate = deskRate(desk);
  const input = planInputOf(desk, nowMs);
  const answers = programs.length === 0 ? [] : await lookAheadBeside({ input, rate, programs });
  for (const { id } of own) {
    const found = answers.find((one) => one.id === id);
    const day = programs.find((one) => one.id === id)?.day;
    const answer = found && day !== undefined ? toldAnswer(found, day, today) : null;
    await store(studio, id, { basis: bases.get(id) ?? '', answer });
  }
}

/** Programs of one student that are to be reckoned. Units: milliseconds since 1970 */
interface Missing {
  readonly own: readonly ProgramRow[];
  readonly bases: ReadonlyMap<string, string>;
  readonly nowMs: number;
}

/** A program that is played on a day to come and has passages; nothing where it has neither. */
function programAhead(
  id: string,
  {
    voices,
    dates,
    today,
  }: {
    readonly voices: readonly PartAhead[];
    readonly dates: readonly ProgramDate[];
    readonly today: number;
  },
): ProgramAhead[] {
  const [day] = playingDays(dates, id, today);
  const heard = voices.filter(({ programId }) => programId === id);
  if (day === undefined || heard.length === 0) return [];
  return [
    {
      ...{ id, day },
      voices: joined(heard.flatMap((part) => part.voices)),
      restHazard: heard.reduce((sum, { restHazard }) => sum + restHazard, 0),
    },
  ];
}

function toldAnswer(
  { chance, low, high, ready }: ForecastAnswer[number],
  day: number,
  today: number,
): Answer {
  return { chance, low, high, ready, daysLeft: day, date: dateOfDay(today + day) };
}

/** A passage that two parts ask for speaks in both. */
function joined(voices: readonly PassageVoice[]): PassageVoice[] {
  return [...groupBy(voices, ({ id }) => id).values()].flatMap((own) => {
    const [first] = own;
    return first ? [{ ...first, voice: own.reduce((sum, { voice }) => sum + voice, 0) }] : [];
  });
}

async function store(
  studio: Studio,
  id: string,
  { basis, answer }: { readonly basis: string; readonly answer: Answer | null },
): Promise<void> {
  await studio
    .db('forecasts')
    .insert({ id, studio_id: studio.id, basis, answer: JSON.stringify(answer) })
    .onConflict('id')
    .merge(['basis', 'answer']);
}

async function storedOf(
  studio: Studio,
): Promise<ReadonlyMap<string, { readonly basis: string; readonly answer: Answer | null }>> {
  const rows = (await rowsOf(studio, 'forecasts').select('id', 'basis', 'answer')) as {
    readonly id: string;
    readonly basis: string;
    readonly answer: string;
  }[];
  return new Map(
    rows.map(({ id, basis, answer }) => [id, { basis, answer: JSON.parse(answer) as Answer | null }]),
  );
}

/** What each program's forecast rests on: its student's passages, plan and ways, its dates, the studio and the day. */
async function basesOf(
  studio: Studio,
  programs: readonly ProgramRow[],
  nowMs: number,
): Promise<ReadonlyMap<string, string>> {
  const facts = await studioFacts(studio);
  const marks = (await rowsOf(studio, 'passages as p')
    .leftJoin('readiness_snapshots as r', 'r.id', 'p.id')
    .whereNull('p.deleted_at')
    .groupBy('p.student_id')
    .select('p.student_id', studio.db.raw(PASSAGES_MARK))) as unknown as {
    readonly student_id: string;
    readonly mark: string;
  }[];
  const versions = (await rowsOf(studio, 'students as s')
    .leftJoin('plans as l', 'l.id', 's.id')
    .select('s.id', studio.db.raw("CONCAT_WS(' ', s.version, l.version) AS mark"))) as unknown as {
    readonly id: string;
    readonly mark: string;
  }[];
  const played = new Map(marks.map((row) => [row.student_id, row.mark]));
  const settled = new Map(versions.map((row) => [row.id, row.mark]));
  const dates = groupBy(await datesOf(studio, programs), ({ programId }) => programId);
  const today = dayNumber(nowMs, facts.zone);
  return new Map(
    programs.map(({ id, student_id: student, revision_id: revision }) => [
      id,
      sha256(
        Buffer.from(
          JSON.stringify([today, played.get(student), settled.get(student), revision, dates.get(id), facts]),
        ),
      ),
    ]),
  );
}
