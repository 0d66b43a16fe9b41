// Adds the counts of all suites up and prints them; the last line stands alone for whoever reads the end only.
import { readdirSync, readFileSync } from 'node:fs';
import { basename, join } from 'node:path';

const folder = process.argv[2];
let passed = 0;
let failed = 0;
console.log('');
for (const file of readdirSync(folder).sort()) {
  const counts = JSON.parse(readFileSync(join(folder, file), 'utf8'));
  console.log(`${basename(file, '.json').padEnd(18)} ${counts.passed} passed, ${counts.failed} failed`);
  passed += counts.passed;
  failed += counts.failed;
}
if (passed + failed === 0) failed = 1;
console.log(`${passed} passed, ${failed} failed`);
process.exitCode = failed === 0 ? 0 : 1;
