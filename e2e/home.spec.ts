import { readFileSync } from 'node:fs';
import { readLumbraFile } from '@lumbra/core';
import { expect } from '@playwright/test';
import { drawn, openShotFile, smallShot, test, openFile } from './bench';

test('productions are made, renamed, duplicated, deleted and brought back, and travel as files', async ({ page }) => {
  await page.goto('/');
  const list = page.getByRole('complementary').first();
  await page.getByRole('button', { name: 'New production' }).click();
  const title = page.getByRole('textbox', { name: 'Name of the production' });
  await expect(title).toHaveValue('New production');
  await title.fill('Tug boat');
  await title.press('Enter');
  await expect(list).toContainText('Tug boat');

  // A shot in it, renamed and duplicated.
  await page.getByRole('button', { name: 'New shot' }).first().click();
  await drawn(page);
  await page.getByRole('link', { name: 'Lumbra' }).click();
  await page.getByRole('button', { name: /Tug boat/ }).click();
  await expect(title).toHaveValue('Tug boat');
  const name = page.getByRole('textbox', { name: 'Shot name' });
  await name.fill('Tow rope');
  await name.press('Enter');
  await expect(page.getByRole('link', { name: 'Open Tow rope' })).toBeVisible();
  await page.getByRole('button', { name: 'Duplicate Tow rope', exact: true }).click();
  await expect(page.getByRole('link', { name: 'Open Tow rope, copy' })).toBeVisible();

  // The production as a file, read again.
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save the production as a file', exact: true }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe('Tug boat.lumbra');
  const bytes = readFileSync(await file.path());
  const read = await readLumbraFile(new Uint8Array(bytes));
  expect(read.production).toEqual({ name: 'Tug boat', note: '' });
  expect(read.shots.map(({ shot }) => shot.name)).toEqual(['Tow rope', 'Tow rope, copy']);

  // Deleted, and brought back by undo, by the key, and from the list.
  await page.getByRole('button', { name: 'Delete Tow rope, copy (undoable)', exact: true }).click();
  await expect(page.getByRole('link', { name: 'Open Tow rope, copy' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo: Delete Tow rope, copy' }).click();
  await expect(page.getByRole('link', { name: 'Open Tow rope, copy' })).toBeVisible();
  await page.getByRole('button', { name: 'Delete the production (undoable)', exact: true }).click();
  await expect(page.getByRole('button', { name: /^Undo: Delete Tug boat/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await page.getByRole('button', { name: /Tug boat/ }).click();
  await page.getByRole('button', { name: 'Delete the production (undoable)', exact: true }).click();
  await page.getByRole('region', { name: 'Deleted lately' }).getByRole('button', { name: 'Bring back' }).click();
  await expect(title).toHaveValue('Tug boat');

  // Its file opened beside it becomes a production of its own, with shots of its own.
  await openFile(page, { name: 'Tug boat.lumbra', mimeType: 'application/zip', buffer: bytes });
  await expect(page.getByRole('button', { name: /Tug boat\s*2 shots/ })).toHaveCount(2);
  await page.getByRole('button', { name: 'Duplicate the production', exact: true }).click();
  await expect(title).toHaveValue('Tug boat, copy');

  // Erased for good only when asked twice.
  await page.getByRole('button', { name: 'Delete the production (undoable)', exact: true }).click();
  const gone = page.getByRole('region', { name: 'Deleted lately' });
  await gone.getByRole('button', { name: 'Erase' }).click();
  await page.getByRole('button', { name: 'Erase for good' }).click();
  await expect(gone).toHaveCount(0);
});

test('a second tab opens a shot to look at it, says why, and can take it over; the undo list outlives the tab', async ({
  page,
}) => {
  await openShotFile(page, smallShot());
  const width = page.getByRole('textbox', { name: 'Width' });
  await width.fill('0.9');
  await width.press('Enter');
  await expect(page.getByTestId('saved')).toHaveText('Saved');

  const second = await page.context().newPage();
  await second.goto(page.url());
  await drawn(second);
  const elsewhere = second.getByText('Another tab edits this shot');
  await expect(elsewhere).toBeVisible();
  const secondWidth = second.getByRole('textbox', { name: 'Width' });
  await expect(secondWidth).toHaveValue('0.9');
  await secondWidth.fill('0.5');
  await secondWidth.press('Enter');
  await expect(second.locator('.el-message--error').last()).toContainText('being edited in another tab');
  await expect(secondWidth).toHaveValue('0.9');

  await second.getByRole('button', { name: 'Edit here instead' }).click();
  await expect(elsewhere).toHaveCount(0);
  await expect(page.getByText('Another tab edits this shot')).toBeVisible();
  // What the first tab did can be undone here, and by the list of the history.
  await second.getByRole('button', { name: 'History' }).click();
  await expect(second.getByRole('button', { name: 'Sheet, width' })).toBeVisible();
  await second.getByRole('button', { name: 'As it was at first' }).click();
  await expect(secondWidth).toHaveValue('0.8');
  await expect(second.getByTestId('saved')).toHaveText('Saved');
  await page.close();

  // Closed and opened again, what was undone can still be redone.
  await second.reload();
  await drawn(second);
  await expect(second.getByText('Another tab edits this shot')).toHaveCount(0);
  await second.getByRole('button', { name: 'Redo', exact: true }).click();
  await expect(second.getByRole('textbox', { name: 'Width' })).toHaveValue('0.9');
});
