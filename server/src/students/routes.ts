import { type Handlers, studioOf } from '../http/mount.js';
import { notFound } from '../http/problem.js';
import { bodyOf, idFrom } from '../http/validate.js';
import { keepAir, markStudent } from './repository.js';
import { addStudent, addStudents } from './service.js';

type Names = 'changeAir' | 'createStudent' | 'createStudents' | 'removeStudent' | 'restoreStudent';

/** A student's own routes. */
export const studentHandlers: Handlers<Names> = {
  async createStudent(deps, request, response) {
    const input = bodyOf(request, 'createStudent');
    response.status(201).json(await addStudent(studioOf(deps, request), input, new Date(deps.now())));
  },
  async createStudents(deps, request, response) {
    const { students } = bodyOf(request, 'createStudents');
    response.status(201).json(await addStudents(studioOf(deps, request), students, new Date(deps.now())));
  },
  async changeAir(deps, request, response) {
    const id = idFrom(request, 'studentId', 'student');
    if (!(await keepAir(studioOf(deps, request), id, bodyOf(request, 'changeAir'))))
      throw notFound('student');
    response.status(204).end();
  },
  async removeStudent(deps, request, response) {
    const isThere = await markStudent(
      studioOf(deps, request),
      idFrom(request, 'studentId', 'student'),
      new Date(deps.now()),
    );
    if (!isThere) throw notFound('student');
    response.status(204).end();
  },
  async restoreStudent(deps, request, response) {
    const isThere = await markStudent(studioOf(deps, request), idFrom(request, 'studentId', 'student'), null);
    if (!isThere) throw notFound('student');
    response.status(204).end();
  },
};
