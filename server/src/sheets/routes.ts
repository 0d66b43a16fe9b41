import { sheetChangeSchema, sheetInputSchema } from '@vivid-cue/contract';
import { type Handlers, studioOf } from '../http/mount.js';
import { bodyOf, idFrom, versionOf } from '../http/validate.js';
import { addSheet, changeSheet, listSheets, readSheet } from './service.js';

/** Sheets. */
export const sheetHandlers: Handlers<'listSheets' | 'createSheet' | 'readSheet' | 'changeSheet'> = {
  async listSheets(deps, request, response) {
    response.json(await listSheets(studioOf(deps, request), deps.now()));
  },
  async createSheet(deps, request, response) {
    response
      .status(201)
      .json(await addSheet(studioOf(deps, request), bodyOf(request, sheetInputSchema), deps.now()));
  },
  async readSheet(deps, request, response) {
    response.json(await readSheet(studioOf(deps, request), idFrom(request, 'sheetId', 'sheet')));
  },
  async changeSheet(deps, request, response) {
    const edit = {
      id: idFrom(request, 'sheetId', 'sheet'),
      version: versionOf(request),
      change: bodyOf(request, sheetChangeSchema),
    };
    response.json(await changeSheet(studioOf(deps, request), edit, deps.now()));
  },
};
