import { readFileSync } from 'node:fs';
import { createCloth, createCollider, createShot, createTie, readObj, sheet, sidePoints } from '@lumbra/core';
import { expect, type Page } from '@playwright/test';
import { bake, dragHandle, openShotFile, smallShot, station, test } from './bench';
import { choose, pick, row, tick, writeFrame } from './controls';
import { built, emptyShot } from './hands';

/** The cloth as it is seen, handed over. */
async function seen(page: Page): Promise<Float32Array> {
  await station(page, 'Hand off');
  const download = page.waitForEvent('download', { timeout: 60_000 });
  await writeFrame(page, 'OBJ sequence');
  return readObj(readFileSync(await (await download).path(), 'utf8')).positions;
}

/** Waits until the live run has gone on for so many seconds of its own. */
async function ranFor(page: Page, seconds: number): Promise<void> {
  const time = async () =>
    Number(/Live, ([\d.]+) s/.exec((await page.getByTestId('pose').textContent()) ?? '')?.[1] ?? 0);
  const start = await time();
  await expect.poll(time, { timeout: 60_000 }).toBeGreaterThan(start + seconds);
}

test('an apron is hung from a line and drawn together over 90 frames, in at most 15 acts', async ({ page }) => {
  const hands = await emptyShot(page);
  await hands.type('box 2 × 0.03 × 0.03 at 0, 2, 0 named Line');
  await hands.type('sheet 1.77 × 1.41 every 30 mm of linen at 0, 1.28, 0 turned 90, 0, 0 named Apron');
  await expect(page.getByText('60 × 48 = 2 880 points', { exact: false })).toBeVisible();
  await hands.go('Hold');
  await hands.press('Far side');
  await expect(page.getByTestId('selected-count')).toHaveText('60 points');
  await hands.press('Every');
  await expect(page.getByTestId('selected-count')).toHaveText('15 points');
  await hands.press(/^Pin 15 points/);
  await hands.act(() => choose(page, 'Follows', 'Line'));
  await hands.press(/^Move, turn and gather/);
  await hands.press(/: Gather x$/);
  await hands.number('Current frame', '91');
  await hands.number('Gather x', '40');
  await hands.press('Key here');
  console.log(`Apron: ${hands.acts} acts`);
  expect(hands.acts).toBeLessThanOrEqual(15);
  await expect(page.getByRole('button', { name: 'Key at frame 91', exact: true })).toBeVisible();
  const apron = (await built(page)).things.find(({ name }) => name === 'Apron');
  expect(apron).toMatchObject({ role: 'cloth', pinSets: [{ points: { length: 15 } }] });
  expect(apron!.keys[0]!.knots.map(({ frame, value }) => [frame, value])).toEqual([
    [1, 1],
    [91, 0.4],
  ]);
});

test('a notice is held by two corners, and a hold is faded over the width, in at most 15 acts each', async ({
  page,
}) => {
  const notice = await emptyShot(page);
  await notice.type('wind 6 towards 90');
  await notice.type('sheet 1.2 × 0.8 every 40 mm of canvas at 0, 1.5, 0 turned 90, 0, 0 named Notice');
  await notice.go('Hold');
  await notice.press('Left side');
  await notice.act(() => page.getByRole('textbox', { name: 'Every so many points' }).fill('20'));
  await notice.press('Every');
  await notice.press(/^Pin 2 points/);
  console.log(`Notice: ${notice.acts} acts`);
  expect(notice.acts).toBeLessThanOrEqual(15);

  const hands = await emptyShot(page);
  await hands.type('sheet 0.8 × 0.4 every 40 mm at 0, 1, 0 named Cloth');
  await hands.number('Last frame', '24');
  await hands.go('Hold');
  await hands.press('Far side');
  await hands.press(/^Pin 21 points/);
  await hands.act(() => pick(page, 'Work at Hold', 'Masks'));
  await hands.press('Ramp, width');
  await hands.act(() => pick(page, 'Work at Hold', 'Holds'));
  await hands.press('Mask of Strength');
  await hands.act(() => choose(page, 'Mask that scales Pins 1', 'Ramp 1'));
  console.log(`Fade: ${hands.acts} acts`);
  expect(hands.acts).toBeLessThanOrEqual(15);
  await expect(page.getByTestId('mask-legend')).toContainText('Ramp 1');
  await bake(page, 24);
  const positions = await seen(page);
  const drops = sidePoints(sheet({ width: 0.8, height: 0.4, spacing: 0.04 }), 'top').map(
    (i) => 1 - positions[i * 3 + 1]!,
  );
  expect(drops[0]).toBeCloseTo(0, 4);
  expect(drops.at(-1)).toBeGreaterThan(0.1);
  // No step anywhere: the bend is gradual.
  for (let i = 1; i < drops.length; i++) expect(Math.abs(drops[i]! - drops[i - 1]!)).toBeLessThan(0.041);
});

