import { execSync } from 'node:child_process';
import { defineConfig } from '@playwright/test';

const chromium = execSync('command -v chromium', { encoding: 'utf8', shell: '/bin/sh' }).trim();
const PORT = 4321;
export const ADDRESS = `http://localhost:${PORT}`;

/** Debian's Chromium, drawing WebGL in software. Nothing is fetched from outside. */
export const LAUNCH = {
  executablePath: chromium,
  args: [
    '--no-sandbox',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--no-first-run',
    '--disable-quic',
    // The page is drawn on the processor, and only WebGL by its stand-in for a graphics card: a fifth less time than with all of it drawn there.
    '--disable-gpu',
    '--enable-unsafe-swiftshader',
  ],
};

export default defineConfig({
  testDir: '.',
  timeout: 180_000,
  expect: { timeout: 30_000 },
  // Two cores: one browser waits often enough that a second has room; three quarters of the time.
  workers: 2,
  reporter: [['list'], ['json', { outputFile: '../.reports/e2e.json' }]],
  outputDir: '../test-results',
  use: {
    baseURL: ADDRESS,
    viewport: { width: 1280, height: 800 },
    launchOptions: LAUNCH,
    acceptDownloads: true,
    actionTimeout: 30_000,
  },
  webServer: {
    command: `npx lumbra serve --port ${PORT}`,
    cwd: '..',
    url: `http://localhost:${PORT}`,
    reuseExistingServer: false,
  },
});
