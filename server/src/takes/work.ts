import type { Request, Response } from 'express';
import type { Deps, Handler } from '../http/mount.js';
import { notFound } from '../http/problem.js';
import { bodyOf, idFrom, queryOf, versionOf } from '../http/validate.js';
import { beginTake, takeChunk } from './arriving.js';
import { sendSound } from './send-sound.js';
import {
  heardTake,
  keepReading,
  logRun,
  markDropped,
  markTake,
  studentTakes,
  takeRunBack,
  takeView,
  type TakeReader,
} from './service.js';

/** Who calls: whose takes they may have, and of whom they list and keep some. */
export interface TakeCaller extends TakeReader {
  readonly studentIdOf: (request: Request) => string;
}

/** What is done with takes. */
export type TakeDeed =
  | 'list'
  | 'create'
  | 'read'
  | 'keepChunk'
  | 'readSound'
  | 'keepReading'
  | 'mark'
  | 'logRun'
  | 'retractRun'
  | 'remove'
  | 'restore';

const takeIdOf = (request: Request): string => idFrom(request, 'takeId', 'take');

/**
 * The work of the routes of takes, the same for the instructor and at the desk: both take the same input.
 * Shape:  a handler a deed
 */
export function takeWork(callerOf: (deps: Deps, request: Request) => TakeCaller): Record<TakeDeed, Handler> {
  return { ...keeping(callerOf), ...listening(callerOf) };
}

function keeping(
  callerOf: (deps: Deps, request: Request) => TakeCaller,
): Record<'create' | 'keepChunk' | 'keepReading' | 'remove' | 'restore', Handler> {
  return {
    async create(deps, request, response) {
      const caller = callerOf(deps, request);
      const studentId = caller.studentIdOf(request);
      const input = bodyOf(request, 'createTake');
      const keeper = { studio: caller.studio, studentId, byStudent: caller.onlyStudent !== null };
      await beginTake({ ...keeper, nowMs: deps.now() }, input, deps.config.takeBytes);
      response.status(201).json(await takeView(caller, input.id));
    },
    async keepChunk(deps, request, response) {
      const caller = callerOf(deps, request);
      const { form, n } = queryOf(request, 'keepTakeChunk');
      const { id: takeId } = await heardTake(caller, takeIdOf(request));
      const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
      response.json({ isWhole: await takeChunk(caller.studio, { takeId, form, n, bytes }, deps.now()) });
    },
    async keepReading(deps, request, response) {
      const { told } = bodyOf(request, 'keepTakeReading');
      await keepReading(callerOf(deps, request), takeIdOf(request), told);
      response.status(204).end();
    },
    async remove(deps, request, response) {
      await markDropped(callerOf(deps, request), takeIdOf(request), new Date(deps.now()));
      response.status(204).end();
    },
    async restore(deps, request, response) {
      const caller = callerOf(deps, request);
      await markDropped(caller, takeIdOf(request), null);
      response.json(await takeView(caller, takeIdOf(request)));
    },
  };
}

function listening(
  callerOf: (deps: Deps, request: Request) => TakeCaller,
): Record<'list' | 'read' | 'readSound' | 'mark' | 'logRun' | 'retractRun', Handler> {
  return {
    async list(deps, request, response) {
      const { studio, studentIdOf } = callerOf(deps, request);
      response.json(await studentTakes(studio, studentIdOf(request), deps.config.takeBytes));
    },
    async read(deps, request, response) {
      response.json(await takeView(callerOf(deps, request), takeIdOf(request)));
    },
    async readSound(deps, request, response: Response) {
      const caller = callerOf(deps, request);
      const { form } = queryOf(request, 'readTakeSound');
      const take = await heardTake(caller, takeIdOf(request));
      if (take.whole_at === null) throw notFound('take');
      await sendSound(caller.studio, { takeId: take.id, form }, { request, response });
    },
    async mark(deps, request, response) {
      const marked = { marks: bodyOf(request, 'markTake'), version: versionOf(request) };
      response.json(await markTake(callerOf(deps, request), takeIdOf(request), marked));
    },
    async logRun(deps, request, response) {
      const run = { run: bodyOf(request, 'logTakeRun'), nowMs: deps.now() };
      response.status(201).json(await logRun(callerOf(deps, request), takeIdOf(request), run));
    },
    async retractRun(deps, request, response) {
      response.json(await takeRunBack(callerOf(deps, request), takeIdOf(request), deps.now()));
    },
  };
}
