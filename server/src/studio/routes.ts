import { type Handlers, studioOf } from '../http/mount.js';
import { bodyOf, versionOf } from '../http/validate.js';
import { changeSettings, readSettings } from './settings.js';

/** The studio's settings. */
export const settingsHandlers: Handlers<'readSettings' | 'changeSettings'> = {
  async readSettings(deps, request, response) {
    response.json(await readSettings(studioOf(deps, request)));
  },
  async changeSettings(deps, request, response) {
    response.json(
      await changeSettings(studioOf(deps, request), versionOf(request), bodyOf(request, 'changeSettings')),
    );
  },
};
