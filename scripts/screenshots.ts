// `npm run screenshots`: runs the app with the demo production and takes the pictures of docs/screenshots and of the
// demo's cards. Needs a built app; takes about half an hour, for it bakes.
import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { shapeMesh, writeObj } from '@lumbra/core';
import { serve } from '@lumbra/server';
import type { Page } from '@playwright/test';
import { drawn, openBrowser, station } from '../e2e/bench';
import { choose, pick, row } from '../e2e/controls';

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const folder = path.join(root, 'docs', 'screenshots');
const cards = path.join(root, 'packages', 'app', 'public', 'demo');
mkdirSync(folder, { recursive: true });
mkdirSync(cards, { recursive: true });

const address = await serve({ port: 0 });
const { context, page } = await openBrowser(address);

/** Waits until the viewport is drawn and quiet, then takes the picture. */
async function take(name: string): Promise<void> {
  await page.waitForTimeout(1500);
  await page.screenshot({ path: path.join(folder, `${name}.png`) });
  console.log(`screenshots: ${name}`);
}

async function bakeAll(): Promise<void> {
  await station(page, 'Run');
  await page.getByRole('button', { name: /^Bake \d+ frames/ }).click();
  await page.getByRole('button', { name: 'Baked' }).waitFor({ timeout: 1_800_000 });
}

/** The picture that the app itself keeps of a shot. */
async function keepCard(from: Page, id: string, code: string): Promise<void> {
  const text = await from.evaluate(async (shot) => {
    const open = indexedDB.open('lumbra');
    await new Promise((resolve) => (open.onsuccess = resolve));
    const request = open.result.transaction('shots').objectStore('shots').get(shot);
    await new Promise((resolve) => (request.onsuccess = resolve));
    const blob = (request.result as { picture: Blob }).picture;
    const bytes = new Uint8Array(await blob.arrayBuffer());
    return Array.from(bytes, (byte) => String.fromCharCode(byte)).join('');
  }, id);
  writeFileSync(path.join(cards, `${code}.png`), Buffer.from(text, 'latin1'));
}

/** Goes to a frame and gives its points the time to come. */
async function goTo(frame: number): Promise<void> {
  const field = page.getByRole('textbox', { name: 'Current frame' });
  await field.fill(String(frame));
  await field.press('Enter');
  await page.waitForTimeout(1000);
}

