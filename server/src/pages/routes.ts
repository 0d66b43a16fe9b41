import { type Handlers, studioOf } from '../http/mount.js';
import { idFrom, queryOf } from '../http/validate.js';
import { refuseFullStudio } from './quota.js';
import { sendPicture } from './send-picture.js';
import { keepPage, pagePicture } from './service.js';

/** Pages of printed music. */
export const pageHandlers: Handlers<'keepPage' | 'readPagePicture'> = {
  async keepPage(deps, request, response) {
    const studio = studioOf(deps, request);
    await refuseFullStudio(studio, deps.config.studioBytes);
    const programPartId = idFrom(request, 'programPartId', 'part');
    const { id } = queryOf(request, 'keepPage');
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    response.json(await keepPage(studio, programPartId, { id, bytes, nowMs: deps.now() }));
  },
  async readPagePicture(deps, request, response) {
    const { size } = queryOf(request, 'readPagePicture');
    const picture = await pagePicture(studioOf(deps, request), idFrom(request, 'pageId', 'page'), size);
    sendPicture(response, picture);
  },
};
