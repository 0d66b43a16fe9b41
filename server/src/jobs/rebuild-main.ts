import { databaseUrlOf } from '../config.js';
import { connect } from '../db/connect.js';
import { rebuildReadiness } from './rebuild.js';

const db = connect(databaseUrlOf(process.env));
const count = await rebuildReadiness(db);
process.stdout.write(`Counted ${count} passages anew from their reps.\n`);
await db.destroy();
