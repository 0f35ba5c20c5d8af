import { expect } from '@playwright/test';
import { ERROR, openShotFile, smallShot, test, openFile } from './bench';

test('numbers that cannot be are refused in the field and say why', async ({ page }) => {
  await openShotFile(page, smallShot());
  const hint = page.getByRole('status').first();
  const width = page.getByRole('textbox', { name: 'Width' });
  await width.fill('NaN');
  await width.press('Enter');
  await expect(hint).toContainText('“NaN” is not a number');
  await width.fill('0');
  await width.press('Enter');
  await expect(hint).toContainText('Width must be 0.001 to 1');
  await width.press('Escape');
  await expect(width).toHaveValue('0.8');

  const spacing = page.getByRole('textbox', { name: 'Spacing' });
  await spacing.fill('0.9m');
  await spacing.press('Enter');
  await expect(page.locator(ERROR).last()).toContainText('the spacing is larger than the sheet');
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
});

test('a shot file of another version is refused', async ({ page }) => {
  await page.goto('/');
  const give = (value: object) =>
    openFile(page, { name: 'shot.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(value)) });
  await give({ ...smallShot(), version: 7 });
  await expect(page.locator(ERROR).last()).toContainText('written by a newer Lumbra (version 7');
  await give({ ...smallShot(), gravty: {} });
  await expect(page.locator(ERROR).last()).toContainText('unknown entry “gravty”');
  await expect(page.getByRole('link', { name: 'Open Small drape' })).toHaveCount(0);
});
