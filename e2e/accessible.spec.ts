import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { bake, drawn, openShotFile, smallShot, station, test } from './bench';
import { choose, pick, row } from './controls';

// Every screen and station in both themes, as axe sees it; and the work of a shot without a pointer.

async function expectNone(page: Page, where: string): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).analyze();
  const found = violations.map(
    ({ id, nodes }) =>
      `${id}: ${nodes.map(({ target, failureSummary }) => `${target.join(' ')} (${failureSummary})`).join('; ')}`,
  );
  expect(found, where).toEqual([]);
}

for (const theme of ['day', 'evening'] as const) {
  test(`axe finds nothing on any screen or station, ${theme}`, async ({ page }) => {
    test.setTimeout(120_000);
    await page.addInitScript((wanted) => localStorage.setItem('lumbra.theme', wanted), theme);
    await page.goto('/');
    await expect(page.getByRole('link', { name: 'Open Crate cover' })).toBeVisible();
    await expectNone(page, 'home');

    const shot = smallShot();
    shot.lastFrame = 3;
    await openShotFile(page, shot);
    await drawn(page);
    for (const name of ['Stage', 'Fabric', 'Hold', 'Air', 'Run', 'Hand off']) {
      await station(page, name);
      await expectNone(page, `${name}, ${theme}`);
    }
    await station(page, 'Hold');
    await page.getByRole('button', { name: 'Far side' }).click();
    await expectNone(page, `points, ${theme}`);
    await page.getByRole('button', { name: /^Pin 21 points/ }).click();
    await expectNone(page, `holds, ${theme}`);
    await pick(page, 'Work at Hold', 'Masks');
    await page.getByRole('button', { name: 'Empty', exact: true }).click();
    await expectNone(page, `masks, ${theme}`);

    await station(page, 'Stage');
    await row(page, 'Box').click();
    await page.getByRole('button', { name: /: Place x$/ }).click();
    await choose(page, 'Curve', 'place x');
    await expectNone(page, `a keyed collider, ${theme}`);
    await bake(page, 3);
    await expectNone(page, `a take, ${theme}`);
    await station(page, 'Hand off');
    await expectNone(page, `hand off of a take, ${theme}`);
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog')).toBeVisible();
    await expectNone(page, `the sheet of keys, ${theme}`);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'History' }).click();
    await expect(page.getByRole('region', { name: 'History' })).toBeVisible();
    await expectNone(page, `history, ${theme}`);
  });
}
