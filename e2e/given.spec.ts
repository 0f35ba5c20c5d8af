import { expect } from '@playwright/test';
import { bake, ERROR, openShotFile, smallShot, station, test } from './bench';
import { choose, chosen, row } from './controls';

// Cloth that follows a take of it, while other cloth is simulated on it.

const MOTION = 'Motion of the cloth';

test('a cloth follows a take of it, which may be deleted then, while another falls on it; it is simulated again', async ({
  page,
}) => {
  const small = smallShot();
  await openShotFile(page, small);
  await station(page, 'Hold');
  // Without a take there is nothing to follow.
  await expect(page.getByText('Motion', { exact: true })).toHaveCount(0);
  await bake(page, small.lastFrame);
  await station(page, 'Hold');
  await choose(page, MOTION, 'follows Take 1');
  await expect(page.getByText(`Frames 1 to ${small.lastFrame}, kept in the shot`)).toBeVisible();
  await expect(chosen(page, MOTION)).toHaveText('follows Take 1');

  await expect(row(page, 'Sheet')).toContainText('follows');

  // Alone there is nothing to compute.
  await station(page, 'Run');
  await expect(page.getByText('All cloth in the run follows a take').first()).toBeVisible();
  await station(page, 'Stage');
  const line = page.getByLabel('Type what to add');
  await line.fill('sheet 0.3 x 0.3 at 0 0.8 0');
  await line.press('Enter');
  await expect(line).toHaveValue('');
  await station(page, 'Run');
  await page.getByRole('button', { name: 'Bake a new take' }).click();
  await expect(page.getByRole('button', { name: 'Baked' })).toBeVisible({ timeout: 120_000 });
  await expect(page.getByText(`kept in all ${small.lastFrame} frames`)).toBeVisible();

  // What it was given is in the shot, whatever becomes of the take.
  await page.getByRole('button', { name: /^Take 1\b/ }).click();
  await page.getByRole('region', { name: 'Run' }).getByRole('button', { name: 'Delete' }).click();
  await page.reload();
  await station(page, 'Hold');
  await row(page, 'Sheet').click();
  await expect(chosen(page, MOTION)).toHaveText('follows Take 1');
  await choose(page, MOTION, 'simulated');
  await expect(page.getByText('It is not computed')).toHaveCount(0);
  await expect(row(page, 'Sheet')).not.toContainText('follows');
  await page.keyboard.press('Control+z');
  await expect(chosen(page, MOTION)).toHaveText('follows Take 1');
  await expect(page.locator(ERROR)).toHaveCount(0);
});
