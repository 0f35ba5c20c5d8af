import { createCloth, createScenery, createShot, createTie, type Cloth } from '@lumbra/core';
import { expect, type Page } from '@playwright/test';
import { ERROR, bake, openShotFile, smallShot, station, test } from './bench';
import { choose, tick, pick } from './controls';
import { built } from './hands';

/** A small sheet seen from above, open at Hold. */
async function fromAbove(page: Page): Promise<void> {
  const shot = smallShot();
  shot.camera = { position: [0, 2.4, 0.01], target: [0, 0.5, 0] };
  await openShotFile(page, shot);
  await station(page, 'Hold');
  await pick(page, 'Work at Hold', 'Masks');
}

async function dragFromMiddle(page: Page, by: [number, number]): Promise<void> {
  const view = (await page.getByTestId('viewport').boundingBox())!;
  const [x, y] = [view.x + view.width / 2, view.y + view.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + by[0], y + by[1], { steps: 5 });
  await page.mouse.up();
}

const sheetOf = async (page: Page) => (await built(page)).things[0] as Cloth;

/** A picture, white in its left half and black in its right one, and its upper quarter grey. */
async function halfWhite(page: Page): Promise<Buffer> {
  const text = await page.evaluate(() => {
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [64, 64];
    const context = canvas.getContext('2d')!;
    for (const [colour, x, y, w, h] of [
      ['#fff', 0, 0, 32, 64],
      ['#000', 32, 0, 32, 64],
      ['#808080', 0, 0, 64, 16],
    ] as const) {
      context.fillStyle = colour;
      context.fillRect(x, y, w, h);
    }
    return canvas.toDataURL('image/png').split(',')[1]!;
  });
  return Buffer.from(text, 'base64');
}

test('ramps are drawn on the cloth, drawn anew, keyed, and made painted masks', async ({ page }) => {
  await fromAbove(page);
  await page.getByRole('button', { name: 'Draw a ramp' }).click();
  await dragFromMiddle(page, [120, 0]);
  await expect(page.getByTestId('mask-legend')).toContainText('Ramp 1');
  const ramp = async () => (await sheetOf(page)).masks[0]!.ramp!;
  const first = await ramp();
  expect(first.kind).toBe('straight');
  expect(first.from[0]).toBeCloseTo(0.5, 1);
  expect(first.from[1]).toBeCloseTo(0.5, 1);
  expect(first.to[0]).toBeGreaterThan(0.6);
  expect(Math.abs(first.to[1] - first.from[1])).toBeLessThan(0.03);

  // A round one, by drawing it anew: one undo each.
  await station(page, 'Hold');
  await page.getByRole('button', { name: 'round', exact: true }).click();
  await page.getByRole('button', { name: 'Draw it anew' }).click();
  await dragFromMiddle(page, [0, 90]);
  const second = await ramp();
  expect(second.kind).toBe('round');
  expect(second.to[1]).toBeGreaterThan(0.6);

  // The phase is keyed at the first frame, and later.
  await station(page, 'Hold');
  await page.getByRole('button', { name: /^Constant; press to key it at this frame: Phase/ }).click();
  await expect(page.getByRole('button', { name: /^Keyed at this frame.*Phase/ })).toBeVisible();
  expect((await sheetOf(page)).keys.map(({ number }) => number)).toEqual([
    expect.stringMatching(/^mask:.*\.phase$/) as unknown,
  ]);

  await station(page, 'Hold');
  await page.getByRole('button', { name: 'Make it a painted mask' }).click();
  await expect(page.getByRole('button', { name: 'Paint', exact: true })).toBeVisible();
  const painted = await sheetOf(page);
  expect(painted.masks[0]!.ramp).toBeNull();
  expect(Buffer.from(painted.masks[0]!.values, 'base64')).toHaveLength(441);
  expect(painted.keys).toEqual([]);
  for (let i = 0; i < 5; i++) await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
});

