import type { Handlers } from '../http/mount.js';
import { deskCallerOf } from '../http/session-guard.js';
import { takeWork } from '../takes/work.js';

type DeskTakeRoutes =
  | 'listDeskTakes'
  | 'createDeskTake'
  | 'readDeskTake'
  | 'keepDeskTakeChunk'
  | 'readDeskTakeSound'
  | 'keepDeskTakeReading'
  | 'markDeskTake'
  | 'logDeskTakeRun'
  | 'retractDeskTakeRun'
  | 'removeDeskTake'
  | 'restoreDeskTake';

const work = takeWork(({ db }, request) => {
  const { studioId, studentId } = deskCallerOf(request);
  return { studio: { db, id: studioId }, onlyStudent: studentId, studentIdOf: () => studentId };
});

/** Takes, for the student who plays in them: their own and no others. */
export const deskTakeHandlers: Handlers<DeskTakeRoutes> = {
  listDeskTakes: work.list,
  createDeskTake: work.create,
  readDeskTake: work.read,
  keepDeskTakeChunk: work.keepChunk,
  readDeskTakeSound: work.readSound,
  keepDeskTakeReading: work.keepReading,
  markDeskTake: work.mark,
  logDeskTakeRun: work.logRun,
  retractDeskTakeRun: work.retractRun,
  removeDeskTake: work.remove,
  restoreDeskTake: work.restore,
};
