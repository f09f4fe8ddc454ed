// Prints "PASSED FAILED" of one report: of .NET's CTRF, of vitest or of Playwright. A skipped test counts as failed.
import { readFileSync } from "node:fs";

const r = JSON.parse(readFileSync(process.argv[2], "utf8"));
const [passed, failed] = r.results?.summary
  ? [r.results.summary.passed, r.results.summary.failed + r.results.summary.skipped + r.results.summary.other]
  : r.stats
    ? [r.stats.expected, r.stats.unexpected + r.stats.flaky + r.stats.skipped]
    : [r.numPassedTests, r.numFailedTests + r.numPendingTests + (r.numFailedTestSuites ?? 0)];
if (!Number.isInteger(passed) || !Number.isInteger(failed)) process.exit(1);
console.log(`${passed} ${failed}`);