test('a picture makes a mask and a selection; one that cannot be read changes nothing and says so', async ({
  page,
}) => {
  await fromAbove(page);
  const buffer = await halfWhite(page);
  const give = (title: string, name: string, data: Buffer) =>
    page.getByLabel(title).setInputFiles({ name, mimeType: 'image/png', buffer: data });
  const laid = 'Lay a picture on the cloth: white is 100 %, black 0 %';
  await give(laid, 'broken.png', Buffer.from('not a picture'));
  await expect(page.locator(ERROR)).toContainText('“broken.png” could not be read as a picture');
  await give(laid, 'halves.png', buffer);
  await expect(page.getByTestId('mask-legend')).toContainText('halves 1');

  await pick(page, 'Work at Hold', 'Select');
  await page.getByRole('button', { name: 'By a mask or a picture' }).click();
  await give('Lay a picture on the cloth and select where it is bright', 'halves.png', buffer);
  // 441 points: the left ten columns below the grey quarter, and that quarter at 50.2 %.
  const count = page.getByTestId('selected-count');
  await expect(count).toHaveText(/^2\d\d points$/);
  const from = page.getByRole('textbox', { name: 'From', exact: true });
  await from.fill('60');
  await from.press('Enter');
  await page.getByRole('button', { name: 'From there up' }).click();
  await expect(count).toHaveText(/^1[5-7]\d points$/);
  const bright = Number((await count.innerText()).split(' ')[0]);
  await choose(page, 'Select by brightness of', 'halves 1');
  await page.getByRole('button', { name: 'Below', exact: true }).first().click();
  await expect(count).toHaveText(`${441 - bright} points`);

  const mask = Buffer.from((await sheetOf(page)).masks[0]!.values, 'base64');
  expect(mask[20 * 21]).toBe(255);
  expect(mask[20 * 21 + 20]).toBe(0);
  expect(Math.abs(mask[0]! - 128)).toBeLessThan(2);
});

test('the brush is sized on the screen, and masks scale friction and stand-off from their fields', async ({ page }) => {
  const shelf = createScenery({
    name: 'Shelf',
    shape: { kind: 'box', width: 1, height: 0.02, depth: 1 },
    position: [0, 0.55, 0],
  });
  const shot = createShot({
    name: 'Hung',
    lastFrame: 6,
    things: [
      createCloth({
        name: 'Cloth',
        shape: { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.04 },
        position: [0, 0.5, 0],
        ties: [createTie({ name: 'Hooks', points: [0, 5, 10], to: shelf.id, keepsDistance: false, standOff: 0.02 })],
      }),
      shelf,
    ],
    camera: { position: [0, 0.1, 1.2], target: [0, 0.5, 0] },
  });
  await openShotFile(page, shot);
  await station(page, 'Hold');
  await pick(page, 'Work at Hold', 'Masks');
  await page.getByRole('button', { name: 'Empty', exact: true }).click();
  await pick(page, 'Size of the brush', 'On the screen');
  const size = page.getByRole('textbox', { name: 'Brush', exact: true });
  await size.fill('60');
  await size.press('Enter');
  await page.getByRole('button', { name: 'Paint', exact: true }).click();
  await page.keyboard.press(']');
  await expect(size).toHaveValue('69');
  await dragFromMiddle(page, [30, 0]);
  await page.keyboard.press('Escape');

  await pick(page, 'Work at Hold', 'Holds');
  await page.getByRole('button', { name: /^Hooks/ }).click();
  await page.getByRole('button', { name: 'Mask of Stand-off' }).click();
  await choose(page, 'Mask that scales the stand-off', 'Painted 1');
  await station(page, 'Fabric');
  await page.getByRole('button', { name: 'Mask of Friction' }).click();
  await choose(page, 'Mask that scales friction', 'Painted 1');
  const cloth = (await built(page)).things[0] as Cloth;
  const id = cloth.masks[0]!.id;
  expect(cloth.ties[0]!.standOffMask).toBe(id);
  expect(cloth.fabricMasks).toEqual({ friction: id });
  expect(Buffer.from(cloth.masks[0]!.values, 'base64').some((value) => value > 50)).toBe(true);
  await bake(page, 6);

  // A mask that is deleted takes itself from all that it scales.
  await station(page, 'Hold');
  await pick(page, 'Work at Hold', 'Masks');
  await page.getByRole('button', { name: 'Delete this mask (undoable)' }).click();
  const after = (await built(page)).things[0] as Cloth;
  expect([after.ties[0]!.standOffMask, after.fabricMasks, after.masks]).toEqual([null, {}, []]);
});