test('points are selected by click, lasso and stretch, without those that are hidden; the selection goes back', async ({
  page,
}) => {
  const shot = smallShot();
  // Stands upright behind a wall that hides its lower half.
  shot.things[0]!.position = [0, 0.5, 0];
  shot.things[0]!.rotation = [Math.PI / 2, 0, 0];
  shot.things[1] = createCollider({
    name: 'Wall',
    shape: { kind: 'box', width: 3, height: 0.5, depth: 0.02 },
    position: [0, 0.25, 0.3],
  });
  shot.camera = { position: [0, 0.6, 4], target: [0, 0.5, 0] };
  await openShotFile(page, shot);
  await station(page, 'Hold');
  const count = page.getByTestId('selected-count');
  const view = (await page.getByTestId('viewport').boundingBox())!;
  const drag = async (path: [number, number][]) => {
    await page.mouse.move(view.x + path[0]![0], view.y + path[0]![1]);
    await page.mouse.down();
    for (const [x, y] of path.slice(1)) await page.mouse.move(view.x + x, view.y + y, { steps: 4 });
    await page.mouse.up();
  };
  const [w, h] = [view.width, view.height];
  await page.getByRole('button', { name: 'Lasso' }).click();
  const around: [number, number][] = [
    [16, 60],
    [w - 16, 60],
    [w - 16, h - 60],
    [16, h - 60],
    [16, 70],
  ];
  await drag(around);
  const visible = Number((await count.innerText()).split(' ')[0]);
  expect(visible).toBeGreaterThan(120);
  expect(visible).toBeLessThan(330);
  await tick(page, 'also what is hidden');
  await drag(around);
  await expect(count).toHaveText('441 points');
  await page.keyboard.press('Control+z');
  await expect(count).toHaveText(`${visible} points`);
  await page.keyboard.press('Control+Shift+Z');
  await expect(count).toHaveText('441 points');
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toHaveAttribute(
    'aria-description',
    /Select 441 points/,
  );

  // Alt takes away, one point at a time with the pointer.
  await page.getByRole('button', { name: 'Select nothing' }).click();
  await page.getByRole('group', { name: 'Tools' }).getByRole('button', { name: 'Click' }).click();
  const middle = { x: w / 2, y: h / 2 - 40 };
  await page.getByTestId('viewport').click({ position: middle });
  await expect(count).toHaveText('1 point');
  await page.getByTestId('viewport').click({ position: { x: middle.x + 60, y: middle.y }, modifiers: ['Shift'] });
  await expect(count).toHaveText('2 points');
  await page.getByTestId('viewport').click({ position: middle, modifiers: ['Alt'] });
  await expect(count).toHaveText('1 point');

  // The upper border between two clicks near its corners.
  await page.getByRole('group', { name: 'Tools' }).getByRole('button', { name: 'Stretch' }).click();
  const pixels = h / (2 * Math.tan((35 * Math.PI) / 360) * 4);
  const top = h / 2 - 0.4 * pixels + 0.1 * pixels * 0.25;
  await page.getByTestId('viewport').click({ position: { x: w / 2 - 0.38 * pixels, y: top } });
  await page.getByTestId('viewport').click({ position: { x: w / 2 + 0.38 * pixels, y: top } });
  await expect(count).toHaveText(/^(19|20|21) points$/);

  // Edges and faces, with all their points; a row goes from side to side.
  await page.getByRole('group', { name: 'Tools' }).getByRole('button', { name: 'Click' }).click();
  await pick(page, 'What the tool takes', 'Edges');
  await page.getByTestId('viewport').click({ position: middle });
  await expect(count).toHaveText('2 points');
  await pick(page, 'What the tool takes', 'Faces');
  await page.getByTestId('viewport').click({ position: middle });
  await expect(count).toHaveText('3 points');
  await page.getByRole('button', { name: 'By its folds' }).click();
  await page.getByRole('button', { name: 'All up to it' }).click();
  await expect(count).toHaveText('441 points');
  await page.getByRole('button', { name: 'Edges folded more' }).click();
  await expect(count).toHaveText('0 points');
  await page.getByRole('button', { name: 'By its folds' }).click();
  await page.getByRole('group', { name: 'Tools' }).getByRole('button', { name: 'Row' }).click();
  // On the upper border, which is a row from corner to corner.
  await page.getByTestId('viewport').click({ position: { x: w / 2 + 5, y: top } });
  await expect(count).toHaveText('21 points');

  // By a thing: what lies below its middle.
  await page.getByRole('button', { name: 'By a thing' }).click();
  await choose(page, 'Select by', 'Wall');
  await page.getByRole('button', { name: 'Below', exact: true }).click();
  await expect(count).toHaveText(/^(84|105|126|147) points$/);
});

