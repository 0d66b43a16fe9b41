import { type Handlers, studioOf } from '../http/mount.js';
import { idFrom } from '../http/validate.js';
import { takeWork } from './work.js';

type TakeRoutes =
  | 'listTakes'
  | 'createTake'
  | 'readTake'
  | 'keepTakeChunk'
  | 'readTakeSound'
  | 'keepTakeReading'
  | 'markTake'
  | 'logTakeRun'
  | 'retractTakeRun'
  | 'removeTake'
  | 'restoreTake';

const work = takeWork((deps, request) => ({
  studio: studioOf(deps, request),
  onlyStudent: null,
  studentIdOf: (asked) => idFrom(asked, 'studentId', 'student'),
}));

/** Takes, for the instructor. */
export const takeHandlers: Handlers<TakeRoutes> = {
  listTakes: work.list,
  createTake: work.create,
  readTake: work.read,
  keepTakeChunk: work.keepChunk,
  readTakeSound: work.readSound,
  keepTakeReading: work.keepReading,
  markTake: work.mark,
  logTakeRun: work.logRun,
  retractTakeRun: work.retractRun,
  removeTake: work.remove,
  restoreTake: work.restore,
};
