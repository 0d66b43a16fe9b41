// Runs the component specs in Debian's Chromium; the counts go to a file for the summary of all suites.
const { writeFileSync, existsSync } = require('node:fs');

process.env.CHROME_BIN ??= ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find((path) =>
  existsSync(path),
);

function countReporter() {
  const failures = [];
  this.onSpecComplete = (_browser, { success, skipped, suite, description, log }) => {
    if (!success && !skipped)
      failures.push(
        [[...suite, description].join(' '), ...log.map((line) => line.slice(0, 500))].join('\n    '),
      );
  };
  this.onRunComplete = (_browsers, results) => {
    const file = process.env.VIVID_CUE_COUNTS;
    const failed = results.failed + (results.error && results.failed === 0 ? 1 : 0);
    if (file) writeFileSync(file, JSON.stringify({ passed: results.success, failed, failures }));
  };
}

module.exports = (config) => {
  config.set({
    frameworks: ['jasmine'],
    plugins: [
      require('karma-jasmine'),
      require('karma-chrome-launcher'),
      { 'reporter:count': ['type', countReporter] },
    ],
    client: { jasmine: { random: true, failSpecWithNoExpectations: true, timeoutInterval: 60_000 } },
    reporters: ['dots', 'count'],
    logLevel: config.LOG_ERROR,
    browsers: ['QuietChromium'],
    hostname: '127.0.0.1',
    listenAddress: '127.0.0.1',
    customLaunchers: {
      QuietChromium: {
        base: 'ChromeHeadless',
        flags: [
          '--no-sandbox',
          '--disable-gpu',
          '--disable-quic',
          '--no-first-run',
          '--disable-background-networking',
          '--disable-component-update',
          '--disable-sync',
        ],
      },
    },
    restartOnFileChange: false,
  });
};
