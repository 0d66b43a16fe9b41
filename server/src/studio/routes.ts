import { type Handlers, studioOf } from '../http/mount.js';
import { bodyOf, versionOf } from '../http/validate.js';
import { changeBook, readBook } from './book.js';
import { changeSettings, readSettings } from './settings.js';

/** The studio's settings. */
export const settingsHandlers: Handlers<'readSettings' | 'changeSettings' | 'readBook' | 'changeBook'> = {
  async readSettings(deps, request, response) {
    response.json(await readSettings(studioOf(deps, request)));
  },
  async readBook(deps, request, response) {
    response.json(await readBook(studioOf(deps, request)));
  },
  async changeBook(deps, request, response) {
    response.json(
      await changeBook(studioOf(deps, request), versionOf(request), bodyOf(request, 'changeBook')),
    );
  },
  async changeSettings(deps, request, response) {
    response.json(
      await changeSettings(studioOf(deps, request), versionOf(request), bodyOf(request, 'changeSettings')),
    );
  },
};
