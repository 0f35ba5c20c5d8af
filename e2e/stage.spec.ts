import { createMount } from '@lumbra/core';
import { expect, type Locator, type Page } from '@playwright/test';
import { ERROR, atRest, dragHandle, openShotFile, smallShot, test } from './bench';
import { choose, chosen, row, things } from './controls';

async function select(page: Page, name: string): Promise<void> {
  await row(page, name).click();
}

function field(page: Page, name: string): Locator {
  return page.getByRole('textbox', { name, exact: true });
}

async function type(page: Page, name: string, value: string): Promise<void> {
  await field(page, name).fill(value);
  await field(page, name).press('Enter');
}

const knot = (page: Page, frame: number) => page.getByRole('button', { name: `Key at frame ${frame}`, exact: true });

test('numbers are keyed only when told to: key here, shift the whole curve, or leave it', async ({ page }) => {
  await openShotFile(page, smallShot());
  await select(page, 'Box');
  // A constant number changes at any frame and stays constant.
  await type(page, 'Current frame', '10');
  await type(page, 'Place x', '0.1');
  await expect(page.getByRole('button', { name: /^Constant; .*: Place x$/ })).toBeVisible();

  await page.getByRole('button', { name: /: Place x$/ }).click();
  await expect(knot(page, 10)).toBeVisible();
  // At its knot it is simply changed.
  await type(page, 'Place x', '0.2');
  await expect(page.getByRole('group', { name: 'Keyed number' })).toHaveCount(0);

  // Elsewhere it asks, and has changed nothing until it is answered.
  await type(page, 'Current frame', '20');
  await type(page, 'Place x', '0.5');
  const question = page.getByRole('group', { name: 'Keyed number' }).first();
  await question.getByRole('button', { name: 'Leave it' }).click();
  await expect(field(page, 'Place x')).toHaveValue('0.2');
  await type(page, 'Place x', '0.3');
  await question.getByRole('button', { name: 'Shift the whole curve' }).click();
  await expect(knot(page, 20)).toHaveCount(0);
  await type(page, 'Current frame', '10');
  await expect(field(page, 'Place x')).toHaveValue('0.3');
  await type(page, 'Current frame', '20');
  await type(page, 'Place x', '0.7');
  await question.getByRole('button', { name: 'Key here' }).click();
  await expect(knot(page, 20)).toBeVisible();
  await type(page, 'Current frame', '15');
  await expect(field(page, 'Place x')).toHaveValue('0.5');

  // Each of these is one undo.
  for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z');
  await page.getByTestId('viewport').click({ position: { x: 20, y: 200 } });
  await select(page, 'Box');
  await expect(knot(page, 20)).toHaveCount(0);
});

test('a size is keyed like any number: the thing grows in the view, and cloth on it is lifted', async ({ page }) => {
  await openShotFile(page, smallShot());
  await select(page, 'Box');
  await page.getByRole('button', { name: /^Constant; .*: Height$/ }).click();
  await expect(knot(page, 1)).toBeVisible();
  const before = await field(page, 'Height').inputValue();
  await type(page, 'Current frame', '9');
  await type(page, 'Height', '0.5');
  await page.getByRole('group', { name: 'Keyed number' }).first().getByRole('button', { name: 'Key here' }).click();
  await expect(knot(page, 9)).toBeVisible();
  const size = page.getByRole('heading', { name: 'Box', exact: true }).locator('xpath=following-sibling::span');
  await expect(size).toContainText('× 0.5 ×');
  await type(page, 'Current frame', '1');
  await expect(field(page, 'Height')).toHaveValue(before);
  await expect(size).not.toContainText('× 0.5 ×');
});

