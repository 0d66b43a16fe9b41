import { writeFileSync } from 'node:fs';
import type { Reporter, TestCase, TestResult } from '@playwright/test/reporter';

/** Writes how many tests passed and failed for the summary of all suites. */
export default class CountReporter implements Reporter {
  private passed = 0;
  private failed = 0;
  private errors = 0;

  onTestEnd(_test: TestCase, { status }: TestResult): void {
    if (status === 'passed') this.passed += 1;
    else if (status !== 'skipped') this.failed += 1;
  }

  onError(): void {
    this.errors += 1;
  }

  onEnd(): void {
    const file = process.env['VIVID_CUE_COUNTS'];
    if (file !== undefined)
      writeFileSync(
        file,
        JSON.stringify({ passed: this.passed, failed: this.failed + (this.failed === 0 ? this.errors : 0) }),
      );
  }
}
