import { type Handlers, studioOf } from '../http/mount.js';
import { notFound } from '../http/problem.js';
import { bodyOf, idFrom, versionOf } from '../http/validate.js';
import { markPassage } from './repository.js';
import { logRep, logReps, takeRepBack } from './reps.js';
import { addPassage, addPassages, changePassage, passagePage } from './service.js';

type Names =
  | 'createPassage'
  | 'createPassages'
  | 'readPassage'
  | 'changePassage'
  | 'removePassage'
  | 'restorePassage'
  | 'createRep'
  | 'createReps'
  | 'retractRep';

/** Passages and their reps. */
export const passageHandlers: Handlers<Names> = {
  async createPassage(deps, request, response) {
    const partId = idFrom(request, 'programPartId', 'part');
    const input = bodyOf(request, 'createPassage');
    response
      .status(201)
      .json(await addPassage(studioOf(deps, request), partId, { input, nowMs: deps.now() }));
  },
  async createPassages(deps, request, response) {
    const partId = idFrom(request, 'programPartId', 'part');
    const { passages } = bodyOf(request, 'createPassages');
    response
      .status(201)
      .json(await addPassages(studioOf(deps, request), partId, { inputs: passages, nowMs: deps.now() }));
  },
  async readPassage(deps, request, response) {
    response.json(
      await passagePage(studioOf(deps, request), idFrom(request, 'passageId', 'passage'), deps.now()),
    );
  },
  async changePassage(deps, request, response) {
    const edit = {
      id: idFrom(request, 'passageId', 'passage'),
      version: versionOf(request),
      change: bodyOf(request, 'changePassage'),
    };
    response.json(await changePassage(studioOf(deps, request), edit, deps.now()));
  },
  async removePassage(deps, request, response) {
    const isThere = await markPassage(
      studioOf(deps, request),
      idFrom(request, 'passageId', 'passage'),
      new Date(deps.now()),
    );
    if (!isThere) throw notFound('passage');
    response.status(204).end();
  },
  async restorePassage(deps, request, response) {
    const isThere = await markPassage(studioOf(deps, request), idFrom(request, 'passageId', 'passage'), null);
    if (!isThere) throw notFound('passage');
    response.status(204).end();
  },
  async createRep(deps, request, response) {
    const passageId = idFrom(request, 'passageId', 'passage');
    const rep = bodyOf(request, 'createRep');
    response.status(201).json(await logRep(studioOf(deps, request), passageId, { rep, nowMs: deps.now() }));
  },
  async createReps(deps, request, response) {
    const passageId = idFrom(request, 'passageId', 'passage');
    const { reps } = bodyOf(request, 'createReps');
    response.status(201).json(await logReps(studioOf(deps, request), passageId, { reps, nowMs: deps.now() }));
  },
  async retractRep(deps, request, response) {
    response.json(await takeRepBack(studioOf(deps, request), idFrom(request, 'repId', 'rep'), deps.now()));
  },
};
