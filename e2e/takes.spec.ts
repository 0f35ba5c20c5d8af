import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { bakeFingerprint, BakeRun, createAir, createCloth, createCollider, createShot, type Shot } from '@lumbra/core';
import { expect, type BrowserContext, type Page } from '@playwright/test';
import { bake, drawn, ERROR, launch, openShotFile, shotFile, smallShot, station, test, openFile } from './bench';
import { writeTake } from './controls';
import { ADDRESS } from './playwright.config';

// What must never be lost: takes, their frames, and how they are brought back.

const panel = (page: Page) => page.getByRole('region', { name: 'Run' });
const take = (page: Page, number: number) => page.getByRole('button', { name: new RegExp(`^Take ${number}\\b`) });
const act = (page: Page, name: string | RegExp) => panel(page).getByRole('button', { name }).click();
const thread = (page: Page, kind: 'firm' | 'stale' | 'hole') => page.getByTestId(`thread-${kind}`);
const goOn = (page: Page) => page.getByRole('button', { name: /^Go on from frame/ });

async function goTo(page: Page, frame: number): Promise<void> {
  const field = page.getByRole('textbox', { name: 'Current frame' });
  await field.fill(String(frame));
  await field.press('Enter');
  await expect(page.locator('[data-frame]')).toHaveAttribute('data-frame', String(frame));
}

async function setBend(page: Page, value: string): Promise<void> {
  await station(page, 'Fabric');
  const bend = page.getByRole('textbox', { name: 'Bend, warp' });
  await bend.fill(value);
  await bend.press('Enter');
  await station(page, 'Run');
}

/** The report of the take that is looked at. */
async function report(page: Page): Promise<{ fingerprint: string; frames: { frame: number }[] }> {
  await station(page, 'Hand off');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Bake report as JSON' }).click();
  const read = readFileSync(await (await download).path(), 'utf8');
  await station(page, 'Run');
  return JSON.parse(read) as Awaited<ReturnType<typeof report>>;
}

function fingerprintOf(shot: Shot): string {
  const run = new BakeRun(shot, new Map());
  const count = shot.lastFrame - shot.firstFrame + 1;
  return bakeFingerprint(Array.from({ length: count }, () => run.next().stats.fingerprint));
}

test('every bake is a take: looked at, taken up again, gone on with, cut and deleted, all undoable', async ({
  page,
}) => {
  // With air that has all that air can have, whose bits are to be those of node too.
  const air = { kind: 'wind', speed: 2, turbulence: 0.5, shadow: 1, gustDepth: 0.3 } as const;
  const small = smallShot();
  const shot = { ...small, things: [...small.things, createAir({ name: 'Wind', air })] };
  await openShotFile(page, shot);
  await bake(page, 24);
  await setBend(page, '60');
  await expect(thread(page, 'stale')).toHaveCount(1);
  await act(page, /^Bake a new take/);
  await expect(page.getByTestId('take')).toHaveCount(2);
  await expect(page.getByRole('button', { name: 'Baked' })).toBeVisible({ timeout: 60_000 });

  // The first one is still there, and brings its shot back: one edit.
  await take(page, 1).click();
  await expect(thread(page, 'stale')).toHaveCount(1);
  await expect(panel(page).getByText('22 → 60 µN·m')).toBeVisible();
  await act(page, 'Take up again');
  await expect(thread(page, 'firm')).toHaveCount(1);
  expect((await report(page)).fingerprint).toBe(fingerprintOf(shot));
  await page.keyboard.press('Control+z');
  await expect(thread(page, 'stale')).toHaveCount(1);

  // From frame 10 on with the numbers of now: what is before is as it was.
  await goTo(page, 10);
  await act(page, 'Go on from 10');
  await expect(page.getByTestId('take')).toHaveCount(3);
  await expect(page.getByRole('button', { name: 'Baked' })).toBeVisible({ timeout: 60_000 });
  await expect(thread(page, 'stale')).toHaveCount(1);
  await expect(thread(page, 'firm')).toHaveCount(1);
  await expect(panel(page).getByText('to frame 10 as take 1')).toBeVisible();

  // Named, noted, kept, cut, deleted; and undone by the key.
  await page.getByRole('textbox', { name: 'Name of the take' }).fill('Stiffer end');
  await page.getByRole('textbox', { name: 'Name of the take' }).press('Enter');
  await page.getByRole('button', { name: 'Keep Stiffer end' }).click();
  await expect(page.getByRole('button', { name: 'Keep Stiffer end' })).toHaveAttribute('aria-pressed', 'true');
  await goTo(page, 15);
  await act(page, 'Cut after 15');
  await expect(page.getByTestId('take').first()).toContainText('15 of 24, cut at 15');
  await act(page, 'Delete');
  await expect(page.getByTestId('take')).toHaveCount(2);
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('take')).toHaveCount(3);
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('take').first()).toContainText('24 frames');

  // A settled pose that is kept is a take of one frame.
  await page.keyboard.press('j');
  await expect(page.getByTestId('pose')).toContainText('Settled', { timeout: 60_000 });
  await page.getByTestId('pose').getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByTestId('take').first()).toContainText('Still 4');

  // All of it is there after a reload, with the take that was looked at.
  await page.reload();
  await drawn(page);
  await station(page, 'Run');
  await expect(page.getByTestId('take')).toHaveCount(4);
  await expect(page.getByTestId('take').nth(1)).toContainText('Stiffer end');
  await expect(page.getByTestId('take').nth(1)).toHaveAttribute('aria-current', 'true');
  await page.getByRole('button', { name: /^Still 4/ }).click();
  await expect(page.getByTestId('pose')).toContainText('Still 4');
});

