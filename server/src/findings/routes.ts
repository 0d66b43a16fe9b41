import { type Handlers, studioOf } from '../http/mount.js';
import { bodyOf, idFrom } from '../http/validate.js';
import { markFinding } from './service.js';

/** Decisions about findings. */
export const findingHandlers: Handlers<'markFinding'> = {
  async markFinding(deps, request, response) {
    const partId = idFrom(request, 'programPartId', 'part');
    const input = bodyOf(request, 'markFinding');
    response.json(
      await markFinding(studioOf(deps, request), partId, { wish: input, now: new Date(deps.now()) }),
    );
  },
};
