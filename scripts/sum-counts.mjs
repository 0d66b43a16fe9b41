// Adds the counts of all suites up and prints them after what failed; the last line stands alone for whoever reads the
// end only.
import { readdirSync, readFileSync } from 'node:fs';
import { basename, join } from 'node:path';

const folder = process.argv[2];
const suites = readdirSync(folder)
  .sort()
  .map((file) => ({
    name: basename(file, '.json'),
    ...JSON.parse(readFileSync(join(folder, file), 'utf8')),
  }));
console.log('');
for (const { name, failures } of suites)
  for (const failure of failures ?? []) console.log(`FAILED in ${name}: ${failure}`);
for (const { name, passed, failed } of suites)
  console.log(`${name.padEnd(18)} ${passed} passed, ${failed} failed`);
const total = (count) => suites.reduce((sum, suite) => sum + suite[count], 0);
const failed = total('passed') + total('failed') === 0 ? 1 : total('failed');
console.log(`${total('passed')} passed, ${failed} failed`);
process.exitCode = failed === 0 ? 0 : 1;
