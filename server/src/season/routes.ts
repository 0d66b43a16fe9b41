import { type Handlers, studioOf } from '../http/mount.js';
import { idFrom } from '../http/validate.js';
import { season, studentPage } from './service.js';

/** The season page and a student's page. */
export const seasonHandlers: Handlers<'readSeason' | 'readStudent'> = {
  async readSeason(deps, request, response) {
    response.json(await season(studioOf(deps, request), deps.now()));
  },
  async readStudent(deps, request, response) {
    response.json(
      await studentPage(studioOf(deps, request), idFrom(request, 'studentId', 'student'), deps.now()),
    );
  },
};
