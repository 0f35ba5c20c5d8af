import { strToU8, zipSync } from 'fflate';
import { readFileSync } from 'node:fs';
import { readObj, writeGlb, writeObj } from '@lumbra/core';
import { expect, type Page } from '@playwright/test';
import { ERROR, bake, openShotFile, smallShot, station, test } from './bench';
import { choose, chosen, pick, row, things, writeFrame } from './controls';

const QUAD = 'v 0 0 0\nv 100 0 0\nv 100 100 0\nv 0 100 0\nf 1 2 3\nf 1 3 4\n';

/** Brings a file in with the picker of the Stage. */
async function give(page: Page, name: string, data: string | Uint8Array): Promise<void> {
  const button = page.getByRole('button', { name: 'Mesh file' });
  if (!(await button.isVisible())) await page.getByRole('button', { name: /^Shapes and files/ }).click();
  const chooser = page.waitForEvent('filechooser');
  await button.click();
  const file = { name, mimeType: 'application/octet-stream', buffer: Buffer.from(data as string) };
  await (await chooser).setFiles(file);
}

/** Drops files onto the viewport, as from the desktop. `make` runs in the page and gives the files. */
async function drop(page: Page, files: { name: string; text?: string; megabytes?: number }[]): Promise<void> {
  await page.getByTestId('viewport').evaluate((canvas, given) => {
    const data = new DataTransfer();
    // A large file is one piece many times over, so that it needs no memory.
    const piece = new Blob([new Uint8Array(1 << 20)]);
    for (const { name, text, megabytes } of given) {
      const parts = megabytes ? Array<Blob>(megabytes).fill(piece) : [text!];
      data.items.add(new File(parts, name));
    }
    for (const type of ['dragover', 'drop'])
      canvas.dispatchEvent(new DragEvent(type, { dataTransfer: data, bubbles: true, cancelable: true, clientX: 700 }));
  }, files);
}

test('a mesh comes in through a dialogue that says what it is, by picker and by drop, as one undoable edit', async ({
  page,
}) => {
  await openShotFile(page, smallShot());
  await give(page, 'sail cloth.obj', QUAD);
  const dialogue = page.getByTestId('import');
  await expect(dialogue).toContainText('4 points, 2 triangles');
  // A hundred of something is most likely a metre in cm.
  await expect(dialogue).toContainText('1 × 1 × 0 m');
  await expect(dialogue).toContainText('open border');
  await choose(page, 'Unit of the file', 'mm');
  await expect(dialogue).toContainText('0.1 × 0.1 × 0 m');
  await choose(page, 'Unit of the file', 'cm');
  await pick(page, 'Role', 'Scenery');
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await expect(things(page)).toContainText('4 things');
  await expect(page.getByText('1 × 1 m').first()).toBeVisible();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(things(page)).toContainText('3 things');

  // Two files dropped come one after the other; what is cancelled changes nothing.
  await drop(page, [
    { name: 'one.obj', text: QUAD },
    { name: 'two.obj', text: QUAD },
  ]);
  await expect(page.getByRole('dialog')).toContainText('Bring in one.obj');
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await expect(page.getByRole('dialog')).toContainText('Bring in two.obj');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(things(page)).toContainText('4 things');

  // It is there after a reload, mesh and all.
  await expect(page.getByTestId('saved')).toHaveText('Saved');
  await page.reload();
  await expect(things(page)).toContainText('4 things');
  await row(page, 'one').click();
  await expect(page.getByText('not in the shot any more')).toHaveCount(0);
});

