// `npm test`: everything that has to pass, from a fresh clone: install, kernel, format, lint, import rules, types,
// unit tests, build, and the real interface in Chromium. Prints what failed, once more, and one total, added up from the
// runners' own reports.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const reports = path.join(root, '.reports');
const env = { ...process.env, PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD: '1' };
let [passed, failed] = [0, 0];
/** What failed and how it said so, to be read at the end of a long log. */
const failures = [];

function run(command, args) {
  console.log(`\n> ${[command, ...args].join(' ')}`);
  return spawnSync(command, args, { cwd: root, stdio: 'inherit', env }).status === 0;
}

/** A check without tests of its own counts as one. */
function count(fine, command, args) {
  if (fine) passed++;
  else {
    failed++;
    failures.push([command, ...args].join(' '));
  }
}

/** Checks side by side, as linting takes one of two cores for longer than all others take the other; what they say is printed when they end. */
async function checksTogether(all) {
  const ended = all.map(
    ([command, ...args]) =>
      new Promise((resolve) => {
        const child = spawn(command, args, { cwd: root, env });
        let said = '';
        for (const stream of [child.stdout, child.stderr]) stream.on('data', (data) => (said += data));
        child.on('close', (code) => {
          console.log(`\n> ${[command, ...args].join(' ')}\n${said}`);
          count(code === 0, command, args);
          resolve();
        });
      }),
  );
  await Promise.all(ended);
}

function found(command) {
  return spawnSync('sh', ['-c', `command -v ${command}`], { stdio: 'ignore' }).status === 0;
}

/** Adds up a runner's own report; a runner that failed without one, or without failed tests, counts as a failure. */
function runner(file, counted, command, ...args) {
  const report = path.join(reports, file);
  const fine = run(command, args);
  const none = { passed: 0, failed: 0, failures: [] };
  const counts = existsSync(report) ? counted(JSON.parse(readFileSync(report, 'utf8'))) : none;
  passed += counts.passed;
  failed += counts.failed;
  failures.push(...counts.failures);
  if (counts.failed === 0 && (!fine || counts.passed === 0)) {
    failed++;
    failures.push([command, ...args].join(' '));
  }
}

/** Failed unit tests of a Vitest report. */
function failedUnits({ testResults }) {
  return testResults.flatMap(({ name, status, message, assertionResults }) => {
    const tests = assertionResults.filter((test) => test.status === 'failed');
    const file = path.relative(root, name);
    if (status === 'failed' && tests.length === 0) return [`${file}\n${message}`];
    return tests.map(({ fullName, failureMessages }) => `${file}: ${fullName}\n${failureMessages.join('\n')}`);
  });
}

/** Failed tests of a Playwright report, whose suites hold suites. */
function failedSpecs({ suites = [], specs = [] }) {
  const own = specs
    .filter(({ ok }) => !ok)
    .map(({ file, line, title, tests }) => {
      const messages = tests.flatMap(({ results }) =>
        results.flatMap(({ errors }) => errors.map((one) => one.message)),
      );
      return `${file}:${line} ${title}\n${messages.join('\n')}`;
    });
  return [...own, ...suites.flatMap(failedSpecs)];
}

rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });
if (!existsSync(path.join(root, 'node_modules', '.package-lock.json')) && !run('npm', ['ci'])) process.exit(1);
if (!found('chromium')) {
  run('apt-get', ['update', '-qq']);
  if (!run('apt-get', ['install', '-y', '-qq', 'chromium'])) process.exit(1);
}
if (!run('npm', ['run', '-s', 'build:parts'])) process.exit(1);

await checksTogether([
  ['npm', 'run', '-s', 'lint'],
  ['sh', '-c', 'npm run -s format:check && npm run -s rules && npm run -s typecheck && npm run -s schema -- --check'],
  ['npm', 'run', '-s', 'build:app'],
]);
runner(
  'unit.json',
  (report) => ({ passed: report.numPassedTests, failed: report.numFailedTests, failures: failedUnits(report) }),
  ...[
    'npx',
    'vitest',
    'run',
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${path.join(reports, 'unit.json')}`,
  ],
);
runner(
  'e2e.json',
  (report) => ({
    passed: report.stats.expected + report.stats.flaky,
    failed: report.stats.unexpected,
    failures: failedSpecs(report),
  }),
  ...['npx', 'playwright', 'test', '-c', 'e2e/playwright.config.ts'],
);

for (const failure of failures) console.log(`\nFAILED ${failure.slice(0, 2000)}`);
console.log(`\ntotal: ${passed} passed, ${failed} failed`);
process.exitCode = failed > 0 ? 1 : 0;
