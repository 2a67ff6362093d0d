import type { Reporter, TestModule } from "vitest/node";

/** Ends a run with one plain line that any tool can read: "N passed, N failed, N skipped". */
export default class ClosingLine implements Reporter {
  onTestRunEnd(modules: readonly TestModule[], errors: readonly unknown[]): void {
    const counts = { passed: 0, failed: errors.length, skipped: 0 };
    for (const testModule of modules) {
      if (testModule.errors().length > 0) counts.failed++;
      for (const test of testModule.children.allTests()) {
        const { state } = test.result();
        if (state === "passed" || state === "failed" || state === "skipped") counts[state]++;
      }
    }
    // Behind vitest's own summary, which is printed in the same turn.
    setImmediate(() => console.log(`\n${counts.passed} passed, ${counts.failed} failed, ${counts.skipped} skipped`));
  }
}
