import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { bake, drawn, openShotFile, smallShot, station, test } from './bench';
import { choose, pick, row } from './controls';

// Every screen and station in both themes, as axe sees it; and the work of a shot without a pointer.

type AxeResults = Awaited<ReturnType<AxeBuilder['analyze']>>;

function expectNothing({ violations }: AxeResults, where: string): void {
  const found = violations.map(
    ({ id, nodes }) =>
      `${id}: ${nodes.map(({ target, failureSummary }) => `${target.join(' ')} (${failureSummary})`).join('; ')}`,
  );
  expect(found, where).toEqual([]);
}

/** What axe finds in both themes, on the page or within a part of it; in the evening only colours are other ones. */
async function expectNone(page: Page, where: string, within?: string): Promise<void> {
  // A station's part of the program is fetched when it is first gone to.
  if (within) await expect(page.locator(within)).toBeVisible();
  // There are no frames in the page: without them axe needs no page of its own to sum up in.
  const builder = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] });
  if (within) builder.include(within);
  expectNothing(await builder.analyze(), `${where}, day`);
  // It is in the page now, and needs not be written into it once more.
  const evening = await page.evaluate(async (part) => {
    document.documentElement.dataset['theme'] = 'evening';
    const { axe } = window as unknown as { axe: { run(context: unknown, options: unknown): Promise<AxeResults> } };
    return axe.run(part ?? document, { runOnly: ['color-contrast'], resultTypes: ['violations'] });
  }, within);
  expectNothing(evening, `${where}, evening`);
  await page.evaluate(() => (document.documentElement.dataset['theme'] = 'day'));
}

test('axe finds nothing on any screen or station, in both themes', async ({ page }) => {
  test.setTimeout(300_000);
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'Open Crate cover' })).toBeVisible();
  await expectNone(page, 'home');

  const shot = smallShot();
  shot.lastFrame = 3;
  await openShotFile(page, shot);
  await drawn(page);
  await row(page, 'Box').click();
  await page.getByRole('button', { name: /: Place x$/ }).click();
  await choose(page, 'Curve', 'place x');
  await bake(page, 3);
  await expectNone(page, 'the bench');
  // What is around a station stays as it is.
  for (const name of ['Stage', 'Fabric', 'Air', 'Run', 'Hand off']) {
    await station(page, name);
    await expectNone(page, name, '.panel');
  }
  await station(page, 'Finish');
  await row(page, 'Sheet').click();
  await page.getByRole('button', { name: 'Thicken', exact: true }).click();
  await expectNone(page, 'Finish', '.panel');
  await station(page, 'Fabric');
  await page.getByRole('button', { name: /^Print/ }).click();
  await pick(page, 'Print', 'Picture');
  await expectNone(page, 'Fabric, a picture', '.panel');
  await station(page, 'Pattern');
  await expectNone(page, 'Pattern, of a sheet', '.panel');
  await page.getByRole('button', { name: 'Cut as a pattern' }).click();
  await expect(page.getByRole('list', { name: 'Pieces' })).toBeVisible();
  await expectNone(page, 'Pattern', '.panel');
  await page.getByRole('button', { name: /^Pleats/ }).click();
  await pick(page, 'Pleats', 'Knife');
  await page.getByRole('button', { name: /^Lines/ }).click();
  await expect(page.getByRole('textbox', { name: 'Pressed' })).toBeVisible();
  await expectNone(page, 'Pattern, pleats', '.panel');
  await pick(page, 'Pleats', 'None');
  for (const work of ['Seams', 'Mesh', 'Pieces']) {
    await pick(page, 'Work', work);
    await expectNone(page, `Pattern, ${work}`, '.panel');
  }
  await page.keyboard.press('f');
  await expect(page.getByRole('group', { name: 'Pieces laid out flat' })).toBeVisible();
  await page.getByRole('button', { name: 'Node 1 of Piece 1' }).focus();
  await expectNone(page, 'the pieces laid out flat', '.flat');
  await page.keyboard.press('f');
  await row(page, 'Box').click();
  await page.getByRole('button', { name: 'Split cloth off Box' }).click();
  await page.getByRole('button', { name: 'All', exact: true }).click();
  await expectNone(page, 'Pattern, faces', '.panel');
  await row(page, 'Sheet').click();
  await station(page, 'Hold');
  await page.getByRole('button', { name: 'Far side' }).click();
  await expectNone(page, 'points');
  await page.getByRole('button', { name: /^Pin 21 points/ }).click();
  await expectNone(page, 'holds', '.panel');
  await pick(page, 'Work at Hold', 'Masks');
  await page.getByRole('button', { name: 'Empty', exact: true }).click();
  await expectNone(page, 'masks', '.panel');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toBeVisible();
  await expectNone(page, 'the sheet of keys');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'History' }).click();
  await expect(page.getByRole('region', { name: 'History' })).toBeVisible();
  await expectNone(page, 'history');
});

