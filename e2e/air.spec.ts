import type { AirThing } from '@lumbra/core';
import { expect } from '@playwright/test';
import { dragHandle, openShotFile, smallShot, station, test } from './bench';
import { row } from './controls';
import { built } from './hands';

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
