import { expect, type Locator, type Page } from '@playwright/test';

// The interface's controls, as a person uses them.

/** The list of things. */
export function things(page: Page): Locator {
  return page.getByRole('complementary', { name: 'Things' });
}

/** The row of a thing in the list, by its whole name. */
export function row(page: Page, name: string): Locator {
  return page.getByTestId('thing').filter({ has: page.getByText(name, { exact: true }) });
}

/** Chooses from a list by what is written there. */
export async function choose(page: Page, list: string, option: string): Promise<void> {
  await chosen(page, list).last().locator('.el-select__wrapper').click();
  await page.getByRole('option', { name: option, exact: true }).locator('visible=true').click();
}

/** What a list shows. */
export function chosen(page: Page, list: string): Locator {
  return page.locator('.el-select').filter({ has: page.getByRole('combobox', { name: list, exact: true }) });
}

/** Picks one of a few choices in a row. */
export async function pick(page: Page, group: string, choice: string): Promise<void> {
  await page.getByRole('radiogroup', { name: group, exact: true }).last().getByText(choice, { exact: true }).click();
}

/** Ticks a box, or takes the tick away. */
export async function tick(page: Page, name: string, on = true): Promise<void> {
  const box = page.getByRole('checkbox', { name, exact: true });
  if ((await box.isChecked()) !== on) await page.locator('.el-checkbox').filter({ has: box }).click();
  await expect(box).toBeChecked({ checked: on });
}

/** What a control says of itself while the pointer rests on it. */
export async function expectTip(control: Locator, text: RegExp): Promise<void> {
  await expect(control).toHaveAttribute('aria-description', text);
}

/** Writes the take that is looked at in a format, at Hand off. */
export async function writeTake(page: Page, format: string): Promise<void> {
  await choose(page, 'Format', format);
  await page.getByRole('button', { name: `Write ${format}`, exact: true }).click();
}

/** Writes the frame that is looked at in a format, at Hand off. */
export async function writeFrame(page: Page, format: string): Promise<void> {
  await choose(page, 'Format', format);
  await page.getByRole('button', { name: /^(USD|GLB|OBJ|PLY|STL)\w* of this frame/ }).click();
}
