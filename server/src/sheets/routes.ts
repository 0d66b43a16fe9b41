import { type Handlers, studioOf } from '../http/mount.js';
import { bodyOf, idFrom, versionOf } from '../http/validate.js';
import { dropDraft, keepDraft, readDraft } from './drafts.js';
import { addRevision, listRevisions, movePrograms } from './revisions.js';
import { addSheet, changeSheet, listSheets, removeSheet, restoreSheet } from './service.js';
import { readSheet } from '../published/sheet-view.js';

/** Sheets and their revisions. */
export const sheetHandlers: Handlers<
  | 'listSheets'
  | 'createSheet'
  | 'readSheet'
  | 'changeSheet'
  | 'removeSheet'
  | 'restoreSheet'
  | 'listRevisions'
  | 'createRevision'
  | 'movePrograms'
  | 'readSheetDraft'
  | 'keepSheetDraft'
  | 'dropSheetDraft'
> = {
  async listSheets(deps, request, response) {
    response.json(await listSheets(studioOf(deps, request), deps.now()));
  },
  async createSheet(deps, request, response) {
    response
      .status(201)
      .json(await addSheet(studioOf(deps, request), bodyOf(request, 'createSheet'), deps.now()));
  },
  async readSheet(deps, request, response) {
    response.json(await readSheet(studioOf(deps, request), idFrom(request, 'sheetId', 'sheet')));
  },
  async changeSheet(deps, request, response) {
    const edit = {
      id: idFrom(request, 'sheetId', 'sheet'),
      version: versionOf(request),
      change: bodyOf(request, 'changeSheet'),
    };
    response.json(await changeSheet(studioOf(deps, request), edit, deps.now()));
  },
  async removeSheet(deps, request, response) {
    response.json(
      await removeSheet(studioOf(deps, request), idFrom(request, 'sheetId', 'sheet'), deps.now()),
    );
  },
  async restoreSheet(deps, request, response) {
    await restoreSheet(studioOf(deps, request), idFrom(request, 'sheetId', 'sheet'));
    response.status(204).end();
  },
  async listRevisions(deps, request, response) {
    response.json(await listRevisions(studioOf(deps, request), idFrom(request, 'sheetId', 'sheet')));
  },
  async createRevision(deps, request, response) {
    const edit = {
      id: idFrom(request, 'sheetId', 'sheet'),
      version: versionOf(request),
      input: bodyOf(request, 'createRevision'),
    };
    response.status(201).json(await addRevision(studioOf(deps, request), edit, deps.now()));
  },
  async readSheetDraft(deps, request, response) {
    const draft = await readDraft(studioOf(deps, request), idFrom(request, 'sheetId', 'sheet'));
    response.json({ draft });
  },
  async keepSheetDraft(deps, request, response) {
    const kept = {
      sheetId: idFrom(request, 'sheetId', 'sheet'),
      version: versionOf(request),
      state: bodyOf(request, 'keepSheetDraft').state,
    };
    response.json(await keepDraft(studioOf(deps, request), kept, deps.now()));
  },
  async dropSheetDraft(deps, request, response) {
    await dropDraft(studioOf(deps, request), idFrom(request, 'sheetId', 'sheet'));
    response.status(204).end();
  },
  async movePrograms(deps, request, response) {
    const { programIds } = bodyOf(request, 'movePrograms');
    response.json(
      await movePrograms(studioOf(deps, request), idFrom(request, 'sheetId', 'sheet'), programIds),
    );
  },
};