test('a pen paints by its pressure, and Escape gives a stroke, a lasso or a ramp up', async ({ page }) => {
  await fromAbove(page);
  await page.getByRole('button', { name: 'Empty', exact: true }).click();
  const paint = page.getByRole('button', { name: 'Paint', exact: true });
  const strength = page.getByRole('textbox', { name: 'Strength', exact: true });
  await strength.fill('100');
  await strength.press('Enter');
  const view = (await page.getByTestId('viewport').boundingBox())!;
  const [x, y] = [view.x + view.width / 2, view.y + view.height / 2];
  const strongest = async () => Math.max(...Buffer.from((await sheetOf(page)).masks[0]!.values, 'base64'));
  /** The shot is read at another station, which leaves the brush. */
  const chooseBrush = async () => {
    await station(page, 'Hold');
    await paint.click();
  };
  await paint.click();

  const pen = await page.context().newCDPSession(page);
  const touch = (type: 'mousePressed' | 'mouseReleased', force: number) =>
    pen.send('Input.dispatchMouseEvent', {
      ...{ type, x, y, force, button: 'left', buttons: 1, clickCount: 1, pointerType: 'pen' },
    });
  await touch('mousePressed', 0.3);
  await touch('mouseReleased', 0);
  const light = await strongest();
  expect(light).toBeGreaterThan(255 * 0.25);
  expect(light).toBeLessThan(255 * 0.35);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await chooseBrush();
  await tick(page, 'a pen does more when pressed harder', false);
  await touch('mousePressed', 0.3);
  await touch('mouseReleased', 0);
  expect(await strongest()).toBeGreaterThan(250);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await chooseBrush();

  // A stroke that is given up leaves the mask as it was, and the brush chosen.
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 40, y, { steps: 4 });
  await page.keyboard.press('Escape');
  await page.mouse.move(x + 60, y);
  await page.mouse.up();
  await expect(paint).toHaveAttribute('aria-pressed', 'true');
  expect(await strongest()).toBe(0);
  await chooseBrush();
  await page.keyboard.press('Escape');
  await expect(paint).toHaveAttribute('aria-pressed', 'false');

  await pick(page, 'Work at Hold', 'Select');
  await page.getByRole('button', { name: 'Lasso', exact: true }).click();
  await page.mouse.move(x - 60, y - 60);
  await page.mouse.down();
  for (const [dx, dy] of [
    [60, -60],
    [60, 60],
    [-60, 60],
  ] as const)
    await page.mouse.move(x + dx, y + dy);
  await expect(page.locator('.outline polygon')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.locator('.outline')).toHaveCount(0);
  await page.mouse.up();
  await expect(page.getByTestId('selected-count')).toHaveText('0 points');

  await pick(page, 'Work at Hold', 'Masks');
  await page.getByRole('button', { name: 'Draw a ramp' }).click();
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 80, y, { steps: 4 });
  await page.keyboard.press('Escape');
  await page.mouse.up();
  expect((await sheetOf(page)).masks).toHaveLength(1);
  await station(page, 'Hold');
  await page.getByRole('button', { name: 'Draw a ramp' }).click();
  await dragFromMiddle(page, [80, 0]);
  await tick(page, 'inverted');
  expect((await sheetOf(page)).masks[1]!.ramp!.inverted).toBe(true);
});