/** A glTF of a square that slides 2 m along x in a second, in a clip. */
function slidingSquare(): string {
  const floats = new Float32Array([
    ...[-0.5, 0.1, -0.5, 0.5, 0.1, -0.5, 0.5, 0.1, 0.5, -0.5, 0.1, 0.5],
    ...[0, 1, 0, 0, 0, 2, 0, 0],
  ]);
  const indices = new Uint16Array([0, 2, 1, 0, 3, 2]);
  const bytes = Buffer.concat([Buffer.from(floats.buffer), Buffer.from(indices.buffer)]);
  const float = (byteOffset: number, count: number, type: string, more = {}) => ({
    ...{ bufferView: 0, byteOffset, componentType: 5126, count, type, ...more },
  });
  return JSON.stringify({
    asset: { version: '2.0' },
    buffers: [{ byteLength: bytes.length, uri: `data:application/octet-stream;base64,${bytes.toString('base64')}` }],
    bufferViews: [
      { buffer: 0, byteLength: 80 },
      { buffer: 0, byteOffset: 80, byteLength: 12 },
    ],
    accessors: [
      float(0, 4, 'VEC3', { min: [-0.5, 0.1, -0.5], max: [0.5, 0.1, 0.5] }),
      float(48, 2, 'SCALAR', { min: [0], max: [1] }),
      float(56, 2, 'VEC3'),
      { bufferView: 1, componentType: 5123, count: 6, type: 'SCALAR' },
    ],
    meshes: [{ primitives: [{ attributes: { POSITION: 0 }, indices: 3 }] }],
    nodes: [{ name: 'Slider', mesh: 0 }],
    scenes: [{ nodes: [0] }],
    scene: 0,
    animations: [
      {
        name: 'Slide',
        samplers: [{ input: 1, output: 2 }],
        channels: [{ sampler: 0, target: { node: 0, path: 'translation' } }],
      },
    ],
  });
}

test('imported animation moves a collider, and cloth lying on it is carried along', async ({ page }) => {
  const shot = smallShot();
  shot.things = shot.things.filter(({ id }) => id !== 'box');
  shot.things[0]!.position = [0, 0.11, 0];
  await openShotFile(page, shot);
  await give(page, 'slider.gltf', slidingSquare());
  await expect(page.getByTestId('import')).toContainText('1 clip');
  await expect(chosen(page, 'Plays')).toContainText('Slide');
  await pick(page, 'Place', 'As in the file');
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await expect(chosen(page, 'Clip')).toContainText('Slide');
  await expect(page.getByText('1 s, 24 frames')).toBeVisible();
  const friction = page.getByRole('textbox', { name: 'Friction', exact: true });
  await friction.fill('2');
  await friction.press('Enter');
  await bake(page, 24);
  await station(page, 'Hand off');
  const download = page.waitForEvent('download', { timeout: 60_000 });
  await writeFrame(page, 'OBJ sequence');
  const cloth = readObj(readFileSync(await (await download).path(), 'utf8'));
  const xs = cloth.positions.filter((_, i) => i % 3 === 0);
  expect(xs.reduce((sum, x) => sum + x, 0) / xs.length).toBeGreaterThan(0.3);
});

test('a sequence of meshes that was written comes in again as a thing that moves', async ({ page }) => {
  await openShotFile(page, smallShot());
  const files = [0, 0.5, 1].map((y, i) => [`sail/000${i + 1}.obj`, strToU8(QUAD.replaceAll(' 0\n', ` ${y * 100}\n`))]);
  await give(page, 'take.zip', zipSync(Object.fromEntries(files) as Record<string, Uint8Array>));
  await expect(page.getByTestId('import')).toContainText('1 clip');
  await expect(page.getByTestId('import')).toContainText('4 points');
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await expect(row(page, 'sail')).toBeVisible();
});

