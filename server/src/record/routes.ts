import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { StudentRecord } from '@vivid-cue/contract';
import { type Handlers, studioOf } from '../http/mount.js';
import { notFound } from '../http/problem.js';
import { idFrom, queryOf } from '../http/validate.js';
import { refuseFullStudio } from '../pages/quota.js';
import { recordedTakes } from '../takes/record.js';
import { eraseStudent } from './erase.js';
import { exportedRecord } from './export.js';
import { checkedRecord, importRecord } from './import.js';

/** A record as text, its takes at the end. */
async function* withTakes(record: StudentRecord, takes: AsyncGenerator<string>): AsyncGenerator<string> {
  yield `${JSON.stringify(record).slice(0, -1)},"takes":`;
  yield* takes;
  yield '}';
}

/** All that is kept of a student: to be had, and to be gone. */
export const recordHandlers: Handlers<'exportStudent' | 'importRecord' | 'eraseStudent'> = {
  async exportStudent(deps, request, response) {
    const studio = studioOf(deps, request);
    const studentId = idFrom(request, 'studentId', 'student');
    const { sound } = queryOf(request, 'exportStudent');
    const rows = await exportedRecord(studio, studentId);
    if (!rows) throw notFound('student');
    response.attachment('student.json').type('application/json');
    if (sound === 'without') response.json(rows);
    // Sounds are sent as they are read, piece by piece: together they may be larger than what a server holds.
    else await pipeline(Readable.from(withTakes(rows, recordedTakes(studio, studentId))), response);
  },
  async importRecord(deps, request, response) {
    const studio = studioOf(deps, request);
    await refuseFullStudio(studio, deps.config.studioBytes);
    const { studentId } = queryOf(request, 'importRecord');
    const record = await checkedRecord(Buffer.isBuffer(request.body) ? request.body.toString('utf8') : '');
    response.status(201).json(await importRecord(studio, { record, studentId, nowMs: deps.now() }));
  },
  async eraseStudent(deps, request, response) {
    const isThere = await eraseStudent(studioOf(deps, request), idFrom(request, 'studentId', 'student'));
    if (!isThere) throw notFound('student');
    response.status(204).end();
  },
};