test('a mask is painted in one undoable stroke, kept by finer spacing, and scales a hold', async ({ page }) => {
  const shot = smallShot();
  shot.camera = { position: [0, 2.4, 0.01], target: [0, 0.5, 0] };
  await openShotFile(page, shot);
  await station(page, 'Hold');
  await pick(page, 'Work at Hold', 'Masks');
  await page.getByRole('button', { name: 'Empty', exact: true }).click();
  await page.getByRole('button', { name: 'Paint', exact: true }).click();
  const view = (await page.getByTestId('viewport').boundingBox())!;
  const [x, y] = [view.x + view.width / 2, view.y + view.height / 2];
  await page.mouse.move(x - 80, y);
  await page.mouse.down();
  await page.mouse.move(x + 80, y, { steps: 10 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toHaveAttribute(
    'aria-description',
    /Paint mask/,
  );
  const painted = async () => {
    const cloth = (await built(page)).things[0]!;
    if (cloth.role !== 'cloth') throw new Error('not cloth');
    const values = Uint8Array.from(Buffer.from(cloth.masks[0]!.values, 'base64'));
    return { points: values.length, mean: values.reduce((sum, value) => sum + value, 0) / values.length };
  };
  const coarse = await painted();
  expect(coarse.points).toBe(441);
  expect(coarse.mean).toBeGreaterThan(5);

  // It scales a number of the fabric, from the field itself.
  await station(page, 'Fabric');
  await page.getByRole('button', { name: 'Mask of Bend, warp' }).click();
  await choose(page, 'Mask that scales bend, warp', 'Painted 1');
  await expect(page.getByRole('button', { name: 'Mask of Bend, warp' })).toHaveAttribute(
    'aria-description',
    /Scaled by the mask Painted 1/,
  );
  expect((await built(page)).things[0]).toMatchObject({ fabricMasks: { bendWarp: expect.any(String) } });

  await station(page, 'Stage');
  const spacing = page.getByRole('textbox', { name: 'Spacing' });
  await spacing.fill('20');
  await spacing.press('Enter');
  const fine = await painted();
  expect(fine.points).toBe(41 * 41);
  expect(Math.abs(fine.mean / coarse.mean - 1)).toBeLessThan(0.1);
  for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
});

test('what a hold has lost is said in the checks, and mended', async ({ page }) => {
  const rail = createCollider({
    id: 'rail',
    name: 'Line',
    shape: { kind: 'box', width: 1, height: 0.03, depth: 0.03 },
    position: [0, 1.02, 0],
  });
  const cloth = createCloth({
    ...{
      id: 'c',
      name: 'Cloth',
      shape: { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.04 },
      position: [0, 1, 0],
    },
    ties: [createTie({ name: 'Rings', points: [0, 5, 10], to: 'rail' })],
  });
  await openShotFile(page, createShot({ name: 'Tied', things: [cloth, rail] }));
  await station(page, 'Hold');
  await page.getByRole('button', { name: 'Tie what is near' }).click();
  const within = page.getByRole('textbox', { name: 'Within', exact: true });
  await within.fill('50');
  await within.press('Enter');
  await page.getByRole('button', { name: 'Tie all within it' }).click();
  await expect(page.getByRole('button', { name: /^Tie 1/ })).toContainText('to Line');
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await station(page, 'Stage');
  await row(page, 'Line').click();
  await page.getByRole('button', { name: 'Delete (undoable)' }).click();
  await expect(page.getByTestId('check-line')).toContainText('Nothing can be run');
  await page.getByTestId('checks').click();
  const list = page.getByRole('region', { name: 'Checks' });
  await expect(list).toContainText('Rings of Cloth is tied to a thing that was deleted.');
  await list.getByRole('button', { name: 'Delete the tie' }).click();
  await expect(list).not.toContainText('Rings');
});

test('cloth that runs live is pulled by hand, pins are nudged and gathered, and a checkpoint is gone back to', async ({
  page,
}) => {
  const shot = smallShot();
  shot.run.quality = 'draft';
  shot.camera = { position: [0, 0.9, 2.6], target: [0, 0.4, 0] };
  await openShotFile(page, shot);
  await station(page, 'Hold');
  await page.getByRole('button', { name: 'Far side' }).click();
  await page.getByRole('button', { name: /^Pin 21 points/ }).click();
  await page.keyboard.press('l');
  const hands = page.getByTestId('hands');
  await expect(hands).toContainText('drag cloth to pull it');
  await page.keyboard.press('p');
  await expect(hands.getByRole('button', { name: 'one further' })).toBeVisible();

  // Arrows nudge the pins by the step that is shown, a comma gathers them.
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowUp');
  await page.keyboard.press(',');
  await page.getByRole('button', { name: /^Move, turn and gather/ }).click();
  await expect(page.getByRole('textbox', { name: 'Move y', exact: true })).toHaveValue('0.05');
  await expect(page.getByRole('textbox', { name: 'Gather x', exact: true })).toHaveValue('95');

  // Back to the checkpoint, and one further to the beginning.
  await page.keyboard.press('Shift+P');
  await hands.getByRole('button', { name: 'one further' }).click();
  await expect(hands.getByRole('button', { name: 'Back to 0 s' })).toBeVisible();

  // Pull the middle up, and stop while it is held.
  const view = (await page.getByTestId('viewport').boundingBox())!;
  const [x, y] = [view.x + view.width / 2, view.y + view.height / 2 - 20];
  await ranFor(page, 1.5);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x, y - 150, { steps: 10 });
  await ranFor(page, 1.5);
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('pose')).toContainText('Live, stopped');
  await page.mouse.up();
  const positions = await seen(page);
  const heights = positions.filter((_, i) => i % 3 === 1);
  // Its pins are at 0.55; how far above them the hand comes depends on where the cloth swings when it is gripped.
  expect(Math.max(...heights)).toBeGreaterThan(0.575);
});

