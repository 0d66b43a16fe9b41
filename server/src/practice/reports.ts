import {
  optimismOf,
  witnessPairs,
  type Optimism,
  type RepContext,
  type Witness,
  type WitnessedRep,
} from '@vivid-cue/core/readiness';
import { quarterBpm, type BeatUnit, type Bpm } from '@vivid-cue/core/music';
import { groupBy } from '@vivid-cue/core/base';
import { rowsOf, type Studio } from '../db/studio.js';

/** Reps of so many days say how a student reports (our own): people learn to listen. */
const REPORT_DAYS = 60;
const DAY_MS = 86_400_000;

/** What is stored beside a student: the optimism, and the reps that it was reckoned from. */
interface StoredReports {
  readonly key: string;
  readonly optimism: Optimism;
}

/**
 * How a student reports, reckoned anew where reps came since.
 * Shape:  what is usual where nobody else has heard the student
 * Units:  logits; milliseconds since 1970
 */
export async function studentReports(studio: Studio, studentId: string, nowMs: number): Promise<Optimism> {
  const since = new Date(nowMs - REPORT_DAYS * DAY_MS);
  const own = rowsOf(studio, 'reps as x')
    .join('passages as p', 'p.id', 'x.passage_id')
    .where('p.student_id', studentId)
    .where('x.at', '>=', since);
  const marks = (await own
    .clone()
    .groupBy('x.witness')
    .select('x.witness')
    .count({ reps: 'x.id' })
    .max({ last: 'x.received_at' })) as unknown as {
    readonly witness: Witness;
    readonly reps: number;
    readonly last: Date;
  }[];
  const key = JSON.stringify(marks.map(({ witness, reps, last }) => [witness, Number(reps), last.getTime()]));
  const row = (await rowsOf(studio, 'students').where({ id: studentId }).first('reports')) as
    { readonly reports: string | null } | undefined;
  const stored = row?.reports ? (JSON.parse(row.reports) as StoredReports) : null;
  if (stored?.key === key) return stored.optimism;
  const hasBoth = marks.some(({ witness }) => witness === 'student') && marks.length > 1;
  const optimism = optimismOf(hasBoth ? await pairsOf(own) : []);
  await rowsOf(studio, 'students')
    .where({ id: studentId })
    .update({ reports: JSON.stringify({ key, optimism }) });
  return optimism;
}

/** The optimism that was reckoned last; what is usual where none was. Units: logits */
export async function storedOptimism(studio: Studio, studentId: string): Promise<number> {
  const row = (await rowsOf(studio, 'students').where({ id: studentId }).first('reports')) as
    { readonly reports: string | null } | undefined;
  return row?.reports ? (JSON.parse(row.reports) as StoredReports).optimism.mean : optimismOf([]).mean;
}

interface WitnessRow {
  readonly passage_id: string;
  readonly at: Date;
  readonly bpm: Bpm;
  readonly beat_unit: BeatUnit;
  readonly context: RepContext;
  readonly is_clean: number;
  readonly witness: Witness;
  readonly target_bpm: Bpm;
  readonly target_unit: BeatUnit;
}

async function pairsOf(own: ReturnType<typeof rowsOf>): Promise<ReturnType<typeof witnessPairs>> {
  const rows = (await own
    .leftJoin('rep_retractions as t', 't.rep_id', 'x.id')
    .whereNull('t.id')
    .select(
      ...['x.passage_id', 'x.at', 'x.bpm', 'x.beat_unit', 'x.context', 'x.is_clean', 'x.witness'],
      ...['p.target_bpm', 'p.target_unit'],
    )) as unknown as WitnessRow[];
  return [...groupBy(rows, ({ passage_id: id }) => id).values()].flatMap((reps) =>
    witnessPairs(reps.map(witnessed)),
  );
}

function witnessed(row: WitnessRow): WitnessedRep {
  return {
    atMs: row.at.getTime(),
    share: quarterBpm(row.bpm, row.beat_unit) / quarterBpm(row.target_bpm, row.target_unit),
    context: row.context,
    isClean: row.is_clean === 1,
    witness: row.witness,
  };
}
