import type { Knex } from 'knex';
import { accounts } from './01-accounts.js';
import { sessions } from './02-sessions.js';
import { students } from './03-students.js';
import { sheets } from './04-sheets.js';
import { scores } from './05-scores.js';
import { programs } from './06-programs.js';
import { passages } from './07-passages.js';
import { reps } from './08-reps.js';
import { snapshots } from './09-snapshots.js';
import { revisions } from './10-revisions.js';
import { choices } from './11-choices.js';
import { practisedScores } from './12-practised-scores.js';
import { pickups } from './13-pickups.js';
import { findingMarks } from './14-finding-marks.js';
import { cues } from './15-cues.js';
import { seams } from './16-seams.js';
import { numbering } from './17-numbering.js';
import { beliefs } from './18-beliefs.js';
import { partIdentity } from './19-part-identity.js';
import { studioKeys } from './20-studio-keys.js';
import { signIn } from './21-sign-in.js';
import { checkpoints } from './22-checkpoints.js';
import { askedTargets } from './23-asked-targets.js';
import { scoreBytes } from './24-score-bytes.js';
import { sheetDrafts } from './25-sheet-drafts.js';
import { passageMarks } from './26-passage-marks.js';
import { pages } from './27-pages.js';
import { climb } from './28-climb.js';
import { desk } from './29-desk.js';
import { lessons } from './30-lessons.js';
import { plans } from './31-plans.js';
import { forecasts } from './32-forecasts.js';
import { cuePlaces } from './33-cue-places.js';
import { books } from './34-books.js';
import { cueBeats } from './35-cue-beats.js';
import { takes } from './36-takes.js';
import { mocks } from './37-mocks.js';

const LIST: readonly (readonly [string, Knex.Migration])[] = [
  ['01-accounts', accounts],
  ['02-sessions', sessions],
  ['03-students', students],
  ['04-sheets', sheets],
  ['05-scores', scores],
  ['06-programs', programs],
  ['07-passages', passages],
  ['08-reps', reps],
  ['09-snapshots', snapshots],
  ['10-revisions', revisions],
  ['11-choices', choices],
  ['12-practised-scores', practisedScores],
  ['13-pickups', pickups],
  ['14-finding-marks', findingMarks],
  ['15-cues', cues],
  ['16-seams', seams],
  ['17-numbering', numbering],
  ['18-beliefs', beliefs],
  ['19-part-identity', partIdentity],
  ['20-studio-keys', studioKeys],
  ['21-sign-in', signIn],
  ['22-checkpoints', checkpoints],
  ['23-asked-targets', askedTargets],
  ['24-score-bytes', scoreBytes],
  ['25-sheet-drafts', sheetDrafts],
  ['26-passage-marks', passageMarks],
  ['27-pages', pages],
  ['28-climb', climb],
  ['29-desk', desk],
  ['30-lessons', lessons],
  ['31-plans', plans],
  ['32-forecasts', forecasts],
  ['33-cue-places', cuePlaces],
  ['34-books', books],
  ['35-cue-beats', cueBeats],
  ['36-takes', takes],
  ['37-mocks', mocks],
];

/** Where a migration that runs writes its name, until all are done: what an interrupted one left is undone first. */
export const RUNNING = 'migration_running';

async function once(db: Knex, name: string, { up, down }: Knex.Migration): Promise<void> {
  await db.raw(`CREATE TABLE IF NOT EXISTS ${RUNNING} (name VARCHAR(80) NOT NULL PRIMARY KEY)`);
  const isInterrupted = (await db(RUNNING).where({ name }).first()) !== undefined;
  if (isInterrupted) await down?.(db);
  else await db(RUNNING).insert({ name });
  await up(db);
}

/**
 * All migrations in order, forward and back. The steps of one are not one transaction, so the way back of each finds its
 * way from anywhere within the way forward.
 */
export const migrations: Knex.MigrationSource<(typeof LIST)[number]> = {
  getMigrations: () => Promise.resolve([...LIST]),
  getMigrationName: ([name]) => name,
  getMigration: ([name, migration]) =>
    Promise.resolve({ ...migration, up: (db: Knex) => once(db, name, migration) }),
};
