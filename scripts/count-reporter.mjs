// Writes how many specs passed and failed, and what failed with its reason, to the file named by VIVID_CUE_COUNTS.
import { writeFileSync } from 'node:fs';

let passed = 0;
const failures = [];
const told = ({ fullName, failedExpectations }) =>
  [fullName, ...failedExpectations.map(({ message }) => message.slice(0, 500))].join('\n    ');
jasmine.getEnv().addReporter({
  specDone(spec) {
    if (spec.status === 'passed') passed += 1;
    if (spec.status === 'failed') failures.push(told(spec));
  },
  suiteDone(suite) {
    if (suite.failedExpectations.length > 0) failures.push(told(suite));
  },
  jasmineDone({ overallStatus, failedExpectations, order }) {
    if (overallStatus !== 'passed' && failures.length === 0)
      failures.push(told({ fullName: `the suite is ${overallStatus}`, failedExpectations }));
    if (failures.length > 0) failures.push(`(in the order of seed ${order.seed})`);
    if (process.env.VIVID_CUE_COUNTS)
      writeFileSync(
        process.env.VIVID_CUE_COUNTS,
        JSON.stringify({ passed, failed: failures.length === 0 ? 0 : failures.length - 1, failures }),
      );
  },
});
