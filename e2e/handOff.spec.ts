import { expect, type Page } from '@playwright/test';
import { createCloth, createShot, type Cloth } from '@lumbra/core';
import { readSvg } from '@lumbra/core/import';
import { decode } from 'fast-png';
import { unzipSync } from 'fflate';
import { ALL_FORMATS, BufferSource, Input } from 'mediabunny';
import { readFile } from 'node:fs/promises';
import { bake, openShotFile, smallShot, station, test } from './bench';
import { choose, tick, writeTake } from './controls';

/** What a button has the browser download. */
async function downloaded(page: Page, press: () => Promise<void>): Promise<{ name: string; bytes: Uint8Array }> {
  const download = page.waitForEvent('download');
  await press();
  const file = await download;
  return { name: file.suggestedFilename(), bytes: new Uint8Array(await readFile(await file.path())) };
}

test('the view is taken as pictures and as a film, in a size that is chosen', async ({ page }) => {
  await openShotFile(page, smallShot());
  await station(page, 'Hand off');
  // Without a bake there is one picture to take.
  await expect(page.getByRole('button', { name: 'WebM film' })).toBeDisabled();
  await bake(page, 24);
  await station(page, 'Hand off');
  await choose(page, 'Picture size', '1080 × 1080');
  const press = (name: string) => () => page.getByRole('button', { name }).click();

  const one = await downloaded(page, press('One PNG'));
  expect(one.name).toBe('T010-0024.png');
  const picture = decode(one.bytes);
  expect([picture.width, picture.height]).toEqual([1080, 1080]);

  // Of a part of the take, every third frame.
  await page.getByRole('button', { name: /^Unit, axis, frames/ }).click();
  for (const [label, value] of [
    ['First frame to write', '13'],
    ['Every so many frames', '3'],
  ] as const) {
    await page.getByRole('textbox', { name: label }).fill(value);
    await page.getByRole('textbox', { name: label }).press('Enter');
  }
  const all = await downloaded(page, press('Every PNG'));
  expect(all.name).toBe('T010-png.zip');
  const files = unzipSync(all.bytes);
  expect(Object.keys(files)).toEqual(['T010.0013.png', 'T010.0016.png', 'T010.0019.png', 'T010.0022.png']);
  const [early, late] = [decode(files['T010.0013.png']!), decode(files['T010.0022.png']!)];
  expect([early.width, early.height]).toEqual([1080, 1080]);
  const pixels = (of: typeof early) => Buffer.from(of.data.buffer, of.data.byteOffset, of.data.byteLength);
  expect(pixels(early).equals(pixels(late))).toBe(false);

  const film = await downloaded(page, press('WebM film'));
  expect(film.name).toBe('T010.webm');
  const input = new Input({ formats: ALL_FORMATS, source: new BufferSource(film.bytes) });
  const track = (await input.getPrimaryVideoTrack())!;
  expect([track.displayWidth, track.displayHeight]).toEqual([1080, 1080]);
  expect((await track.computePacketStats()).packetCount).toBe(4);
  // As fast as the shot: every third of 24 frames a second.
  expect(await input.computeDuration()).toBeCloseTo(4 / 8, 2);
});

test('each thing goes into a file of its own, and a pattern onto paper in its true size', async ({ page }) => {
  await openShotFile(page, {
    ...createShot({ code: 'T020', name: 'Two sheets', lastFrame: 3 }),
    things: ['low', 'high'].map((id, i) =>
      createCloth({
        ...{ id, name: `Sheet ${id}`, position: [0, 0.5 + i, 0] as Cloth['position'] },
        shape: { kind: 'sheet', width: 0.4, height: 0.3, spacing: 0.05 },
      }),
    ),
  });
  await bake(page, 3);
  await station(page, 'Hand off');
  await tick(page, 'each in a file of its own');
  const { name, bytes } = await downloaded(page, () => writeTake(page, 'USD as text'));
  expect(name).toBe('T020-usda.zip');
  expect(Object.keys(unzipSync(bytes)).sort()).toEqual(['T020-high.usda', 'T020-low.usda']);

  await station(page, 'Pattern');
  await page.getByRole('button', { name: 'Cut as a pattern' }).click();
  await station(page, 'Hand off');
  const drawing = await downloaded(page, () => page.getByRole('button', { name: /^Pattern of Sheet/ }).click());
  expect(drawing.name).toMatch(/^Sheet_(low|high)\.svg$/);
  const [outline] = readSvg(new TextDecoder().decode(drawing.bytes)).outlines;
  const us = outline!.outline.map(({ at }) => at[0]);
  expect(Math.max(...us) - Math.min(...us)).toBeCloseTo(0.4, 5);
});

test('a cache is compared with the take, and one of another mesh is refused', async ({ page }) => {
  await openShotFile(page, smallShot());
  await bake(page, 24);
  await station(page, 'Hand off');
  const cache = await downloaded(page, () => writeTake(page, 'USD with motion'));
  const compareWith = async (name: string) => {
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Compare with a cache…' }).click();
    await (await chooser).setFiles({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(cache.bytes) });
  };
  const differences = page.getByRole('list', { name: 'Differences from the cache' });
  await compareWith(cache.name);
  await expect(differences).toHaveText('Sheet: the same');
  await expect(page.getByText('T010.usdc: 24 frames compared.')).toBeVisible();

  // The frames of the take from the third on are others than those of the cache.
  await page.getByRole('button', { name: /^Unit, axis, frames/ }).click();
  await page.getByRole('textbox', { name: 'First frame to write' }).fill('3');
  await page.getByRole('textbox', { name: 'First frame to write' }).press('Enter');
  await compareWith(cache.name);
  await expect(page.getByText('22 frames compared; 22 here, 24 in the cache.')).toBeVisible();
  const line = differences.getByRole('button', { name: /^Sheet: at most [\d.]+ mm at frame \d+/ });
  const frame = /at frame (\d+)/.exec((await line.textContent())!)![1]!;
  await line.click();
  await expect(page.getByRole('slider', { name: 'Frame' })).toHaveAttribute('aria-valuenow', frame);

  await station(page, 'Finish');
  await page.getByRole('button', { name: 'Subdivide', exact: true }).click();
  await station(page, 'Hand off');
  await compareWith(cache.name);
  await expect(page.getByText(/Sheet has 1681 points .* it is another mesh/)).toBeVisible();
});
