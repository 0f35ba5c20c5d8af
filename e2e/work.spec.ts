import { readFileSync } from 'node:fs';
import { expect } from '@playwright/test';
import { bakeFrames, BakeRun, bakeFingerprint, readObj, readShotFile } from '@lumbra/core';
import { unzipSync, strFromU8 } from 'fflate';
import { validateBytes } from 'gltf-validator';
import { bake, drawn, openShotFile, smallShot, station, test } from './bench';
import { pick, writeFrame, writeTake } from './controls';

// The work from end to end, as an artist does it, on a small shot.

test('settle, change a number, bake, scrub, undo, reload and find the bake, hand off', async ({ page }) => {
  const shot = smallShot();
  await openShotFile(page, shot);

  // Settle, and make the pose the start.
  await page.keyboard.press('j');
  await expect(page.getByTestId('pose')).toContainText('Settled');
  await page.getByRole('button', { name: 'Back to the timeline' }).click();
  await expect(page.getByTestId('pose')).toHaveCount(0);

  // Bake.
  await bake(page, 24);
  await expect(page.getByTestId('thread-firm')).toHaveCount(1);
  await expect(page.getByTestId('frame')).toHaveValue('24');

  // Same bits as node computes.
  const frames: string[] = [];
  for await (const baked of bakeFrames(new BakeRun(shot, new Map()), 24)) frames.push(baked.stats.fingerprint);
  await station(page, 'Hand off');
  const reportDownload = page.waitForEvent('download', { timeout: 60_000 });
  await page.getByRole('button', { name: 'Bake report as JSON' }).click();
  const report = JSON.parse(readFileSync(await (await reportDownload).path(), 'utf8')) as {
    fingerprint: string;
    frames: unknown[];
  };
  expect(report.frames).toHaveLength(24);
  expect(report.fingerprint).toBe(bakeFingerprint(frames));
  // Read here: the page that is written as HTML too.
  await page.getByRole('button', { name: 'Read the bake report' }).click();
  const read = page.frameLocator('iframe[title="Bake report"]');
  await expect(read.getByRole('heading', { name: 'Over the shot' })).toBeVisible();
  await expect(read.getByText(report.fingerprint)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.locator('iframe[title="Bake report"]')).toBeHidden();

  // Changing bending makes the bake stale and says what changed; undo makes it firm again.
  await station(page, 'Fabric');
  const bend = page.getByRole('textbox', { name: 'Bend, warp' });
  await bend.fill('60');
  await bend.press('Enter');
  await expect(page.getByTestId('thread-stale')).toHaveCount(1);
  await station(page, 'Run');
  await expect(page.getByRole('region', { name: 'Run' }).getByText('Sheet, bend, warp')).toBeVisible();
  await expect(page.getByText('22 → 60 µN·m')).toBeVisible();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByTestId('thread-firm')).toHaveCount(1);

  // Scrub with the keys and on the track.
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByTestId('frame')).toHaveValue('23');
  const track = page.getByRole('group', { name: 'Frames and keys' });
  const box = (await track.boundingBox())!;
  await page.mouse.click(box.x + 22, box.y + 40);
  await expect(page.getByTestId('frame')).toHaveValue('1');

  // Reload: the bake is there, and is firm.
  await expect(page.getByTestId('saved')).toHaveText('Saved');
  await page.reload();
  await drawn(page);
  await expect(page.getByTestId('thread-firm')).toHaveCount(1);
  await station(page, 'Run');
  await expect(page.getByText('24 frames').first()).toBeVisible();

  // GLB with motion.
  await station(page, 'Hand off');
  const glbDownload = page.waitForEvent('download', { timeout: 60_000 });
  await writeTake(page, 'GLB with motion');
  const glb = readFileSync(await (await glbDownload).path());
  const validation = await validateBytes(new Uint8Array(glb));
  expect(validation.issues.numErrors).toBe(0);
  expect(validation.info.animationCount).toBe(1);
  expect(validation.info.hasMorphTargets).toBe(true);

  // OBJ sequence: one file a frame, with the positions of that frame.
  const zipDownload = page.waitForEvent('download', { timeout: 60_000 });
  await writeTake(page, 'OBJ sequence');
  const files = unzipSync(new Uint8Array(readFileSync(await (await zipDownload).path())));
  expect(Object.keys(files)).toHaveLength(24);
  const last = readObj(strFromU8(files['sheet/0024.obj']!));
  const run = new BakeRun(shot, new Map());
  let expected = new Float32Array();
  for await (const baked of bakeFrames(run, 24)) expected = baked.positions[0]!;
  const worst = last.positions.reduce((most, value, i) => Math.max(most, Math.abs(value - expected[i]!)), 0);
  expect(worst).toBeLessThan(1e-6);

  // The shot file opens in the command line's own reader.
  const shotDownload = page.waitForEvent('download', { timeout: 60_000 });
  await page.getByRole('button', { name: /Shot file/ }).click();
  const kept = await readShotFile(new Uint8Array(readFileSync(await (await shotDownload).path())));
  expect(kept.shot.things.map(({ id }) => id)).toEqual(['sheet', 'box', 'ground']);
});

