import { type Handlers, studioOf } from '../http/mount.js';
import { notFound } from '../http/problem.js';
import { idFrom, queryOf } from '../http/validate.js';
import { refuseFullStudio } from '../pages/quota.js';
import { eraseStudent } from './erase.js';
import { exportedRecord } from './export.js';
import { checkedRecord, importRecord } from './import.js';

/** All that is kept of a student: to be had, and to be gone. */
export const recordHandlers: Handlers<'exportStudent' | 'importRecord' | 'eraseStudent'> = {
  async exportStudent(deps, request, response) {
    const rows = await exportedRecord(studioOf(deps, request), idFrom(request, 'studentId', 'student'));
    if (!rows) throw notFound('student');
    response.attachment('student.json').json(rows);
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
