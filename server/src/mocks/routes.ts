import { type Handlers, studioOf } from '../http/mount.js';
import { bodyOf, idFrom, versionOf } from '../http/validate.js';
import { closeMock, reopenMock } from './closing.js';
import { mockView } from './day-view.js';
import { addListener, revokeListener } from './listening.js';
import { attachTake, changeMock, listMocks, makeMock, markMock, placeMock } from './service.js';

/** Mock days, for the instructor. */
export const mockHandlers: Handlers<
  | 'listMocks'
  | 'createMock'
  | 'readMock'
  | 'changeMock'
  | 'removeMock'
  | 'restoreMock'
  | 'placeMock'
  | 'attachMockTake'
  | 'closeMock'
  | 'reopenMock'
  | 'createListener'
  | 'revokeListener'
> = {
  async listMocks(deps, request, response) {
    response.json(await listMocks(studioOf(deps, request), deps.now()));
  },
  async createMock(deps, request, response) {
    const made = await makeMock(studioOf(deps, request), bodyOf(request, 'createMock'), deps.now());
    response.status(201).json(made);
  },
  async readMock(deps, request, response) {
    response.json(await mockView(studioOf(deps, request), idFrom(request, 'mockId', 'mock day')));
  },
  async changeMock(deps, request, response) {
    const changed = { change: bodyOf(request, 'changeMock'), version: versionOf(request) };
    response.json(await changeMock(studioOf(deps, request), idFrom(request, 'mockId', 'mock day'), changed));
  },
  async removeMock(deps, request, response) {
    await markMock(studioOf(deps, request), idFrom(request, 'mockId', 'mock day'), new Date(deps.now()));
    response.status(204).end();
  },
  async restoreMock(deps, request, response) {
    const id = idFrom(request, 'mockId', 'mock day');
    await markMock(studioOf(deps, request), id, null);
    response.json(await mockView(studioOf(deps, request), id));
  },
  async placeMock(deps, request, response) {
    const place = bodyOf(request, 'placeMock');
    response.json(await placeMock(studioOf(deps, request), idFrom(request, 'mockId', 'mock day'), place));
  },
  async attachMockTake(deps, request, response) {
    const take = bodyOf(request, 'attachMockTake');
    response.json(await attachTake(studioOf(deps, request), idFrom(request, 'mockId', 'mock day'), take));
  },
  async closeMock(deps, request, response) {
    response.json(
      await closeMock(studioOf(deps, request), idFrom(request, 'mockId', 'mock day'), deps.now()),
    );
  },
  async reopenMock(deps, request, response) {
    response.json(
      await reopenMock(studioOf(deps, request), idFrom(request, 'mockId', 'mock day'), deps.now()),
    );
  },
  async createListener(deps, request, response) {
    const made = await addListener(studioOf(deps, request), idFrom(request, 'mockId', 'mock day'), {
      input: bodyOf(request, 'createListener'),
      secret: deps.config.sessionSecret,
      nowMs: deps.now(),
    });
    response.status(201).json(made);
  },
  async revokeListener(deps, request, response) {
    await revokeListener(studioOf(deps, request), idFrom(request, 'listenerId', 'link'), deps.now());
    response.status(204).end();
  },
};
