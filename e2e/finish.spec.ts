import { expect, type Page } from '@playwright/test';
import { createScenery, finishEntrySchema, readObj, type Cloth } from '@lumbra/core';
import { readMeshFile } from '@lumbra/core/import';
import { readFile } from 'node:fs/promises';
import { unzipSync } from 'fflate';
import { atRest, bake, dragHandle, openShotFile, smallShot, station, test } from './bench';
import { Hands } from './hands';
import { choose, chosen, row, tick, writeFrame, writeTake } from './controls';

/** Makes so many points of the cloth that writing it takes a while. */
async function subdivideThrice(page: Page) {
  await station(page, 'Finish');
  await page.getByRole('button', { name: 'Subdivide', exact: true }).click();
  const times = page.getByRole('textbox', { name: 'Times', exact: true });
  await times.fill('3');
  await times.press('Enter');
}

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
    await writeFrame(page, 'OBJ sequence');
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

test('cloth is bent by the points of a lattice, which are chosen and dragged in the view', async ({ page }) => {
  await openShotFile(page, smallShot());
  await station(page, 'Finish');
  await page.keyboard.press('c');
  await page.waitForTimeout(500);
  await page.getByRole('button', { name: 'Lattice', exact: true }).click();
  await atRest(page);
  // The middle one of the points stands in the middle of the cloth, which is centred.
  const view = (await page.getByTestId('viewport').boundingBox())!;
  const [x, y] = [view.x + view.width / 2, view.y + view.height / 2];
  await page.mouse.click(x, y);
  await expect(chosen(page, 'Point').locator('.el-select__selected-item').last()).toHaveText('2 2 2');
  const up = page.getByRole('textbox', { name: 'Move y', exact: true });
  await expect(up).toHaveValue('0');
  await dragHandle(page, [x, y - 60], -60);
  await expect.poll(async () => Number(await up.inputValue())).toBeGreaterThan(0.03);
  const moved = await up.inputValue();
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toHaveAttribute(
    'aria-description',
    /move lattice point/,
  );

  // More points bend what these did.
  await page.getByRole('textbox', { name: 'Points along x' }).fill('5');
  await page.getByRole('textbox', { name: 'Points along x' }).press('Enter');
  const highest = async () => {
    await station(page, 'Hand off');
    const download = page.waitForEvent('download');
    await writeFrame(page, 'OBJ sequence');
    const { positions } = readObj(await readFile(await (await download).path(), 'utf8'));
    await station(page, 'Finish');
    return Math.max(...positions.filter((_, i) => i % 3 === 1));
  };
  const bent = await highest();
  expect(bent).toBeGreaterThan(0.5);
  await page.keyboard.press('Control+z');
  expect(await highest()).toBeCloseTo(bent, 5);

  await page.getByRole('button', { name: 'Put the points back' }).click();
  expect(await highest()).toBeCloseTo(0.5, 6);
  await page.keyboard.press('Control+z');
  await choose(page, 'Point', '2 2 2');
  await expect(up).toHaveValue(moved);
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
  await writeTake(page, 'PLY sequence');
  const files = Object.keys(unzipSync(await readFile(await (await download).path())));
  expect(files).toHaveLength(47);
  await tick(page, 'with the finish list of each cloth', false);
  await expect(page.getByRole('textbox', { name: 'Last frame to write' })).toHaveValue('24');
});

