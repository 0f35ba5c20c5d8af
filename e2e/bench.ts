import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, expect, type BrowserContext, type Page } from '@playwright/test';
import { createCloth, createCollider, createShot, writeShotFile, type Shot } from '@lumbra/core';
import { LAUNCH } from './playwright.config';

/** A browser that keeps its storage between pages, as an artist's does. */
export async function openBrowser(
  baseURL: string,
): Promise<{ context: BrowserContext; page: Page; problems: string[] }> {
  const folder = mkdtempSync(path.join(tmpdir(), 'lumbra-e2e-'));
  const context = await chromium.launchPersistentContext(folder, {
    ...LAUNCH,
    baseURL,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
  });
  const page = context.pages()[0] ?? (await context.newPage());
  const problems: string[] = [];
  page.on('pageerror', (error) => problems.push(String(error)));
  page.on('console', (message) => {
    if (message.type() === 'error') problems.push(message.text());
  });
  return { context, page, problems };
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

/** Opens a shot file at home and goes to its bench. */
export async function openShotFile(page: Page, shot: Shot): Promise<void> {
  await page.goto('/');
  await page.getByTestId('shot-file').setInputFiles(await shotFile(shot));
  await page.getByRole('link', { name: `Open ${shot.name}` }).click();
  await drawn(page);
}

/** Messages about what went wrong. */
export const ERROR = '.el-message--error';

/** Waits until the viewport has drawn. */
export async function drawn(page: Page): Promise<void> {
  await expect
    .poll(async () => Number((await page.getByTestId('viewport').getAttribute('data-draws')) ?? 0))
    .toBeGreaterThan(0);
}

export async function station(page: Page, name: string): Promise<void> {
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('button', { name, exact: true }).click();
}

export async function bake(page: Page, frames: number): Promise<void> {
  await station(page, 'Run');
  await page.getByRole('button', { name: `Bake ${frames} frames` }).click();
  await expect(page.getByRole('button', { name: 'Baked' })).toBeVisible({ timeout: 120_000 });
}
