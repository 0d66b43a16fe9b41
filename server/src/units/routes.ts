import type { UnitInput, UnitLine, UnitsView } from '@vivid-cue/contract';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';
import { type Handlers, studioOf } from '../http/mount.js';
import { notFound, Problem } from '../http/problem.js';
import { deskCallerOf } from '../http/session-guard.js';
import { bodyOf, idFrom } from '../http/validate.js';
import { findStudent } from '../students/repository.js';

/** How a kind stands is told by the last so many of it (our own). */
const LAST = 10;

interface UnitRow {
  readonly id: string;
  readonly kind: UnitInput['kind'];
  readonly level: number;
  readonly seed: number;
  readonly at: Date;
  readonly right_count: number;
  readonly of_count: number;
}

/** The units of a student, newest first. */
async function unitRows(studio: Studio, studentId: string): Promise<UnitRow[]> {
  return (await rowsOf(studio, 'practice_units')
    .where({ student_id: studentId })
    .orderBy('at', 'desc')
    .select()) as UnitRow[];
}

/** How a student stands with each kind and level. Errors: Problem not-found */
async function unitsView(studio: Studio, studentId: string): Promise<UnitsView> {
  const student = await findStudent(studio, studentId);
  if (!student) throw notFound('student');
  const rows = await unitRows(studio, studentId);
  const keys = [...new Set(rows.map(({ kind, level }) => `${kind} ${level}`))];
  const lines = keys.flatMap((key): UnitLine[] => {
    const own = rows.filter(({ kind, level }) => `${kind} ${level}` === key);
    const [first] = own;
    const last = own.slice(0, LAST);
    if (!first) return [];
    const sum = (of: 'right_count' | 'of_count'): number => last.reduce((all, row) => all + row[of], 0);
    const { kind, level, at } = first;
    return [
      {
        kind,
        level,
        done: own.length,
        share: sum('right_count') / sum('of_count'),
        lastAt: at.toISOString(),
      },
    ];
  });
  const { id, name, instrument } = student;
  return { student: { id, name, instrument }, lines };
}

/** Adds a unit once. Shape: false where the identifier is taken */
export function insertUnit(studio: Studio, studentId: string, unit: UnitInput): Promise<boolean> {
  const { right, of, at, ...columns } = unit;
  return insertOnce(studio, 'practice_units', {
    ...columns,
    ...{ student_id: studentId, at: new Date(at), right_count: right, of_count: of },
  });
}

/** The units of a student as a record holds them, oldest first. */
export async function recordedUnits(studio: Studio, studentId: string): Promise<UnitInput[]> {
  const rows = await unitRows(studio, studentId);
  return rows.reverse().map(({ id, kind, level, seed, at, right_count: right, of_count: of }) => ({
    ...{ id, kind, level, seed, at: at.toISOString(), right, of },
  }));
}

/** Sight-reading and ear tests: done at the desk, looked at by both. */
export const unitHandlers: Handlers<'listUnits' | 'listDeskUnits' | 'createDeskUnit'> = {
  async listUnits(deps, request, response) {
    response.json(await unitsView(studioOf(deps, request), idFrom(request, 'studentId', 'student')));
  },
  async listDeskUnits(deps, request, response) {
    const { studioId, studentId } = deskCallerOf(request);
    response.json(await unitsView({ db: deps.db, id: studioId }, studentId));
  },
  async createDeskUnit(deps, request, response) {
    const { studioId, studentId } = deskCallerOf(request);
    const studio = { db: deps.db, id: studioId };
    const unit = bodyOf(request, 'createDeskUnit');
    if (!(await insertUnit(studio, studentId, unit))) {
      const known: unknown = await rowsOf(studio, 'practice_units')
        .where({ id: unit.id, student_id: studentId })
        .first('id');
      if (known === undefined)
        throw new Problem('id-taken', 'This could not be kept; reload the page and try again.');
    }
    response.status(201).json({});
  },
};
