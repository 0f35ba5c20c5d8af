import { BakeRun, createPinSet, type AirThing, type Cloth } from '@lumbra/core';
import { expect } from '@playwright/test';
import { bake, dragHandle, openShotFile, smallShot, station, test } from './bench';
import { choose, row, tick } from './controls';
import { built, emptyShot } from './hands';

test('air is added, placed by its handle, keyed, switched off and taken away', async ({ page }) => {
  await openShotFile(page, smallShot());
  await station(page, 'Air');
  await expect(page.getByText('Still air. It slows falling cloth')).toBeVisible();
  await page.getByRole('button', { name: 'Beam', exact: true }).click();
  await expect(row(page, 'Beam')).toBeVisible();
  const speed = page.getByRole('textbox', { name: 'Speed', exact: true });
  await speed.fill('8');
  await speed.press('Enter');
  await expect(page.getByText('8 m/s')).toBeVisible();
  // The pressure on the cloth, in colour, while air is worked on.
  await tick(page, 'colour cloth by the pressure on it');
  await expect(page.getByTestId('pressure-legend')).toContainText('Pa');
  await station(page, 'Stage');
  await expect(page.getByTestId('pressure-legend')).toHaveCount(0);
  await station(page, 'Air');
  const air = async () => {
    const made = (await built(page)).things.find(({ role }) => role === 'air') as AirThing;
    await station(page, 'Air');
    return made;
  };
  const before = await air();
  expect(before.air).toMatchObject({ kind: 'beam', speed: 8 });

  // Its handle moves it while the station stays open.
  await page.keyboard.press('m');
  await page.keyboard.press('c');
  await page.waitForTimeout(1500);
  const view = (await page.getByTestId('viewport').boundingBox())!;
  await dragHandle(page, [view.x + view.width / 2, view.y + view.height / 2 - 60], -60);
  await expect(page.getByRole('heading', { name: 'Air', exact: true })).toBeVisible();
  expect((await air()).position).not.toEqual(before.position);

  await page.getByRole('button', { name: /: Speed$/ }).click();
  await expect(page.getByRole('button', { name: 'Key at frame 1', exact: true })).toBeVisible();
  expect((await air()).keys.map(({ number }) => number)).toEqual(['air.speed']);

  await page
    .locator('.el-switch')
    .filter({ has: page.getByRole('switch', { name: 'Beam on' }) })
    .click();
  await expect(page.getByText('All of it is switched off: still air.')).toBeVisible();
  await page.getByRole('button', { name: 'Delete (undoable)' }).click();
  await expect(row(page, 'Beam')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(row(page, 'Beam')).toBeVisible();
});

test('an attractor carries a cloth along a path, in at most 8 acts', async ({ page }) => {
  const hands = await emptyShot(page);
  await hands.type('sheet 0.24 × 0.24 every 20 mm of chiffon at 0, 1, 0 named Scarf');
  await hands.type('attractor 12 reach 1 grip 20 gripReach 0.3 at 0, 1, 0 named Hand');
  await hands.press(/^Keys in figures/);
  await hands.table([
    [1, 0, 1, 0],
    [24, 0.8, 1.2, 0],
    [48, 0.8, 1.2, 0.9],
  ]);
  await hands.number('Last frame', '60');
  console.log(`attractor: ${hands.acts} acts`);
  expect(hands.acts).toBeLessThanOrEqual(8);
  const run = new BakeRun(await built(page), new Map());
  let positions = new Float32Array();
  for (let frame = 1; frame <= 60; frame++) positions = run.next().positions[0]!;
  const middle = [0, 1, 2].map(
    (axis) => positions.reduce((sum, value, i) => sum + (i % 3 === axis ? value : 0), 0) / (positions.length / 3),
  );
  expect(Math.hypot(middle[0]! - 0.8, middle[1]! - 1.2, middle[2]! - 0.9)).toBeLessThan(0.3);
});

test('a cue changes a hold or a collider, shows where it happened, and says what was deleted', async ({ page }) => {
  const shot = smallShot();
  const cloth = shot.things[0] as Cloth;
  cloth.pinSets = [{ ...createPinSet({ name: 'Pins', points: [0, 1, 2, 3] }), id: 'pins' }];
  await openShotFile(page, shot);
  await station(page, 'Fabric');
  await page.getByRole('button', { name: /^Cues/ }).click();
  await page.getByRole('button', { name: 'New cue' }).click();
  await choose(page, 'Number of the cue', 'Pins, strength');
  const to = page.getByRole('textbox', { name: 'Goes to', exact: true });
  await expect(to).toHaveValue('0');
  await expect(page.getByText('on the whole cloth at once')).toBeVisible();
  await choose(page, 'Number of the cue', 'Box, friction');
  await expect(page.getByText('on the whole cloth at once')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await choose(page, 'Number of the cue', 'Box, friction');
  const made = ((await built(page)).things.find(({ role }) => role === 'cloth') as Cloth).cues[0];
  expect(made).toMatchObject({ of: 'box', number: 'friction', to: 0 });

  // Where it happened is seen on the cloth.
  await bake(page, 24);
  await station(page, 'Fabric');
  await page.getByRole('button', { name: /^Cues/ }).click();
  await page.getByRole('button', { name: 'Show where' }).click();
  await expect(page.getByTestId('cue-legend')).toContainText('by frame');
  await station(page, 'Stage');
  await row(page, 'Box').click();
  await page.getByRole('button', { name: 'Delete (undoable)', exact: true }).click();
  await expect(row(page, 'Box')).toHaveCount(0);
  await page.getByRole('button', { name: /^\d checks?$/ }).click();
  await expect(page.getByText('Cue 1 of Sheet never happens: the thing was deleted.')).toBeVisible();
  await row(page, 'Sheet').click();
  await station(page, 'Fabric');
  await page.getByRole('button', { name: /^Cues/ }).click();
  await expect(page.getByRole('textbox', { name: 'Goes to', exact: true })).toHaveCount(0);
});
