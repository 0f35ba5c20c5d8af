import { expect, test } from '@playwright/test';
import { bake, ERROR, openBrowser, openShotFile, smallShot, station } from './bench';

test('numbers that cannot be are refused in the field and say why', async ({ baseURL }) => {
  const { context, page } = await openBrowser(baseURL!);
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
  await context.close();
});

test('a shot file of another version is refused', async ({ baseURL }) => {
  const { context, page } = await openBrowser(baseURL!);
  await page.goto('/');
  const give = (value: object) =>
    page
      .getByTestId('shot-file')
      .setInputFiles({ name: 'shot.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(value)) });
  await give({ ...smallShot(), version: 7 });
  await expect(page.locator(ERROR).last()).toContainText('written by a newer Lumbra (version 7');
  await give({ ...smallShot(), gravty: {} });
  await expect(page.locator(ERROR).last()).toContainText('unknown entry “gravty”');
  await expect(page.getByRole('link', { name: 'Open Small drape' })).toHaveCount(0);
  await context.close();
});

test('a browser that refuses to keep frames loses none of them, and says so', async ({ baseURL }) => {
  const { context, page } = await openBrowser(baseURL!);
  await openShotFile(page, smallShot());
  await context.close();

  const again = await openBrowser(baseURL!);
  // The worker is given a storage that is full.
  await again.context.route('**/run.worker-*.js', async (route) => {
    const response = await route.fetch();
    const full = `
      const put = IDBObjectStore.prototype.put;
      IDBObjectStore.prototype.put = function (...args) {
        if (this.name === 'chunks') throw new DOMException('full', 'QuotaExceededError');
        return put.apply(this, args);
      };`;
    await route.fulfill({ response, body: full + (await response.text()) });
  });
  await openShotFile(again.page, smallShot());
  await bake(again.page, 24);
  await expect(again.page.locator(ERROR).last()).toContainText('no room left');
  await station(again.page, 'Hand off');
  await expect(again.page.getByText('24 frames')).toBeVisible();
  await again.context.close();
});
