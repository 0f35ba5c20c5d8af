import { drawn, openBrowser, station, openShotFile, smallShot } from './bench';
import { serve } from '@lumbra/server';
const address = await serve({ port: 0 });
const { context, page, problems } = await openBrowser(address);
const shot = async (name: string) => {
  await page.waitForTimeout(1500);
  await page.screenshot({ path: `/tmp/shots/${name}.png` });
};
await page.goto('/shot/nf050');
await drawn(page);
const cast = page.getByRole('complementary', { name: 'Cast' });
await cast.getByTitle(/^Batten, long/).click();
await page.keyboard.press('m');
await page.getByRole('button', { name: 'Raise the timeline' }).click();
await page.getByRole('combobox', { name: 'Curve' }).selectOption({ label: 'place y' });
await page.getByRole('textbox', { name: 'Current frame' }).fill('30');
await page.getByRole('textbox', { name: 'Current frame' }).press('Enter');
await page.getByRole('button', { name: 'Key at frame 30', exact: true }).click();
await page.getByTitle('A figure of 1.75 m for scale').click();
await shot('d-curve');
await page.getByRole('button', { name: 'Lower the timeline' }).click();
await page.goto('/');
await page.waitForTimeout(1000);
const s = smallShot();
(s.things[0] as any).position = [0, 0.2, 0];
s.gravity.enabled = false;
await openShotFile(page, s);
await page.waitForTimeout(1500);
await page.getByTestId('checks').click();
await shot('e-checks');
await page.keyboard.press('Escape');
await page.getByTestId('mesh-file').setInputFiles({
  name: 'sail.obj',
  mimeType: 'x',
  buffer: Buffer.from('v 0 0 0\nv 100 0 0\nv 100 100 0\nv 0 100 0\nv 0 0 0\nf 1 2 3\nf 5 3 4\n'),
});
await page.getByRole('button', { name: 'Bring it in' }).waitFor();
await shot('f-import');
await page.getByRole('button', { name: 'Cancel' }).click();
await cast.getByTitle(/^Box/).click();
await page.getByRole('button', { name: 'Knot', exact: true }).click();
await page.locator('label').filter({ hasText: 'show what cloth meets' }).locator('input').check();
await page.getByRole('textbox', { name: 'Clearance' }).fill('20 mm');
await page.getByRole('textbox', { name: 'Clearance' }).press('Enter');
await page.locator('select').filter({ hasText: 'A fitted box' }).selectOption({ label: 'A fitted capsule' });
await shot('g-contact');
await page.getByRole('link', { name: 'Lumbra' }).click();
await page.waitForTimeout(800);
await page.getByTitle(/^Delete Small/).click();
await shot('h-home');
console.log(problems);
await context.close();
process.exit(0);