/** Goes on with the tab key until a control of that name has the focus. */
async function tabTo(page: Page, name: string | RegExp, tag = ''): Promise<void> {
  const nameNow = () =>
    page.evaluate((wanted) => {
      const at = document.activeElement;
      if (wanted && at?.tagName !== wanted) return '';
      return (at?.getAttribute('aria-label') ?? at?.textContent ?? '').replace(/\s+/g, ' ').trim();
    }, tag);
  for (let presses = 0; presses < 120; presses++) {
    await page.keyboard.press('Tab');
    const now = await nameNow();
    if (typeof name === 'string' ? now === name : name.test(now)) return;
  }
  throw new Error(`The tab key does not come to ${String(name)}.`);
}

test('a shot is made, keyed, settled, baked and handed off without a pointer', async ({ page }) => {
  const typeInto = async (name: string, text: string) => {
    await tabTo(page, name, 'INPUT');
    await page.keyboard.press('Control+a');
    await page.keyboard.type(text);
    await page.keyboard.press('Enter');
  };
  const knot = (frame: number) => page.getByRole('button', { name: `Key at frame ${frame}`, exact: true });
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'Open Crate cover' })).toBeVisible();
  await tabTo(page, 'New shot');
  await page.keyboard.press('Enter');
  await drawn(page);
  await typeInto('Type what to add', 'sheet 0.6 0.6 every 60 mm at 0 0.4 0 named Cover');
  await expect(row(page, 'Cover')).toBeVisible();
  await page.keyboard.type('box 0.3 0.3 0.3 named Crate');
  await page.keyboard.press('Enter');
  await expect(row(page, 'Crate')).toHaveAttribute('aria-current', 'true');

  // Enter gives the keys back: K keys the place of what is selected, and its key is taken along by the arrows.
  await typeInto('Last frame', '6');
  await page.keyboard.press('k');
  await expect(knot(1)).toBeVisible();
  await tabTo(page, 'Key at frame 1');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect(knot(3)).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowLeft');
  await expect(knot(1)).toBeFocused();
  await page.keyboard.press('Shift+Tab');
  await expect(page.getByRole('slider', { name: 'Frame' })).toBeFocused();
  await page.keyboard.press('End');
  await expect(page.getByTestId('frame')).toHaveValue('6');

  // Up and down in the list, enter selects; riding is chosen from a list.
  await page.keyboard.press('j');
  await expect(page.getByTestId('pose')).toContainText('Settle', { timeout: 30_000 });
  await expect(page.getByTestId('pose')).toContainText('Settled', { timeout: 60_000 });
  await page.keyboard.press('6');
  await page.keyboard.press('b');
  await expect(page.getByRole('button', { name: /^Baked/ })).toBeVisible({ timeout: 60_000 });
  await page.keyboard.press('8');
  await tabTo(page, 'Write USD with motion');
  const download = page.waitForEvent('download');
  await page.keyboard.press('Enter');
  expect((await download).suggestedFilename()).toMatch(/\.usdc$/);
});
