import { writeFileSync } from 'node:fs';
import type { Reporter, TestCase, TestError, TestResult } from '@playwright/test/reporter';

/** Writes how many tests passed, and what failed with its reason, for the summary of all suites. */
export default class CountReporter implements Reporter {
  private passed = 0;
  private readonly failures: string[] = [];
  private readonly errors: string[] = [];

  onTestEnd({ title }: TestCase, { status, error }: TestResult): void {
    if (status === 'passed') this.passed += 1;
    else if (status !== 'skipped') this.failures.push(`${title}\n    ${plain(error)}`);
  }

  onError(error: TestError): void {
    this.errors.push(plain(error));
  }

  onEnd(): void {
    const file = process.env['VIVID_CUE_COUNTS'];
    if (file === undefined) return;
    const failures = this.failures.length > 0 ? this.failures : this.errors;
    writeFileSync(file, JSON.stringify({ passed: this.passed, failed: failures.length, failures }));
  }
}

/** What an error says, without the colours of a terminal and not longer than a paragraph. */
function plain(error: TestError | undefined): string {
  // eslint-disable-next-line no-control-regex
  return (error?.message ?? 'no reason was given').replace(/\u001b\[[\d;]*m/g, '').slice(0, 800);
}
