import { expect } from '@playwright/test';
import { drawn, station, test } from './bench';
import { pick } from './controls';

test('home shows the demo production, and its shots open with cloth on screen', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('textbox', { name: 'Name of the production' })).toHaveValue('Night Ferry');
  for (const name of ['Crate cover', 'Awning']) {
    await page.goto('/');
    await page.getByRole('link', { name: `Open ${name}` }).click();
    await drawn(page);
    await expect(page.getByRole('complementary', { name: 'Things' })).toContainText(
      name === 'Awning' ? 'Awning' : 'Cover',
    );
  }
});

test('the page stays responsive while a 10,000-point shot bakes, and scrubbing shows a frame at once', async ({
  page,
}) => {
  await page.goto('/shot/nf010');
  await drawn(page);
  await station(page, 'Run');
  await pick(page, 'Quality', 'Draft');
  await page.getByRole('button', { name: /^Bake 120/ }).click();
  await expect(page.getByTestId('progress')).toContainText(/frame ([4-9]|\d\d) of/);
  // The interface answers while it bakes: another station opens, a number changes, undo works.
  await station(page, 'Fabric');
  await expect(page.getByRole('textbox', { name: 'Weight' })).toHaveValue('340');
  await station(page, 'Run');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: /Go on from frame/ })).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowLeft');
  const before = Number(await page.getByTestId('frame').inputValue());
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByTestId('frame')).toHaveValue(String(before - 1));
});
