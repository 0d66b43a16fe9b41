import { connect, migrate, databaseUrlOf } from '@vivid-cue/server';
import { seedStory } from './seed.js';
import { DEMO_LOGIN } from './story.data.js';

/** The seed of the demo's dice: chosen so that the story shows every state; the spec holds it. */
const SEED = 20261125;

const db = connect(databaseUrlOf(process.env));
await migrate(db);
const known: unknown = await db('users').where({ email: DEMO_LOGIN.email }).first('id');
if (known === undefined) {
  process.stderr.write('Writing the demo story (eight students, four weeks of practice) …\n');
  await seedStory({ db, nowMs: Date.now(), seed: SEED, tell: (line) => process.stderr.write(`${line}\n`) });
}
await db.destroy();
