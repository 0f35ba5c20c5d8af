// `npm test`: everything that has to pass, from a fresh clone: install, kernel, format, lint, import rules, types,
// unit tests, build, and the real interface in Chromium. Prints one total, added up from the runners' own reports.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const reports = path.join(root, '.reports');
const env = { ...process.env, PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD: '1' };
let [passed, failed] = [0, 0];

function run(command, args) {
  console.log(`\n> ${[command, ...args].join(' ')}`);
  return spawnSync(command, args, { cwd: root, stdio: 'inherit', env }).status === 0;
}

/** A check without tests of its own counts as one. */
function check(command, ...args) {
  if (run(command, args)) passed++;
  else failed++;
}

function found(command) {
  return spawnSync('sh', ['-c', `command -v ${command}`], { stdio: 'ignore' }).status === 0;
}

/** Adds up a runner's own report; a runner that failed without one, or without failed tests, counts as a failure. */
function runner(file, count, command, ...args) {
  const report = path.join(reports, file);
  const fine = run(command, args);
  const counts = existsSync(report) ? count(JSON.parse(readFileSync(report, 'utf8'))) : { passed: 0, failed: 0 };
  passed += counts.passed;
  failed += counts.failed + (!fine && counts.failed === 0 ? 1 : 0) + (fine && counts.passed === 0 ? 1 : 0);
}

rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });
if (!existsSync(path.join(root, 'node_modules', '.package-lock.json')) && !run('npm', ['ci'])) process.exit(1);
if (!found('chromium')) {
  run('apt-get', ['update', '-qq']);
  if (!run('apt-get', ['install', '-y', '-qq', 'chromium'])) process.exit(1);
}
if (!run('npm', ['run', '-s', 'build:kernel'])) process.exit(1);

check('npm', 'run', '-s', 'format:check');
check('npm', 'run', '-s', 'lint');
check('npm', 'run', '-s', 'rules');
check('npm', 'run', '-s', 'typecheck');
check('npm', 'run', '-s', 'schema', '--', '--check');
runner(
  'unit.json',
  (report) => ({ passed: report.numPassedTests, failed: report.numFailedTests }),
  ...[
    'npx',
    'vitest',
    'run',
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${path.join(reports, 'unit.json')}`,
  ],
);
check('npm', 'run', '-s', 'build:app');
runner(
  'e2e.json',
  ({ stats }) => ({ passed: stats.expected + stats.flaky, failed: stats.unexpected }),
  ...['npx', 'playwright', 'test', '-c', 'e2e/playwright.config.ts'],
);

console.log(`\ntotal: ${passed} passed, ${failed} failed`);
process.exitCode = failed > 0 ? 1 : 0;