test('what runs is seen: bar, finder, curve, counts and button follow every frame, and a slow frame its substeps', async ({
  page,
}) => {
  const shot = createShot({
    ...{ id: 'slow', code: 'T300', name: 'Slow sheet', lastFrame: 40, run: { substeps: 400, quality: 'draft' } },
    things: [
      createCloth({
        ...{ id: 'sheet', name: 'Sheet', position: [0, 0.6, 0] },
        shape: { kind: 'sheet', width: 1.6, height: 1.6, spacing: 0.016 },
      }),
      createCollider({
        id: 'ball',
        name: 'Ball',
        shape: { kind: 'ball', radius: 0.3, detail: 3 },
        position: [0, 0.3, 0],
      }),
    ],
  });
  await openShotFile(page, shot);
  await station(page, 'Run');
  await page.getByRole('button', { name: 'Bake 40 frames' }).click();
  // Within a frame that takes a second: how much of it is done.
  const shares = new Set<string>();
  await expect
    .poll(
      async () => {
        const text = await panel(page)
          .getByText(/^\d+ %$/)
          .first()
          .textContent({ timeout: 5000 })
          .catch(() => null);
        if (text) shares.add(text);
        return shares.size;
      },
      { timeout: 60_000, intervals: [60] },
    )
    .toBeGreaterThan(2);
  const bar = panel(page).getByRole('progressbar');
  const seen = async () => ({
    bar: Number(await bar.getAttribute('aria-valuenow')),
    finder: Number(/in (\d+) frames/.exec((await page.getByTestId('problem-count').textContent()) ?? '')?.[1] ?? 0),
    stop: Number(
      /keep (\d+) frames/.exec((await page.getByRole('button', { name: /^Stop, keep/ }).textContent()) ?? '')?.[1],
    ),
    curve: ((await page.locator('svg polyline').first().getAttribute('points')) ?? '').trim().split(' ').length,
    thread: await thread(page, 'firm').count(),
  });
  await expect.poll(async () => (await seen()).stop, { timeout: 60_000 }).toBeGreaterThanOrEqual(3);
  const now = await seen();
  expect(now.bar).toBeGreaterThan(5);
  expect(now.finder).toBeGreaterThanOrEqual(3);
  expect(now.curve).toBeGreaterThanOrEqual(3);
  expect(now.thread).toBe(1);
  await expect.poll(async () => (await seen()).finder, { timeout: 60_000 }).toBeGreaterThan(now.finder);
  await page.keyboard.press('Escape');
  await expect(goOn(page)).toBeVisible({ timeout: 10_000 });
});

test('a stored frame that is damaged is one hole; the rest plays, and it is baked again', async ({ page }) => {
  const shot = smallShot();
  await openShotFile(page, shot);
  await bake(page, 24);
  await page.evaluate(async () => {
    const open = indexedDB.open('lumbra');
    await new Promise((resolve) => (open.onsuccess = resolve));
    const store = open.result.transaction('frameData', 'readwrite').objectStore('frameData');
    const all = store.getAll();
    await new Promise((resolve) => (all.onsuccess = resolve));
    const row = (all.result as { frame: number; data: Uint8Array }[]).find(({ frame }) => frame === 7)!;
    row.data[200]! ^= 0xff;
    await new Promise((resolve) => (store.put(row).onsuccess = resolve));
    open.result.close();
  });
  await page.reload();
  await drawn(page);
  await station(page, 'Run');
  await goTo(page, 6);
  await page.getByRole('textbox', { name: 'Current frame' }).fill('7');
  await page.getByRole('textbox', { name: 'Current frame' }).press('Enter');
  await expect(page.locator(ERROR).last()).toContainText('Frame 7 of Take 1 could not be read back');
  await expect(thread(page, 'hole')).toHaveCount(1);
  await expect(thread(page, 'firm')).toHaveCount(2);
  for (const frame of [8, 24, 1]) await goTo(page, frame);
  await act(page, /^Bake the missing frame/);
  await expect(page.getByRole('button', { name: 'Baked' })).toBeVisible();
  await expect(thread(page, 'hole')).toHaveCount(0);
  await goTo(page, 7);
  expect((await report(page)).fingerprint).toBe(fingerprintOf(shot));
});

