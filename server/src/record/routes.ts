import { type Handlers, studioOf } from '../http/mount.js';
import { notFound } from '../http/problem.js';
import { idFrom } from '../http/validate.js';
import { eraseStudent } from './erase.js';
import { exportRows } from './export.js';

/** All that is kept of a student: to be had, and to be gone. */
export const recordHandlers: Handlers<'exportStudent' | 'eraseStudent'> = {
  async exportStudent(deps, request, response) {
    const rows = await exportRows(studioOf(deps, request), idFrom(request, 'studentId', 'student'));
    if (!rows) throw notFound('student');
    response.attachment('student.json').json(rows);
  },
  async eraseStudent(deps, request, response) {
    const isThere = await eraseStudent(studioOf(deps, request), idFrom(request, 'studentId', 'student'));
    if (!isThere) throw notFound('student');
    response.status(204).end();
  },
};
