// npm run bench [-- --reps 1000000]: prints medians and ratios. The machine's speed drifts; the ratios are what counts.
import { benchBrowser } from './browser.mjs';
import { benchReading } from './reading.mjs';
import { benchServer } from './server.mjs';
import { benchSheets } from './sheets.mjs';

const at = process.argv.indexOf('--reps');
const reps = at < 0 ? 50_000 : Number(process.argv[at + 1]);
await benchReading();
await benchSheets();
await benchBrowser();
await benchServer(reps);