test('handles in the viewport move a pin set as one; keyed, they ask', async ({ page }) => {
  const shot = smallShot();
  shot.camera = { position: [0, 0.5, 3], target: [0, 0.5, -0.4] };
  await openShotFile(page, shot);
  await station(page, 'Hold');
  await page.getByRole('button', { name: 'Far side' }).click();
  await page.getByRole('button', { name: /^Pin 21 points/ }).click();
  await page.getByRole('group', { name: 'Handles' }).getByRole('button', { name: 'Move' }).click();
  const view = (await page.getByTestId('viewport').boundingBox())!;
  const [x, y] = [view.x + view.width / 2, view.y + view.height / 2 - 60];
  const pull = async () => {
    await dragHandle(page, [x, y], -50);
  };
  await pull();
  await page.getByRole('button', { name: /^Move, turn and gather/ }).click();
  const height = page.getByRole('textbox', { name: 'Move y', exact: true });
  await expect.poll(async () => Number(await height.inputValue())).toBeGreaterThan(0.03);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(height).toHaveValue('0');
});

test('cloth is tied to cloth and leashed by hand; its stitches are shown and hidden', async ({ page }) => {
  const hands = await emptyShot(page);
  await hands.type('sheet 0.6 × 0.4 every 40 mm at 0, 1, 0 named Upper');
  await hands.type('sheet 0.6 × 0.4 every 40 mm at 0, 0.98, 0 named Lower');
  await hands.number('Last frame', '24');
  await hands.go('Hold');
  await hands.press('Far side');
  await choose(page, 'Tie to', 'Upper');
  await hands.press('Tie to');
  await expect(page.getByRole('button', { name: /^Tie 1/ })).toContainText('16 points to Upper');
  await hands.act(() => pick(page, 'Work at Hold', 'Select'));
  await hands.press('All');
  await hands.press('Leash');
  await expect(page.getByRole('button', { name: /^Leash 1/ })).toContainText('176 points, leash');
  await hands.number('Leash', '100');
  const side = page.getByRole('checkbox', { name: 'never behind where its animation puts it' });
  await tick(page, 'never behind where its animation puts it');
  await page.keyboard.press('Control+z');
  await expect(side).not.toBeChecked();
  await hands.select('Upper');
  await hands.act(() => pick(page, 'Work at Hold', 'Select'));
  await hands.press('Far side');
  await hands.press(/^Pin 16 points/);
  await hands.select('Lower');
  const ties = page.getByRole('checkbox', { name: 'show ties' });
  await expect(ties).toBeChecked();
  // The stitches are seen, not without the tick, and seen again with it.
  const picture = () => page.getByTestId('viewport').screenshot();
  const stitched = await picture();
  await tick(page, 'show ties', false);
  await expect.poll(async () => (await picture()).equals(stitched)).toBe(false);
  await tick(page, 'show ties');
  await expect.poll(async () => (await picture()).equals(stitched)).toBe(true);
  await bake(page, 24);
  // Both cloths are written, the upper one first.
  const all = await seen(page);
  const lower = all.slice(176 * 3);
  const heights = lower.filter((_, i) => i % 3 === 1);
  // Nothing strays more than 100 mm from where it starts; all that could hangs as low as that.
  expect(Math.min(...heights)).toBeGreaterThan(0.879);
  expect(Math.min(...heights)).toBeLessThan(0.91);
  for (const i of sidePoints(sheet({ width: 0.6, height: 0.4, spacing: 0.04 }), 'top')) {
    const length = Math.hypot(...[0, 1, 2].map((axis) => lower[i * 3 + axis]! - all[i * 3 + axis]!));
    expect(Math.abs(length - 0.02)).toBeLessThan(0.001);
  }
});