test('writing tells how far it is, and is stopped with nothing left behind', async ({ page }) => {
  await openShotFile(page, smallShot());
  await bake(page, 24);
  await subdivideThrice(page);
  await station(page, 'Hand off');
  const written: string[] = [];
  page.on('download', (download) => written.push(download.suggestedFilename()));
  await writeTake(page, 'OBJ sequence');
  await expect(page.getByText(/^\d+ %, \d+ s left$/)).toBeVisible();
  await page.getByRole('button', { name: 'Stop writing' }).click();
  await expect(page.getByText(/was not written: it was stopped/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Stop writing' })).toHaveCount(0);
  // The next file is written as ever.
  await writeFrame(page, 'STL sequence');
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
  await writeFrame(page, 'OBJ sequence');
  const { positions } = readObj(await readFile(await (await download).path(), 'utf8'));
  expect(positions).toHaveLength(79 * 79 * 3);
  // It has come down with the cloth.
  expect(Math.min(...positions.filter((_, i) => i % 3 === 1))).toBeLessThan(sheet.position[1] - 0.1);
});

test('a take is written into a folder with the things around it, and read back as one that moves', async ({ page }) => {
  // The browser's own folder stands for one that a person would choose: it is written to in the same way.
  await page.addInitScript(() => {
    (window as { showDirectoryPicker?: () => Promise<FileSystemDirectoryHandle> }).showDirectoryPicker = () =>
      navigator.storage.getDirectory();
  });
  await openShotFile(page, smallShot());
  await bake(page, 24);
  await station(page, 'Hand off');
  await tick(page, 'takes go to a folder that I choose', true);
  await tick(page, 'with the other things that are shown', true);
  await writeTake(page, 'USD with motion');
  await expect(page.getByText(/\.usdc is written to the folder/)).toBeVisible();
  const bytes = await page.evaluate(async () => {
    const folder = await navigator.storage.getDirectory();
    const found: Record<string, number[]> = {};
    for await (const [name, handle] of folder.entries()) {
      if (handle.kind === 'file') found[name] = [...new Uint8Array(await (await handle.getFile()).arrayBuffer())];
    }
    return found;
  });
  const [name, ...others] = Object.keys(bytes);
  expect([name, others]).toEqual([expect.stringMatching(/\.usdc$/), []]);
  const { parts } = await readMeshFile(name!, Uint8Array.from(bytes[name!]!));
  expect(parts.map((part) => part.name).sort()).toEqual(['Box', 'Ground', 'Sheet']);
  expect(parts.find((part) => part.name === 'Sheet')!.mesh.motion!.clips[0]!.samples).toBe(24);

  // Stopped in the middle, nothing is left in the folder.
  await subdivideThrice(page);
  await station(page, 'Hand off');
  await writeTake(page, 'USD as text');
  await expect(page.getByText(/^\d+ %, \d+ s left$/)).toBeVisible();
  await page.getByRole('button', { name: 'Stop writing' }).click();
  await expect(page.getByText(/was not written: it was stopped/)).toBeVisible();
  const left = await page.evaluate(async () => {
    const names: string[] = [];
    for await (const [own] of (await navigator.storage.getDirectory()).entries()) names.push(own);
    return names;
  });
  expect(left).toEqual([name]);

  // It comes in as things that move.
  await station(page, 'Stage');
  const button = page.getByRole('button', { name: 'Mesh file' });
  if (!(await button.isVisible())) await page.getByRole('button', { name: /^Shapes and files/ }).click();
  const chooser = page.waitForEvent('filechooser');
  await button.click();
  await (await chooser).setFiles({ name: name!, mimeType: '', buffer: Buffer.from(bytes[name!]!) });
  await expect(page.getByTestId('import')).toContainText('Sheet');
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await expect(page.getByRole('complementary', { name: 'Things' })).toContainText('6 things');
});

test('a finished still of a settled cover is kept as a mesh and written as USD in at most 8 acts', async ({ page }) => {
  const shot = smallShot();
  const cover = shot.things.find((thing) => thing.role === 'cloth')!;
  cover.finish = [finishEntrySchema.parse({ id: 'thick', step: { kind: 'thicken', thickness: 0.003 } })];
  await openShotFile(page, shot);
  const hands = new Hands(page);
  await hands.go('Run');
  await hands.press(/^Settle/);
  await expect(page.getByTestId('pose')).toContainText('Settled', { timeout: 60_000 });
  await hands.go('Finish');
  await hands.press('Keep this frame as a mesh');
  await expect(row(page, 'Sheet, frame 1')).toBeVisible();
  await hands.go('Hand off');
  await hands.act(() => tick(page, 'with the other things that are shown', true));
  const download = page.waitForEvent('download');
  await hands.press(/^USDC of this frame/);
  const file = await download;
  const { parts } = await readMeshFile(file.suggestedFilename(), new Uint8Array(await readFile(await file.path())));
  const still = parts.find(({ name }) => name === 'Sheet, frame 1')!;
  expect(still.mesh.positions).toHaveLength(2 * 441 * 3);
  console.log(`Still: ${hands.acts} acts`);
  expect(hands.acts).toBeLessThanOrEqual(8);
});
