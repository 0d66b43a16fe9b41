import { type Handlers, studioOf } from '../http/mount.js';
import { bodyOf, idFrom, queryOf } from '../http/validate.js';
import { refuseFullStudio } from '../pages/quota.js';
import { scoreRoom } from './room.js';
import { changeNumbering, chooseScorePart, scoreFile, uploadScore } from './service.js';

/** Score files. */
export const scoreHandlers: Handlers<
  'uploadScore' | 'chooseScorePart' | 'changeNumbering' | 'readScoreFile'
> = {
  async uploadScore(deps, request, response) {
    const studio = studioOf(deps, request);
    await refuseFullStudio(studio, deps.config.studioBytes);
    const programPartId = idFrom(request, 'programPartId', 'part');
    const { id, fileName, partId } = queryOf(request, 'uploadScore');
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    await uploadScore(studio, programPartId, {
      upload: { id, fileName, partId: partId ?? null, bytes },
      nowMs: deps.now(),
    });
    response.json(await scoreRoom(studio, programPartId, deps.now()));
  },
  async chooseScorePart(deps, request, response) {
    const studio = studioOf(deps, request);
    const programPartId = idFrom(request, 'programPartId', 'part');
    await chooseScorePart(studio, programPartId, bodyOf(request, 'chooseScorePart').partId);
    response.json(await scoreRoom(studio, programPartId, deps.now()));
  },
  async changeNumbering(deps, request, response) {
    const studio = studioOf(deps, request);
    const programPartId = idFrom(request, 'programPartId', 'part');
    await changeNumbering(studio, programPartId, bodyOf(request, 'changeNumbering').restarts);
    response.json(await scoreRoom(studio, programPartId, deps.now()));
  },
  async readScoreFile(deps, request, response) {
    const { file, file_name: name } = await scoreFile(
      studioOf(deps, request),
      idFrom(request, 'scoreId', 'score'),
    );
    response.attachment(name).type('application/octet-stream').send(file);
  },
};