test('room that is refused in the middle of a bake loses nothing: it is said, handed off from memory, and kept when there is room', async () => {
  const shot: Shot = { ...smallShot(), lastFrame: 60, run: { quality: 'shot', substeps: 60 } };
  Object.assign(shot.things[0]!, { shape: { kind: 'sheet', width: 0.8, height: 0.8, spacing: 0.02 } });
  // A browser of its own, since it remembers for a while how much room there was.
  const context = await launch(ADDRESS, mkdtempSync(path.join(tmpdir(), 'lumbra-full-')), 'quick');
  const page = context.pages()[0]!;
  const session = await context.newCDPSession(page);
  const setRoom = (quotaSize?: number) =>
    session.send('Storage.overrideQuotaForOrigin', { origin: ADDRESS, ...(quotaSize && { quotaSize }) });
  await setRoom(1_500_000);
  await openShotFile(page, shot);
  await station(page, 'Run');
  await page.getByRole('textbox', { name: 'Last frame' }).fill('6');
  await page.getByRole('textbox', { name: 'Last frame' }).press('Enter');
  await page.getByRole('button', { name: 'Bake 6 frames' }).click();
  await expect(page.getByRole('button', { name: 'Baked' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await setBend(page, '60');
  await act(page, /^Bake a new take/);
  await expect(page.locator(ERROR).last()).toContainText('no room left', { timeout: 60_000 });
  await expect(page.getByRole('button', { name: 'Baked' })).toBeVisible({ timeout: 90_000 });
  await expect(page.getByTestId('room')).toContainText('frames are only in memory');
  // The oldest take that is not kept is offered; nothing goes by itself.
  await expect(page.getByTestId('room').getByRole('button', { name: 'Erase Take 1' })).toBeVisible();
  await expect(page.getByTestId('take')).toHaveCount(2);
  const whole = await report(page);
  expect(whole.frames).toHaveLength(60);
  await station(page, 'Hand off');
  const download = page.waitForEvent('download', { timeout: 60_000 });
  await writeTake(page, 'GLB with motion');
  expect(readFileSync(await (await download).path()).length).toBeGreaterThan(60 * 1681 * 12);
  await station(page, 'Run');
  // It is not left by mistake.
  const bench = page.url();
  await page.getByRole('link', { name: 'Lumbra' }).click();
  await expect(page.locator(ERROR).last()).toContainText('only in memory');
  expect(page.url()).toBe(bench);
  await setRoom();
  await expect(async () => {
    await page.getByRole('button', { name: 'Try to keep them again' }).click({ timeout: 2000 });
    await expect(page.getByTestId('room')).toHaveCount(0, { timeout: 2000 });
  }).toPass({ timeout: 60_000 });
  await page.reload();
  await drawn(page);
  await station(page, 'Run');
  await expect(page.getByRole('button', { name: 'Baked' })).toBeVisible();
  expect((await report(page)).fingerprint).toBe(whole.fingerprint);
  await context.close();
});

/** A seeded series of numbers from 0 to 1. */
function series(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

test('a browser that is killed in the middle of a bake keeps all but the last frames, and goes on to the same end', async () => {
  test.setTimeout(600_000);
  const kills = process.env['LUMBRA_NIGHTLY'] ? 20 : 3;
  const shot = { ...smallShot(), lastFrame: 240, run: { quality: 'shot' as const, substeps: 90 } };
  const folder = mkdtempSync(path.join(tmpdir(), 'lumbra-killed-'));
  const random = series(7);
  let context: BrowserContext | null = null;
  let address = '';
  let kept = 0;
  for (let round = 0; round <= kills; round++) {
    context = await launch(ADDRESS, folder, 'none');
    const page = context.pages()[0] ?? (await context.newPage());
    if (round === 0) {
      await page.goto('/');
      await openFile(page, await shotFile(shot));
      await page.waitForURL(/\/shot\//);
      address = page.url();
    } else {
      await page.goto(address);
      await station(page, 'Run');
      await expect(thread(page, 'hole')).toHaveCount(0);
      // What was seen last is there but for the few frames that were not kept yet.
      const frames = (await report(page)).frames.map(({ frame }) => frame);
      expect(frames).toEqual(frames.map((_, i) => i + 1));
      expect(frames.length).toBeGreaterThanOrEqual(kept - 8);
    }
    if (round === kills) break;
    await station(page, 'Run');
    await page.getByRole('button', { name: /^(Bake 240 frames|Go on from frame)/ }).click();
    const count = async () =>
      Number(
        /keep (\d+) frames/.exec((await page.getByRole('button', { name: /^Stop, keep/ }).textContent()) ?? '')?.[1] ??
          0,
      );
    // Eight are kept together: before that there may be nothing to come back to.
    const target = Math.max(9, kept + 1 + Math.floor(random() * 20));
    await expect.poll(count, { timeout: 60_000, intervals: [20] }).toBeGreaterThanOrEqual(target);
    await new Promise((resolve) => setTimeout(resolve, random() * 200));
    kept = await count();
    spawnSync('pkill', ['-9', '-f', '--', `--user-data-dir=${folder}`]);
    await context.close().catch(() => undefined);
  }
  const page = context!.pages()[0]!;
  await goOn(page).click();
  await expect(page.getByRole('button', { name: 'Baked' })).toBeVisible({ timeout: 120_000 });
  expect((await report(page)).fingerprint).toBe(fingerprintOf(shot));
  await context!.close();
});