test('stop a bake in the middle, keep what is done, and go on to the same end', async ({ page }) => {
  const shot = { ...smallShot(), lastFrame: 60, run: { quality: 'draft' as const, substeps: 120 } };
  await openShotFile(page, shot);
  await station(page, 'Run');
  await page.getByRole('button', { name: 'Bake 60 frames' }).click();
  await expect(page.getByTestId('progress')).toContainText(/frame ([5-9]|[1-5]\d) of 60/);
  await page.keyboard.press('Escape');
  const goOn = page.getByRole('button', { name: /Go on from frame/ });
  await expect(goOn).toBeVisible();
  const stoppedAt = Number(/\d+/.exec(await goOn.innerText())![0]);
  expect(stoppedAt).toBeLessThan(60);

  // A closed page loses nothing that was kept.
  await page.reload();
  await drawn(page);
  await station(page, 'Run');
  await expect(goOn).toHaveText(new RegExp(`frame ${stoppedAt}`));
  await goOn.click();
  await expect(page.getByRole('button', { name: 'Baked' })).toBeVisible({ timeout: 120_000 });

  const frames: string[] = [];
  for await (const baked of bakeFrames(new BakeRun(shot, new Map()), 60)) frames.push(baked.stats.fingerprint);
  await station(page, 'Hand off');
  const download = page.waitForEvent('download', { timeout: 60_000 });
  await page.getByRole('button', { name: 'Bake report as JSON' }).click();
  const report = JSON.parse(readFileSync(await (await download).path(), 'utf8')) as { fingerprint: string };
  expect(report.fingerprint).toBe(bakeFingerprint(frames));

  // Deleting is undone by the key, as everything is.
  await station(page, 'Run');
  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(page.getByTestId('thread-firm')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('thread-firm')).toHaveCount(1);
});

test('pin by corners and by a box drawn in the viewport, undo and redo', async ({ page }) => {
  await openShotFile(page, smallShot());
  await station(page, 'Hold');
  await page.getByRole('button', { name: 'Corners' }).click();
  await expect(page.getByTestId('selected-count')).toHaveText('4 points');
  await page.getByRole('button', { name: 'Pin 4 points' }).click();
  await expect(page.getByRole('button', { name: /Pins 1/ })).toContainText('4 points');

  await pick(page, 'Work at Hold', 'Select');
  await page.getByRole('region', { name: 'Hold' }).getByRole('button', { name: 'Box', exact: true }).click();
  const view = (await page.getByTestId('viewport').boundingBox())!;
  await page.mouse.move(view.x + 16, view.y + 60);
  await page.mouse.down();
  await page.mouse.move(view.x + view.width - 16, view.y + view.height - 50, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByTestId('selected-count')).toHaveText('441 points');

  // What was selected last is undone first, then the pins, which brings back what they were made of.
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('selected-count')).toHaveText('0 points');
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('selected-count')).toHaveText('4 points');
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByTestId('selected-count')).toHaveText('0 points');
  await pick(page, 'Work at Hold', 'Holds');
  await expect(page.getByRole('button', { name: /Pins 1/ })).toBeVisible();

  // Pins hold: the corners of the settled cloth are where they started, the middle is lower.
  await station(page, 'Hand off');
  await page.keyboard.press('j');
  await expect(page.getByTestId('pose')).toContainText(/Settled|stopped/, { timeout: 120_000 });
  const download = page.waitForEvent('download', { timeout: 60_000 });
  await writeFrame(page, 'OBJ sequence');
  const mesh = readObj(readFileSync(await (await download).path(), 'utf8'));
  expect(mesh.positions[1]).toBeCloseTo(0.5, 5);
  expect(mesh.positions[0]).toBeCloseTo(-0.4, 5);
  // It hangs between its pins, taut as linen is.
  expect(Math.min(...mesh.positions.filter((_, i) => i % 3 === 1))).toBeLessThan(0.485);
});

test('a live run takes a changed number over', async ({ page }) => {
  await openShotFile(page, smallShot());
  await page.keyboard.press('l');
  // With a pose, which is what stopping leaves.
  await expect(page.getByTestId('pose')).toContainText('Live, ');
  await station(page, 'Air');
  await page.getByRole('switch', { name: 'Gravity on' }).press('Space');
  await expect(page.getByText('Off: nothing falls.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Start the shot from this pose' })).toBeVisible();
});
