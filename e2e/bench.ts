import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, expect, test as plain, type BrowserContext, type Page } from '@playwright/test';
import { createCloth, createCollider, createShot, writeShotFile, type Shot } from '@lumbra/core';
import { ADDRESS, DRAWING, LAUNCH } from './playwright.config';

/** A browser that keeps its storage in a folder, as an artist's does. */
export function launch(
  baseURL: string,
  folder: string,
  drawing: keyof typeof DRAWING = 'whole',
): Promise<BrowserContext> {
  return chromium.launchPersistentContext(folder, {
    ...LAUNCH,
    // What moves by itself is drawn many times.
    reducedMotion: 'reduce',
    args: [...LAUNCH.args, ...DRAWING[drawing]],
    baseURL,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
  });
}

/** A new browser that keeps its storage between pages. */
export async function openBrowser(
  baseURL: string,
  drawing: keyof typeof DRAWING = 'whole',
): Promise<{ context: BrowserContext; page: Page; problems: string[] }> {
  const context = await launch(baseURL, mkdtempSync(path.join(tmpdir(), 'lumbra-e2e-')), drawing);
  const page = context.pages()[0] ?? (await context.newPage());
  const problems: string[] = [];
  listen(page, problems);
  return { context, page, problems };
}

/**
 * A test of the interface. All share one browser, as an artist's day does; each begins with an empty storage and a page of its own, and
 * fails when the page says on its console that something went wrong.
 */
export const test = plain.extend<{ problems: string[] }, { browserOfAll: BrowserContext }>({
  browserOfAll: [
    async ({}, use) => {
      const { context } = await openBrowser(ADDRESS, 'quick');
      // Drawing in software takes most of the time: a quick picture does.
      await context.addInitScript(() => {
        // A report's page, in a frame of its own, has no storage.
        if (window === window.top) localStorage.setItem('lumbra.quickPicture', 'true');
      });
      await use(context);
      await context.close();
    },
    { scope: 'worker' },
  ],

  problems: async ({}, use) => {
    await use([]);
  },
  page: async ({ browserOfAll, problems }, use) => {
    const page = await browserOfAll.newPage();
    // Pages that were left open have the storage open too.
    for (const other of browserOfAll.pages()) if (other !== page) await other.close();
    await clearStorage(page);
    listen(page, problems);
    await use(page);
    expect(problems).toEqual([]);
  },
});

/** Forgets all that Lumbra has kept in this browser. */
export async function clearStorage(page: Page): Promise<void> {
  const session = await page.context().newCDPSession(page);
  await session.send('Storage.clearDataForOrigin', { origin: ADDRESS, storageTypes: 'all' });
  await session.detach();
}

function listen(page: Page, problems: string[]): void {
  page.on('pageerror', (error) => problems.push(String(error)));
  page.on('console', (message) => {
    if (message.type() === 'error') problems.push(message.text());
  });
}

/** A small shot that runs in seconds: a sheet over a box. */
export function smallShot(): Shot {
  return createShot({
    id: 'small',
    code: 'T010',
    name: 'Small drape',
    lastFrame: 24,
    run: { quality: 'shot' },
    things: [
      createCloth({
        id: 'sheet',
        name: 'Sheet',
        shape: { kind: 'sheet', width: 0.8, height: 0.8, spacing: 0.04 },
        position: [0, 0.5, 0],
      }),
      createCollider({
        id: 'box',
        name: 'Box',
        shape: { kind: 'box', width: 0.3, height: 0.3, depth: 0.3 },
        position: [0, 0.15, 0],
      }),
      createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' } }),
    ],
  });
}

export async function shotFile(shot: Shot): Promise<{ name: string; mimeType: string; buffer: Buffer }> {
  return {
    name: `${shot.code}.lumbra`,
    mimeType: 'application/zip',
    buffer: Buffer.from(await writeShotFile(shot, new Map())),
  };
}

/** Opens a file at home. */
export async function openFile(page: Page, file: { name: string; mimeType: string; buffer: Buffer }): Promise<void> {
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Open a file' }).click();
  await (await chooser).setFiles(file);
}

/** Opens a shot file at home, which leads to its bench. */
export async function openShotFile(page: Page, shot: Shot): Promise<void> {
  await page.goto('/');
  await openFile(page, await shotFile(shot));
  await page.waitForURL(/\/shot\//);
  await drawn(page);
}

/** Messages about what went wrong. */
export const ERROR = '.el-message--error';

/** Waits until the viewport has drawn. */
export async function drawn(page: Page): Promise<void> {
  // Not polled: what is polled is looked at less and less often.
  await page.locator('[data-testid=viewport][data-draws]:not([data-draws="0"])').waitFor();
}

/** Waits until all that has changed is drawn. */
export async function atRest(page: Page): Promise<void> {
  await expect(page.getByTestId('viewport')).toHaveAttribute('data-rest', 'true');
}

/** Takes a handle that stands at a place of the view, and drags it. */
export async function dragHandle(page: Page, [x, y]: [number, number], by: number): Promise<void> {
  await atRest(page);
  await page.mouse.move(x, y + 10);
  await page.mouse.move(x, y);
  await expect(page.getByTestId('viewport')).toHaveAttribute('data-handle', 'true');
  await page.mouse.down();
  await page.mouse.move(x, y + by, { steps: 4 });
  await page.mouse.up();
}

export async function station(page: Page, name: string): Promise<void> {
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('button', { name, exact: true }).click();
}

export async function bake(page: Page, frames: number): Promise<void> {
  await station(page, 'Run');
  await page.getByRole('button', { name: `Bake ${frames} frames` }).click();
  await expect(page.getByRole('button', { name: 'Baked' })).toBeVisible({ timeout: 120_000 });
}
