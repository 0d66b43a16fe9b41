import { type Handlers, studioOf } from '../http/mount.js';
import { notFound } from '../http/problem.js';
import { bodyOf, idFrom, versionOf } from '../http/validate.js';
import { markCue } from './repository.js';
import { addCue, addCues, changeCue } from './service.js';

/** Cues. */
export const cueHandlers: Handlers<'createCue' | 'createCues' | 'changeCue' | 'removeCue' | 'restoreCue'> = {
  async createCue(deps, request, response) {
    const partId = idFrom(request, 'programPartId', 'part');
    const input = bodyOf(request, 'createCue');
    response
      .status(201)
      .json(await addCue(studioOf(deps, request), partId, { input, now: new Date(deps.now()) }));
  },
  async createCues(deps, request, response) {
    const partId = idFrom(request, 'programPartId', 'part');
    const { cues } = bodyOf(request, 'createCues');
    response
      .status(201)
      .json(await addCues(studioOf(deps, request), partId, { cues, now: new Date(deps.now()) }));
  },
  async changeCue(deps, request, response) {
    const edit = {
      id: idFrom(request, 'cueId', 'cue'),
      version: versionOf(request),
      change: bodyOf(request, 'changeCue'),
    };
    response.json(await changeCue(studioOf(deps, request), edit));
  },
  async removeCue(deps, request, response) {
    const id = idFrom(request, 'cueId', 'cue');
    if (!(await markCue(studioOf(deps, request), id, new Date(deps.now())))) throw notFound('cue');
    response.status(204).end();
  },
  async restoreCue(deps, request, response) {
    const id = idFrom(request, 'cueId', 'cue');
    if (!(await markCue(studioOf(deps, request), id, null))) throw notFound('cue');
    response.status(204).end();
  },
};