await page.goto('/shot/nf050');
await drawn(page);
await row(page, 'Crate').click();
await page.keyboard.press('m');
await page.getByRole('button', { name: 'Key at frame 90', exact: true }).click();
await choose(page, 'Curve', 'place x');
await page.getByRole('button', { name: 'Raise the timeline' }).click();
await take('keys');
await page.getByRole('button', { name: 'Lower the timeline' }).click();
// Leaves the tool, then the keys.
for (let i = 0; i < 2; i++) await page.keyboard.press('Escape');
await goTo(1);
await station(page, 'Run');
await page.getByRole('button', { name: /^Bake \d+ frames/ }).click();
await page.waitForFunction(
  () => Number(document.querySelector<HTMLInputElement>('[data-testid=frame]')?.value) >= 86,
  undefined,
  { timeout: 300_000 },
);
await page.getByRole('button', { name: /^Stop, keep/ }).click();
await page.getByRole('button', { name: /^Go on from frame/ }).waitFor({ timeout: 30_000 });
await take('run-rucked');
await page.getByRole('link', { name: 'Lumbra' }).click();
await page.getByRole('link', { name: 'Open Awning' }).click();
await drawn(page);
await bakeAll();
await goTo(92);
await station(page, 'Hold');
await pick(page, 'Work at Hold', 'Masks');
await page.getByRole('button', { name: 'Posts, fading' }).click();
await pick(page, 'Work at Hold', 'Holds');
await page.getByRole('button', { name: /^Posts ?\d+ points/ }).click();
await take('hold');
await pick(page, 'Work at Hold', 'Masks');
await page.getByRole('button', { name: 'Posts, fading' }).click();
await station(page, 'Air');
await take('air');
await page.keyboard.press('Escape');
await page.getByRole('link', { name: 'Lumbra' }).click();
await page.getByRole('link', { name: 'Open Gangway hood' }).click();
await drawn(page);
await bakeAll();
await goTo(104);
await station(page, 'Hold');
await pick(page, 'Work at Hold', 'Masks');
await page.getByRole('button', { name: 'Noise', exact: true }).first().click();
await page.getByRole('button', { name: 'Paint', exact: true }).click();
await page.mouse.move(620, 330);
await page.mouse.down();
await page.mouse.move(760, 380, { steps: 12 });
await page.mouse.up();
await take('hold-mask');
for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Undo', exact: true }).click();
await goTo(84);
await station(page, 'Run');
await page.waitForTimeout(1000);
await page.getByRole('link', { name: 'Lumbra' }).click();
await page.getByRole('link', { name: 'Open Brailing up' }).click();
await drawn(page);
await bakeAll();
await goTo(88);
await station(page, 'Hold');
await pick(page, 'Work at Hold', 'Holds');
await page.getByRole('button', { name: /^Brail eyes/ }).click();
await take('hold-brailing');
await station(page, 'Run');
await page.waitForTimeout(1000);
await page.getByRole('link', { name: 'Lumbra' }).click();
await page.getByRole('link', { name: 'Open Crate cover' }).click();
await drawn(page);
await take('stage');
// A coil of rope as another program writes it: in mm, its points not joined.
const coil = shapeMesh({ kind: 'ring', radius: 190, tubeRadius: 36, segments: 48 }, new Map());
const loose = {
  positions: new Float32Array([...coil.positions, ...coil.positions.subarray(0, 30)]),
  triangles: coil.triangles,
};
await page.getByRole('button', { name: /^Shapes and files/ }).click();
const chooser = page.waitForEvent('filechooser');
await page.getByRole('button', { name: 'Mesh file' }).click();
await (
  await chooser
).setFiles({
  name: 'rope coil.obj',
  mimeType: 'model/obj',
  buffer: Buffer.from(writeObj([{ name: 'Rope coil', mesh: loose }])),
});
await page.getByRole('button', { name: 'Bring it in' }).waitFor();
await take('import');
await page.getByRole('button', { name: 'Cancel' }).click();
// The cover hangs too low, and gravity is off.
const height = page.getByRole('textbox', { name: 'Place y' });
await height.fill('0.4');
await height.press('Enter');
await station(page, 'Air');
await page.getByRole('switch', { name: 'Gravity on' }).press('Space');
await station(page, 'Stage');
await page.getByText(/checks? fails?;/).waitFor({ timeout: 30_000 });
await page.getByTestId('checks').click();
await take('checks');
await page.keyboard.press('Escape');
await page.getByTestId('checks').click();
for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Undo', exact: true }).click();
await bakeAll();
await take('run');
// Another attempt, lighter, and what it came to beside the first.
await station(page, 'Fabric');
await page.getByRole('textbox', { name: 'Weight', exact: true }).fill('180');
await page.getByRole('textbox', { name: 'Weight', exact: true }).press('Enter');
await station(page, 'Run');
await page.getByRole('textbox', { name: 'Current frame' }).fill('20');
await page.getByRole('textbox', { name: 'Current frame' }).press('Enter');
await page.getByRole('button', { name: 'Go on from 20' }).click();
await page.waitForFunction(
  () => Number(document.querySelector<HTMLInputElement>('[data-testid=frame]')?.value) >= 60,
  undefined,
  { timeout: 300_000 },
);
await page.getByRole('button', { name: /^Stop, keep/ }).click();
await page.getByRole('button', { name: /^Go on from frame/ }).waitFor({ timeout: 30_000 });
await page.getByRole('textbox', { name: 'Name of the take' }).fill('Light from 20 on');
await page.getByRole('textbox', { name: 'Name of the take' }).press('Enter');
await page.getByRole('textbox', { name: 'Note on the take' }).fill('slides off the top crate');
await page.getByRole('textbox', { name: 'Note on the take' }).press('Enter');
await page.getByRole('textbox', { name: 'Current frame' }).fill('48');
await page.getByRole('textbox', { name: 'Current frame' }).press('Enter');
await page.waitForTimeout(2500);
await take('takes');
await page.getByRole('button', { name: /^Take 1\b/ }).click();
await page.getByRole('button', { name: 'Take up again' }).click();
await station(page, 'Fabric');
await page.getByRole('button', { name: 'Swatch book' }).click();
await take('fabric');
await page.getByRole('button', { name: 'Close the swatch book' }).click();
await page.getByRole('button', { name: /Swatch tests/ }).click();
await page.getByRole('button', { name: 'Test a swatch' }).click();
await page.getByTestId('stretch-test').waitFor({ timeout: 60_000 });
await page.getByTestId('stretch-test').scrollIntoViewIfNeeded();
await take('swatch-tests');
await station(page, 'Finish');
await take('finish');
await station(page, 'Hand off');
await take('hand-off');
await page.getByRole('link', { name: 'Lumbra' }).click();
await page.getByRole('link', { name: 'Open Cart hood' }).waitFor();
await take('home');
await page.getByRole('link', { name: 'Open Cart hood' }).click();
await drawn(page);
await station(page, 'Pattern');
await pick(page, 'Work', 'Seams');
await page.getByRole('list', { name: 'Seams' }).getByRole('button').first().click();
await take('pattern');
await page.keyboard.press('f');
await pick(page, 'Work', 'Pieces');
await page.getByRole('button', { name: 'Panel 2', exact: true }).click();
await page.getByRole('button', { name: 'Node 2 of Panel 2' }).click();
await take('pattern-flat');
await page.keyboard.press('f');
await bakeAll();
await goTo(90);
await page.waitForTimeout(2500);
await page.getByRole('link', { name: 'Lumbra' }).click();
await page.waitForTimeout(2500);
await keepCard(page, 'nf090', 'NF090');
await page.getByRole('link', { name: 'Open Frozen apron' }).click();
await drawn(page);
await bakeAll();
await goTo(108);
await station(page, 'Fabric');
await page.getByRole('button', { name: /^Cues/ }).click();
await page.getByText(/Happened first/).scrollIntoViewIfNeeded();
await take('fabric-cues');
await page.getByRole('link', { name: 'Lumbra' }).click();
await page.waitForTimeout(2500);
await keepCard(page, 'nf100', 'NF100');
await keepCard(page, 'nf010', 'NF010');
await keepCard(page, 'nf020', 'NF020');
await keepCard(page, 'nf030', 'NF030');
await keepCard(page, 'nf050', 'NF050');
await keepCard(page, 'nf120', 'NF120');
await context.close();
process.exit(0);