test('pins follow the animation that came with a cloth', async ({ page }) => {
  await openShotFile(page, smallShot());
  await give(page, 'slider.gltf', slidingSquare());
  await expect(page.getByTestId('import')).toContainText('1 clip');
  await pick(page, 'Role', 'Cloth');
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await expect(page.getByText('Let pins follow it at Hold.')).toBeVisible();
  await station(page, 'Hold');
  await page.getByRole('button', { name: 'All', exact: true }).click();
  await page.getByRole('button', { name: /^Pin 4 points/ }).click();
  await choose(page, 'Follows', 'its own animation');
  await expect(page.getByRole('button', { name: /^Pins 1/ })).toContainText('its own animation');
  await bake(page, 24);
  await station(page, 'Hand off');
  const download = page.waitForEvent('download', { timeout: 60_000 });
  await writeFrame(page, 'OBJ sequence');
  const cloth = readObj(readFileSync(await (await download).path(), 'utf8'));
  // The last point written is one of the slider's: 23 frames of its second have passed.
  const xs = cloth.positions.filter((_, i) => i % 3 === 0).slice(-4);
  for (const x of xs) expect(Math.abs(Math.abs(x - (2 * 23) / 24) - 0.5)).toBeLessThan(0.001);
});

test('a thing dragged from the Stage stands where it is let go', async ({ page }) => {
  await openShotFile(page, smallShot());
  await page.getByRole('button', { name: /^Shapes and files/ }).click();
  const view = (await page.getByTestId('viewport').boundingBox())!;
  await page
    .getByRole('button', { name: 'Ball', exact: true })
    .dragTo(page.getByTestId('viewport'), { targetPosition: { x: view.width * 0.8, y: view.height * 0.75 } });
  await expect(things(page)).toContainText('Ball');
  const x = Number(await page.getByRole('textbox', { name: 'Place x' }).inputValue());
  const y = Number(await page.getByRole('textbox', { name: 'Place y' }).inputValue());
  expect(Math.abs(x)).toBeGreaterThan(0.1);
  expect(y).toBeCloseTo(0.25, 2);
});

test('what cannot be read is refused with a reason, and nothing changes', async ({ page }) => {
  await openShotFile(page, smallShot());
  const glb = await writeGlb(
    [{ name: 'Quad', mesh: { positions: new Float32Array(9), triangles: new Uint32Array([0, 1, 2]) } }],
    { frameRate: 24 },
  );
  const refusals: [string, string | Uint8Array, string][] = [
    ['broken.obj', 'v 0 0 0\nv 1 0 zero\nf 1 2 3\n', 'Line 2 of the OBJ file'],
    ['broken.glb', 'glTF is what this is not', 'GLB'],
    ['truncated.glb', glb.slice(0, glb.length - 30), 'cut short'],
    ['empty.obj', '', 'The file is empty'],
    ['missing.obj', 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 7\n', 'a face at point 7, but only 3 points'],
    ['nan.obj', 'v 0 0 0\nv nan 0 0\nv 0 1 0\nf 1 2 3\n', 'Line 2 of the OBJ file'],
    ['awning.svg', '<svg xmlns="http://www.w3.org/2000/svg"/>', 'a drawing (SVG), not a mesh'],
    ['awning.png', new Uint8Array([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10]), 'a picture, not a mesh'],
    ['notes.txt', 'hello', 'reads meshes from OBJ, GLB, glTF, STL, PLY and USD'],
  ];
  for (const [name, data, reason] of refusals) {
    await give(page, name, data);
    await expect(page.locator(ERROR).last()).toContainText(`${name} was not imported; nothing was changed.`);
    await expect(page.locator(ERROR).last()).toContainText(reason);
  }
  await drop(page, [{ name: 'huge.ply', megabytes: 2048 }]);
  await expect(page.locator(ERROR).last()).toContainText('huge.ply was not imported');
  await expect(page.locator(ERROR).last()).toContainText('2.1 GB');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(things(page)).toContainText('3 things');
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();

  // And after all that a good file comes in.
  await give(page, 'good.obj', writeObj([{ name: 'Good', mesh: quad() }]));
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await expect(things(page)).toContainText('4 things');
});

function quad() {
  return {
    positions: new Float32Array([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]),
    triangles: new Uint32Array([0, 1, 2, 0, 2, 3]),
  };
}
