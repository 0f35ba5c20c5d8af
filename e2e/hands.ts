import { readFileSync } from 'node:fs';
import { readShotFile, type Shot } from '@lumbra/core';
import { expect, type Page } from '@playwright/test';
import { drawn, station } from './bench';
import { row } from './controls';

/** Does things by hand in the interface, and counts the acts: every press and every typed line or row. Naming does not count. */
export class Hands {
  acts = 0;

  constructor(readonly page: Page) {}

  /** One act: whatever is done to the page in it. */
  async act(doIt: () => Promise<unknown>): Promise<void> {
    this.acts++;
    await doIt();
  }

  /** Types a thing, or the wind, in words. */
  async type(line: string): Promise<void> {
    await this.act(async () => {
      const field = this.page.getByLabel('Type what to add');
      await field.fill(line);
      await field.press('Enter');
      await expect(field).toHaveValue('');
    });
  }

  async go(name: string): Promise<void> {
    await this.act(() => station(this.page, name));
  }

  async press(name: string | RegExp): Promise<void> {
    await this.act(() => this.page.getByRole('button', { name, exact: typeof name === 'string' }).click());
  }

  async number(label: string, value: string): Promise<void> {
    await this.act(async () => {
      const field = this.page.getByRole('textbox', { name: label, exact: true });
      await field.fill(value);
      await field.press('Enter');
    });
  }

  /** Selects a thing in Things. */
  async select(name: string): Promise<void> {
    await this.act(() => row(this.page, name).click());
  }

  /** Pastes a table of keys, as from a sheet of figures: one act. */
  async table(rows: number[][]): Promise<void> {
    await this.act(async () => {
      const field = this.page.getByRole('textbox', { name: 'New keys' });
      await field.fill(rows.map((row) => row.join('\t')).join('\n'));
      await field.press('Enter');
      await expect(field).toHaveValue('');
    });
  }

  /** Types rows of keys, each of a frame and a place. */
  async keys(rows: number[][]): Promise<void> {
    const field = this.page.getByRole('textbox', { name: 'New keys' });
    for (const row of rows) {
      await this.act(async () => {
        await field.fill(row.join(' '));
        await field.press('Enter');
        await expect(field).toHaveValue('');
      });
    }
  }
}

/** A new, empty shot, open on the bench. */
export async function emptyShot(page: Page): Promise<Hands> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New shot' }).first().click();
  await drawn(page);
  await expect(page.getByRole('complementary', { name: 'Things' })).toContainText('0 things');
  return new Hands(page);
}

/** The shot as it is handed over in a file. */
export async function built(page: Page): Promise<Shot> {
  await station(page, 'Hand off');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Shot file/ }).click();
  return (await readShotFile(readFileSync(await (await download).path()))).shot;
}
