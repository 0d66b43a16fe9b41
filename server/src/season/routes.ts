import { type Handlers, studioOf } from '../http/mount.js';
import { season } from './service.js';

/** The season page. */
export const seasonHandlers: Handlers<'readSeason'> = {
  async readSeason(deps, request, response) {
    response.json(await season(studioOf(deps, request), deps.now()));
  },
};