test('knots on the timeline are selected, moved, copied, eased and deleted; their curve is drawn', async ({ page }) => {
  await openShotFile(page, smallShot());
  await select(page, 'Box');
  await page.getByRole('button', { name: /^Keys in figures/ }).click();
  const rows = page.getByRole('textbox', { name: 'New keys' });
  await rows.fill('2 0 0.15 0\n12 0.4 0.15 0\n');
  await page.getByRole('button', { name: 'Key', exact: true }).click();
  await expect(knot(page, 12)).toBeVisible();

  // Refused: the same frame twice, a frame outside the shot.
  await rows.fill('5 0 0 0\n5 1 1 1');
  await page.getByRole('button', { name: 'Key', exact: true }).click();
  await expect(page.getByText('Frame 5 is given twice.')).toBeVisible();
  await rows.fill('99 0 0 0');
  await page.getByRole('button', { name: 'Key', exact: true }).click();
  await expect(page.locator(ERROR).last()).toContainText('frame 99 lies outside the shot');
  await rows.fill('');

  // Move by dragging, and by typing the frame.
  const drag = async (from: number, frames: number, modifier?: 'Control') => {
    const box = (await knot(page, from).boundingBox())!;
    const other = (await page.getByRole('group', { name: 'Frames and keys' }).boundingBox())!;
    const perFrame = (other.width - 68) / 23;
    if (modifier) await page.keyboard.down(modifier);
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + perFrame * frames, box.y + box.height / 2, { steps: 5 });
    await page.mouse.up();
    if (modifier) await page.keyboard.up(modifier);
  };
  await drag(12, 3);
  await expect(knot(page, 15)).toBeVisible();
  await expect(knot(page, 12)).toHaveCount(0);
  await drag(15, 5, 'Control');
  await expect(knot(page, 20)).toBeVisible();
  await expect(knot(page, 15)).toBeVisible();
  const bar = page.getByRole('group', { name: 'Selected keys' });
  await expect(bar).toContainText('3 keys');
  await field(page, 'Frame of the keys').fill('15');
  await field(page, 'Frame of the keys').press('Enter');
  await expect(page.locator(ERROR).last()).toContainText('at frame 15 already');
  await expect(knot(page, 20)).toBeVisible();

  // Ease: held, the number stands still up to the next key.
  await knot(page, 2).click();
  await bar.getByRole('button', { name: 'hold' }).click();
  await type(page, 'Current frame', '14');
  await expect(field(page, 'Place x')).toHaveValue('0');
  await knot(page, 2).click();
  await bar.getByRole('button', { name: 'linear' }).click();
  await type(page, 'Current frame', '8');
  await expect(field(page, 'Place x')).toHaveValue(/^0\.18/);

  // The curve of one number; its knot is dragged up.
  await page.getByRole('button', { name: 'Raise the timeline' }).click();
  await choose(page, 'Curve', 'place x');
  const curve = page.getByRole('button', { name: /^Key of Place x at frame 2:/ });
  const box = (await curve.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y - 60, { steps: 4 });
  await page.mouse.up();
  await type(page, 'Current frame', '2');
  expect(Number(await field(page, 'Place x').inputValue())).toBeGreaterThan(0.05);

  // All of them are selected by a range, and deleted; the number keeps the value of its last key.
  const lane = (await page.getByTestId('knots').locator('.row').boundingBox())!;
  await page.mouse.move(lane.x + 2, lane.y + 4);
  await page.mouse.down();
  await page.mouse.move(lane.x + lane.width - 4, lane.y + 20, { steps: 5 });
  await page.mouse.up();
  await expect(bar).toContainText('9 keys');
  await page.keyboard.press('Delete');
  await expect(knot(page, 2)).toHaveCount(0);
  await expect(field(page, 'Place x')).toHaveValue('0.4');
});

test('a thing rides a mount by being dragged onto it; loops are refused', async ({ page }) => {
  const shot = smallShot();
  shot.things.push(createMount({ id: 'mount', name: 'Mount', position: [0.5, 0.5, 0] }));
  await openShotFile(page, shot);
  await row(page, 'Box').dragTo(row(page, 'Mount'));
  await expect(things(page)).toContainText('on Mount');
  await select(page, 'Mount');
  await type(page, 'Place y', '1.5');
  await select(page, 'Box');
  await expect(field(page, 'Place y')).toHaveValue('−0.35');

  await select(page, 'Mount');
  await choose(page, 'Rides', 'Box');
  await expect(page.locator(ERROR).last()).toContainText(/rides/);
  await expect(chosen(page, 'Rides')).toContainText('nothing');
});

