import { readFile } from 'node:fs/promises';
import { expect, type Page } from '@playwright/test';
import { decode, encode } from 'fast-png';
import { drawn, openShotFile, smallShot, station, test } from './bench';
import { pick, row } from './controls';
import { built } from './hands';

/** How many pixels of a picture are as violet as no fabric and no light is. */
function violet(bytes: Uint8Array): number {
  const { data, channels } = decode(bytes);
  let count = 0;
  for (let at = 0; at < data.length; at += channels)
    if (data[at]! > data[at + 1]! * 2 && data[at + 2]! > data[at + 1]! * 2) count++;
  return count;
}

/** Violet on the left, see-through on the right. */
const data = Uint8Array.from({ length: 8 * 4 * 4 }, (_, i) => ((i >> 2) % 8 < 4 ? [255, 0, 255, 255][i % 4]! : 0));
const VIOLET = Buffer.from(encode({ width: 8, height: 4, data, channels: 4 }));

const inView = async (page: Page) => violet(new Uint8Array(await page.getByTestId('viewport').screenshot()));

const printed = async (page: Page) => {
  const [cloth] = (await built(page)).things;
  return cloth?.role === 'cloth' ? cloth.print : undefined;
};

test('a picture is printed on a cloth: again and again or once, kept, and in pictures of the view', async ({
  page,
}) => {
  await openShotFile(page, smallShot());
  await row(page, 'Sheet').click();
  await station(page, 'Fabric');
  await page.getByRole('button', { name: /^Print/ }).click();
  await pick(page, 'Print', 'Picture');
  await expect(page.getByText('Until one is chosen, the cloth is plain.')).toBeVisible();
  const give = async (name: string, buffer: Buffer) => {
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Choose the picture that is printed' }).click();
    await (await chooser).setFiles({ name, mimeType: 'image/png', buffer });
  };
  await give('broken.png', Buffer.from('not a picture'));
  await expect(page.getByText('“broken.png” could not be read as a picture')).toBeVisible();
  expect(await inView(page)).toBe(0);

  await give('violet.png', VIOLET);
  await expect(page.getByRole('img', { name: 'The picture that is printed' })).toBeVisible();
  await expect.poll(() => inView(page)).toBeGreaterThan(1000);
  const often = await inView(page);
  await page.getByText('once, not again and again').click();
  await expect.poll(() => inView(page)).toBeLessThan(often / 4);
  expect(await inView(page)).toBeGreaterThan(50);
  await page.getByText('see-through parts are cut out').click();
  expect(await printed(page)).toMatchObject({ kind: 'picture', once: true, cutOut: true, oneSided: false });

  // It is still there tomorrow, and in a picture that is taken at once.
  await page.reload();
  await drawn(page);
  await expect.poll(() => inView(page)).toBeGreaterThan(50);
  await station(page, 'Hand off');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'One PNG' }).click();
  expect(violet(await readFile(await (await download).path()))).toBeGreaterThan(50);

  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await printed(page))?.cutOut).toBe(false);
});

test('what is printed on one side is not on the other', async ({ page }) => {
  const shot = smallShot();
  const [cloth] = shot.things;
  if (cloth?.role !== 'cloth') throw new Error('The first thing is the sheet.');
  cloth.print = { ...cloth.print, kind: 'picture', picture: `data:image/png;base64,${VIOLET.toString('base64')}` };
  // Its back is up.
  cloth.rotation = [Math.PI, 0, 0];
  await openShotFile(page, shot);
  await expect.poll(() => inView(page)).toBeGreaterThan(1000);
  await row(page, 'Sheet').click();
  await station(page, 'Fabric');
  await page.getByRole('button', { name: /^Print/ }).click();
  await page.getByText('on one side only').click();
  await expect.poll(() => inView(page)).toBe(0);
});
