// Writes how many specs passed and failed to the file named by VIVID_CUE_COUNTS.
import { writeFileSync } from 'node:fs';

let passed = 0;
let failed = 0;
jasmine.getEnv().addReporter({
  specDone({ status }) {
    if (status === 'passed') passed += 1;
    if (status === 'failed') failed += 1;
  },
  jasmineDone({ overallStatus, failedExpectations }) {
    if (overallStatus !== 'passed' && failed === 0) failed = Math.max(1, failedExpectations.length);
    if (process.env.VIVID_CUE_COUNTS)
      writeFileSync(process.env.VIVID_CUE_COUNTS, JSON.stringify({ passed, failed }));
  },
});