test('checks say what is wrong, point to it, and mend it as one edit', async ({ page }) => {
  const shot = smallShot();
  // The sheet starts inside the box, and gravity is off.
  shot.things[0]!.position = [0, 0.2, 0];
  shot.gravity.enabled = false;
  await openShotFile(page, shot);
  await expect(page.getByTestId('checks')).toContainText(/[2-9] checks/);
  await expect(page.getByTestId('check-line')).toContainText('it can be run as it is');
  await page.getByTestId('checks').click();
  const list = page.getByRole('region', { name: 'Checks' });
  await expect(list).toContainText('Box');
  await expect(page.getByRole('button', { name: /^Stage/ })).toHaveAttribute('aria-description', /a check fails/);
  await list.getByRole('button', { name: /^Lift/ }).click();
  await expect(list).not.toContainText('Lift');
  await list.getByRole('button', { name: 'Switch it on' }).click();
  await expect(page.getByTestId('checks')).toContainText('All checks well');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
  await expect(page.getByTestId('checks')).toContainText(/[2-9] checks/);
});

test('handles in the viewport move a thing; on a keyed one they ask', async ({ page }) => {
  await openShotFile(page, smallShot());
  await select(page, 'Box');
  await page.keyboard.press('m');
  await page.keyboard.press('c');
  await page.waitForTimeout(1500);
  const view = (await page.getByTestId('viewport').boundingBox())!;
  const pull = async () => {
    // The arrow up stands over the middle of the thing, which is centred.
    const [x, y] = [view.x + view.width / 2, view.y + view.height / 2 - 60];
    await dragHandle(page, [x, y], -60);
  };
  await pull();
  await expect(field(page, 'Place y')).not.toHaveValue('0.15');
  expect(Number(await field(page, 'Place y').inputValue())).toBeGreaterThan(0.16);
  expect(Number(await field(page, 'Place x').inputValue())).toBe(0);
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toHaveAttribute('aria-description', /Move Box/);
  await page.keyboard.press('Control+z');
  await expect(field(page, 'Place y')).toHaveValue('0.15');

  // Size is baked into the shape, by numbers as by handles.
  await page.getByRole('button', { name: /^Size as a whole/ }).click();
  await type(page, 'Longest side', '0.6');
  await expect(field(page, 'Width')).toHaveValue('0.6');
  await page.getByRole('button', { name: 'To the ground' }).click();
  await expect(field(page, 'Place y')).toHaveValue('0.3');

  await page.getByRole('button', { name: /: Place y$/ }).click();
  await type(page, 'Current frame', '9');
  await atRest(page);
  await page.keyboard.press('c');
  await atRest(page);
  await pull();
  const question = page.getByRole('group', { name: 'Keyed number' }).first();
  await question.getByRole('button', { name: 'Key here' }).click();
  await expect(knot(page, 9)).toBeVisible();
});

test('things are duplicated, made one mesh, copied outside themselves and sized', async ({ page }) => {
  await openShotFile(page, smallShot());
  await select(page, 'Box');
  await page.getByRole('button', { name: 'Duplicate', exact: true }).click();
  await expect(things(page)).toContainText('Box 2');
  await row(page, 'Box').click({ modifiers: ['Shift'] });
  await expect(page.getByText('2 things are selected')).toBeVisible();
  await page.getByRole('button', { name: 'Make one mesh' }).click();
  await expect(things(page)).toContainText('3 things');
  await expect(page.getByText('0.63 × 0.3 × 0.3 m').first()).toBeVisible();

  await page.getByRole('button', { name: /^Inner or outer copy/ }).click();
  await page.getByRole('button', { name: 'Outer copy', exact: true }).click();
  await expect(things(page)).toContainText('4 things');
  await expect(page.getByText('0.65 × 0.32 × 0.32 m').first()).toBeVisible();
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expect(things(page)).toContainText('3 things');
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
});
