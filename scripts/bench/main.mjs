// npm run bench [-- --reps 1000000] [-- --keep]: prints medians, and each ratio beside that of the commit before, from
// docs/bench.json; --keep writes it anew. The machine's speed drifts; the ratios are what counts.
import { execFileSync } from 'node:child_process';
import { benchBrowser } from './browser.mjs';
import { benchHands } from './hands.mjs';
import { benchTakes } from './takes.mjs';
import { benchPlan } from './plan.mjs';
import { benchReading } from './reading.mjs';
import { benchServer } from './server.mjs';
import { benchSound } from './sound.mjs';
import { benchSheets } from './sheets.mjs';
import { keep } from './timing.mjs';

const at = process.argv.indexOf('--reps');
const reps = at < 0 ? 50_000 : Number(process.argv[at + 1]);
await benchReading();
await benchHands();
benchTakes();
await benchSheets();
await benchPlan();
await benchBrowser();
await benchSound();
await benchServer(reps);
if (process.argv.includes('--keep'))
  keep(execFileSync('git', ['rev-parse', '--short', 'HEAD'], { encoding: 'utf8' }).trim());
