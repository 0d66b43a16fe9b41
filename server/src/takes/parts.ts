import type { Span } from '@vivid-cue/core/score';
import type { TakeBounds, TakePart } from '@vivid-cue/contract';
import { rowsOf, type Studio } from '../db/studio.js';
import { askedSpans, partTempoText } from '../practice/asked.js';
import { readMeasureMap } from '../practice/measure-map.js';
import { partTitle, programPartRows, type ProgramPartRow } from '../practice/part-row.js';
import { effectiveTarget } from '../practice/target.js';
import { partView } from '../published/sheet-part.js';
import { sheetTitle } from '../published/sheet-view.js';

/** A measure is so long where nobody knows it. Units: quarters */
const USUAL_MEASURE = 4;

/** A student's program with what a take is called after. */
interface ProgramOfTakes {
  readonly id: string;
  readonly sheet: string;
  /** The last day that the program's sheet names, null where it names none. */
  readonly lastDate: string | null;
}

/** The parts that a student may record, and what their programs say of them. */
export interface RecordedParts {
  readonly parts: readonly TakePart[];
  readonly rows: ReadonlyMap<string, ProgramPartRow>;
  readonly programs: ReadonlyMap<string, ProgramOfTakes>;
}

/** All parts of a student's programs that are taken. */
export async function recordedParts(studio: Studio, studentId: string): Promise<RecordedParts> {
  const programs = await programsOf(studio, studentId);
  const rows = await programPartRows(studio, { programIds: [...programs.keys()] });
  const taken = rows.filter(({ is_taken: isTaken }) => isTaken === 1);
  return {
    programs,
    rows: new Map(rows.map((row) => [row.program_part_id, row])),
    parts: taken.map((row) => partOf(row, programs.get(row.program_id)?.sheet ?? '')),
  };
}

async function programsOf(studio: Studio, studentId: string): Promise<Map<string, ProgramOfTakes>> {
  const rows = (await rowsOf(studio, 'programs as p')
    .join('sheets as sh', 'sh.id', 'p.sheet_id')
    .leftJoin('deadlines as d', 'd.revision_id', 'p.revision_id')
    .where('p.student_id', studentId)
    .whereNull('p.deleted_at')
    .whereNull('sh.deleted_at')
    .groupBy('p.id', 'sh.body', 'sh.year', 'sh.division')
    .orderBy('p.id')
    .select('p.id', 'sh.body', 'sh.year', 'sh.division')
    .max({ last: studio.db.raw('COALESCE(d.end_date, d.date)') })) as unknown as {
    readonly id: string;
    readonly body: string;
    readonly year: string;
    readonly division: string;
    readonly last: string | null;
  }[];
  return new Map(
    rows.map((row) => [
      row.id,
      { id: row.id, sheet: sheetTitle(row), lastDate: row.last?.slice(0, 10) ?? null },
    ]),
  );
}

function partOf(row: ProgramPartRow, title: string): TakePart {
  const measures = readMeasureMap(row.measure_map) ?? [];
  const from = runsOf(row)[0]?.fromIndex ?? 0;
  const [first, second] = [measures[from], measures[from + 1]];
  const { repeats } = partView(row);
  return {
    id: row.program_part_id,
    programId: row.program_id,
    workTitle: partTitle(row),
    sheetTitle: title,
    scoreId: row.score_id,
    tempoText: partTempoText(row),
    bounds: boundsOf(row),
    target: effectiveTarget(row),
    withRepeats: (row.repeats ?? (repeats === 'omit' ? 'omit' : 'take')) === 'take',
    // A pickup is shorter than what is counted in.
    measureQuarters: Math.max(first?.quarters ?? 0, second?.quarters ?? 0) || USUAL_MEASURE,
  };
}

/** The tempo that a part's sheet binds. Shape: null where it binds none */
function boundsOf({ beat_unit: beatUnit, bpm_min: min, bpm_max: max }: ProgramPartRow): TakeBounds | null {
  return beatUnit === null || (min === null && max === null) ? null : { min, max, beatUnit };
}

/** The measures that a part asks for; none where its score does not hold them, or there is none. */
export function runsOf(row: ProgramPartRow): readonly Span[] {
  const measures = readMeasureMap(row.measure_map);
  const spans = measures && askedSpans(measures, row);
  return spans?.ok ? spans.value : [];
}
