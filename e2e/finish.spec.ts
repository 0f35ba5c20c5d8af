import { expect } from '@playwright/test';
import { createScenery, readObj, type Cloth } from '@lumbra/core';
import { readFile } from 'node:fs/promises';
import { unzipSync } from 'fflate';
import { bake, openShotFile, smallShot, station, test } from './bench';
import { choose, row, tick } from './controls';

test('cloth is finished step by step, written as it is shown, and kept as a mesh', async ({ page }) => {
  await openShotFile(page, smallShot());
  await station(page, 'Finish');
  const facts = page.getByText(/points, .* faces/);
  const before = await facts.textContent();
  await page.getByRole('button', { name: 'Subdivide', exact: true }).click();
  await expect(facts).not.toHaveText(before!);
  const subdivided = (await facts.textContent())!;
  await page.getByRole('button', { name: 'Thicken', exact: true }).click();
  await expect(facts).not.toHaveText(subdivided);
  await expect(page.getByRole('list', { name: 'Finish list' }).getByRole('listitem')).toHaveCount(2);
  const after = (await facts.textContent())!;

  // R shows what was simulated, and back.
  await page.keyboard.press('r');
  await expect(facts).toHaveText(before!);
  await page.keyboard.press('r');
  await expect(facts).toHaveText(after);

  // The order, and each step, can be changed; undo takes back.
  await page.getByRole('button', { name: 'Later' }).first().click();
  await tick(page, 'Subdivide, on', false);
  await expect(facts).not.toHaveText(after);
  for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z');
  await expect(facts).toHaveText(after);

  await station(page, 'Hand off');
  const faces = async () => {
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'OBJ of this frame' }).click();
    return readObj(await readFile(await (await download).path(), 'utf8')).triangles.length;
  };
  const fine = await faces();
  await tick(page, 'with the finish list of each cloth', false);
  const coarse = await faces();
  // Four times the faces, on two sides, and a rim.
  expect(fine).toBeGreaterThan(8 * coarse);
  await tick(page, 'with the finish list of each cloth', true);

  await station(page, 'Finish');
  await expect(facts).toHaveText(after);
  await page.getByRole('button', { name: 'Keep this frame as a mesh' }).click();
  await expect(row(page, 'Sheet, frame 1')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(row(page, 'Sheet, frame 1')).toHaveCount(0);
});

test('a take is slowed down: shown between its frames, and written as long as it then is', async ({ page }) => {
  await openShotFile(page, smallShot());
  await bake(page, 24);
  await station(page, 'Finish');
  await page.getByRole('button', { name: 'Retime', exact: true }).click();
  const go = async (frame: string) => {
    const field = page.getByRole('textbox', { name: 'Current frame' });
    await field.fill(frame);
    await field.press('Enter');
  };
  await go('4');
  await expect(page.getByText(/; frame 2\.5 of the take/)).toBeVisible();
  await go('5');
  await expect(page.getByText(/; frame 3 of the take/)).toBeVisible();

  await station(page, 'Hand off');
  await page.getByRole('button', { name: /^Unit, axis, frames/ }).click();
  await expect(page.getByRole('textbox', { name: 'Last frame to write' })).toHaveValue('47');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^PLY sequence/ }).click();
  const files = Object.keys(unzipSync(await readFile(await (await download).path())));
  expect(files).toHaveLength(47);
  await tick(page, 'with the finish list of each cloth', false);
  await expect(page.getByRole('textbox', { name: 'Last frame to write' })).toHaveValue('24');
});

test('writing tells how far it is, and is stopped with nothing left behind', async ({ page }) => {
  await openShotFile(page, smallShot());
  await bake(page, 24);
  await station(page, 'Finish');
  await page.getByRole('button', { name: 'Subdivide', exact: true }).click();
  const times = page.getByRole('textbox', { name: 'Times', exact: true });
  await times.fill('3');
  await times.press('Enter');
  await station(page, 'Hand off');
  const written: string[] = [];
  page.on('download', (download) => written.push(download.suggestedFilename()));
  await page.getByRole('button', { name: /^OBJ sequence/ }).click();
  await expect(page.getByText(/^\d+ %, \d+ s left$/)).toBeVisible();
  await page.getByRole('button', { name: 'Stop writing' }).click();
  await expect(page.getByText(/was not written: it was stopped/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Stop writing' })).toHaveCount(0);
  // The next file is written as ever.
  await page.getByRole('button', { name: 'STL of this frame' }).click();
  await expect.poll(() => written).toEqual([expect.stringMatching(/-0024\.stl$/)]);
});

test('a finer mesh goes along with the cloth, which is shown in its place', async ({ page }) => {
  const small = smallShot();
  const [sheet] = small.things as [Cloth];
  const shape = { kind: 'sheet', width: 0.78, height: 0.78, spacing: 0.01 } as const;
  const fine = createScenery({ name: 'Fine sheet', shape, position: sheet.position, rotation: sheet.rotation });
  await openShotFile(page, { ...small, things: [...small.things, fine] });
  await bake(page, 24);
  await station(page, 'Finish');
  await page.getByRole('button', { name: 'Carry', exact: true }).click();
  await expect(page.getByText('Carry: choose the mesh that is to follow the cloth.')).toBeVisible();
  await choose(page, 'Mesh', 'Fine sheet');
  await expect(page.getByText(/^6.241 points/)).toBeVisible();
  // Where it stood it would be seen beside itself.
  await expect(page.getByRole('button', { name: 'Show Fine sheet' })).toHaveAttribute('aria-pressed', 'false');

  await station(page, 'Hand off');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'OBJ of this frame' }).click();
  const { positions } = readObj(await readFile(await (await download).path(), 'utf8'));
  expect(positions).toHaveLength(79 * 79 * 3);
  // It has come down with the cloth.
  expect(Math.min(...positions.filter((_, i) => i % 3 === 1))).toBeLessThan(sheet.position[1] - 0.1);
});
