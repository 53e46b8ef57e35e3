/** Mocha's spec report on the terminal, and the counts in a file for `scripts/test.mjs`. */
const { writeFileSync } = require('node:fs');
const { Spec } = require('mocha').reporters;

module.exports = class CountingReporter extends Spec {
  constructor(runner, options) {
    super(runner, options);
    runner.once('end', () => {
      const { passes: passed, failures: failed } = this.stats;
      writeFileSync(options.reporterOptions.output, JSON.stringify({ passed, failed }));
    });
  }
};
