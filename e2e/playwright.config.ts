import { execSync } from 'node:child_process';
import { defineConfig } from '@playwright/test';

const chromium = execSync('command -v chromium', { encoding: 'utf8', shell: '/bin/sh' }).trim();
const PORT = 4321;
export const ADDRESS = `http://localhost:${PORT}`;

/** Debian's Chromium. Nothing is fetched from outside. */
export const LAUNCH = {
  executablePath: chromium,
  args: [
    '--no-sandbox',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--no-first-run',
    '--disable-quic',
  ],
};

/** How a page is drawn where there is no graphics card. */
export const DRAWING = {
  /** All by a stand-in for a graphics card, as on one: the page does not wait for what it shows. */
  whole: ['--disable-gpu-rasterization', '--use-gl=angle', '--use-angle=swiftshader', '--enable-unsafe-swiftshader'],
  /** Only WebGL by the stand-in, and the page waits for it: a fifth less work with small pictures, and far too slow with large ones. */
  quick: ['--disable-gpu', '--enable-unsafe-swiftshader'],
  /** What is not about pictures needs not wait for them. */
  none: ['--disable-gpu', '--disable-3d-apis'],
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
    launchOptions: { ...LAUNCH, args: [...LAUNCH.args, ...DRAWING.quick] },
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
