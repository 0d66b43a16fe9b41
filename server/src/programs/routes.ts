import { type Handlers, studioOf } from '../http/mount.js';
import { bodyOf, idFrom, versionOf } from '../http/validate.js';
import { chooseForPart, writeScale } from './choices.js';
import { programPage } from './program-page.js';
import { scoreRoom } from '../scores/room.js';
import {
  addProgram,
  addPrograms,
  changeDivision,
  changePlayer,
  removeProgram,
  setTarget,
  sheetPrograms,
} from './service.js';

/** Programs and their parts. */
export const programHandlers: Handlers<
  | 'changeStudent'
  | 'createProgram'
  | 'listSheetPrograms'
  | 'createPrograms'
  | 'removeProgram'
  | 'restoreProgram'
  | 'readProgram'
  | 'changeProgram'
  | 'changePartChoice'
  | 'writeScale'
  | 'readScoreRoom'
  | 'changeTarget'
> = {
  async createProgram(deps, request, response) {
    const id = await addProgram(
      studioOf(deps, request),
      bodyOf(request, 'createProgram'),
      new Date(deps.now()),
    );
    response.status(201).json({ id });
  },
  /** Here and not among the students: with the instrument change the parts that hold. */
  async changeStudent(deps, request, response) {
    const id = idFrom(request, 'studentId', 'student');
    const edit = { id, version: versionOf(request), change: bodyOf(request, 'changeStudent') };
    response.json(await changePlayer(studioOf(deps, request), edit));
  },
  async listSheetPrograms(deps, request, response) {
    const sheetId = idFrom(request, 'sheetId', 'sheet');
    response.json(await sheetPrograms(studioOf(deps, request), sheetId));
  },
  async createPrograms(deps, request, response) {
    const [studio, sheetId] = [studioOf(deps, request), idFrom(request, 'sheetId', 'sheet')];
    await addPrograms(studio, sheetId, {
      programs: bodyOf(request, 'createPrograms').programs,
      now: new Date(deps.now()),
    });
    response.status(201).json(await sheetPrograms(studio, sheetId));
  },
  async removeProgram(deps, request, response) {
    const now = new Date(deps.now());
    await removeProgram(studioOf(deps, request), idFrom(request, 'programId', 'program'), now);
    response.status(204).end();
  },
  async restoreProgram(deps, request, response) {
    await removeProgram(studioOf(deps, request), idFrom(request, 'programId', 'program'), null);
    response.status(204).end();
  },
  async readProgram(deps, request, response) {
    response.json(await programPage(studioOf(deps, request), idFrom(request, 'programId', 'program')));
  },
  async changeProgram(deps, request, response) {
    const studio = studioOf(deps, request);
    const programId = idFrom(request, 'programId', 'program');
    await changeDivision(studio, programId, bodyOf(request, 'changeProgram').division);
    response.json(await programPage(studio, programId));
  },
  async changePartChoice(deps, request, response) {
    const studio = studioOf(deps, request);
    const choice = bodyOf(request, 'changePartChoice');
    const programId = await chooseForPart(studio, idFrom(request, 'programPartId', 'part'), choice);
    response.json(await programPage(studio, programId));
  },
  async writeScale(deps, request, response) {
    const studio = studioOf(deps, request);
    const choice = bodyOf(request, 'writeScale');
    const programId = await writeScale(studio, idFrom(request, 'programPartId', 'part'), {
      choice,
      nowMs: deps.now(),
    });
    response.json(await programPage(studio, programId));
  },
  async readScoreRoom(deps, request, response) {
    response.json(
      await scoreRoom(studioOf(deps, request), idFrom(request, 'programPartId', 'part'), deps.now()),
    );
  },
  async changeTarget(deps, request, response) {
    const studio = studioOf(deps, request);
    const programPartId = idFrom(request, 'programPartId', 'part');
    await setTarget(studio, programPartId, bodyOf(request, 'changeTarget'));
    response.json(await scoreRoom(studio, programPartId, deps.now()));
  },
};
