import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { createCloth, createShot, writeGlb, type Mesh } from '@lumbra/core';
import { serve } from '@lumbra/server';
import type { Page } from '@playwright/test';
import { drawn, openBrowser, openShotFile, station } from '../../e2e/bench';
import { row as thingRow } from '../../e2e/controls';
import { longTasks } from './longTasks';
import { median, row } from './print';

const ROUNDS = 20;

/** A bumpy ring of about so many triangles. */
function bumpyRing(triangles: number): Mesh {
  const around = Math.round(Math.sqrt(triangles));
  const across = Math.round(triangles / 2 / around);
  const positions = new Float32Array(around * across * 3);
  const faces = new Uint32Array(around * across * 6);
  for (let i = 0; i < around; i++) {
    for (let j = 0; j < across; j++) {
      const [a, b] = [(i / around) * 2 * Math.PI, (j / across) * 2 * Math.PI];
      const tube = 0.2 + 0.01 * Math.sin(9 * a) * Math.sin(7 * b);
      const out = 0.6 + tube * Math.cos(b);
      positions.set([out * Math.cos(a), tube * Math.sin(b), out * Math.sin(a)], (i * across + j) * 3);
      const at = (di: number, dj: number) => ((i + di) % around) * across + ((j + dj) % across);
      faces.set([at(0, 0), at(0, 1), at(1, 1), at(0, 0), at(1, 1), at(1, 0)], (i * across + j) * 6);
    }
  }
  return { positions, triangles: faces };
}

/** Milliseconds until a press of a button has changed the document and the page, and until the next picture is drawn. */
async function press(page: Page, name: string): Promise<{ changed: number; drawn: number }> {
  return page.getByRole('button', { name, exact: true }).evaluate(async (button: HTMLButtonElement) => {
    const start = performance.now();
    button.click();
    await new Promise((resolve) => setTimeout(resolve));
    const changed = performance.now() - start;
    await new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)));
    return { changed, drawn: performance.now() - start };
  });
}

async function undoOnNf050(page: Page): Promise<void> {
  await page.goto('/shot/nf050');
  await drawn(page);
  await station(page, 'Stage');
  await thingRow(page, 'Crate').click();
  const acts: [string, () => Promise<unknown>][] = [
    ['change a key', () => type(page, 'Current frame', '8').then(() => type(page, 'Place x', '-0.9'))],
    ['size the crate', () => type(page, 'Width', '0.5')],
    ['friction', () => type(page, 'Friction', '0.3')],
    ['add a box', () => type(page, 'Type what to add', 'box')],
    ['duplicate it', () => page.getByRole('button', { name: 'Duplicate', exact: true }).click()],
    ['delete it', () => page.getByRole('button', { name: 'Delete (undoable)', exact: true }).click()],
  ];
  for (const [label, doIt] of acts) {
    await doIt();
    await page.waitForTimeout(300);
    const times = { undo: [] as number[], redo: [] as number[], drawn: [] as number[] };
    for (let round = 0; round < ROUNDS; round++) {
      const back = await press(page, 'Undo');
      const on = await press(page, 'Redo');
      times.undo.push(back.changed);
      times.redo.push(on.changed);
      times.drawn.push(back.drawn, on.drawn);
    }
    row(
      `undo, ${label}`,
      `${median(times.undo).toFixed(1)} ms (worst ${Math.max(...times.undo).toFixed(1)}), redo ${median(times.redo).toFixed(1)} ms (worst ${Math.max(...times.redo).toFixed(1)}), to the picture ${median(times.drawn).toFixed(0)} ms`,
    );
  }
}

async function type(page: Page, label: string, value: string): Promise<void> {
  const field = page.getByLabel(label, { exact: true });
  await field.fill(value);
  await field.press('Enter');
}

async function importing(page: Page, triangles: number): Promise<void> {
  const glb = await writeGlb([{ name: 'Ring', mesh: bumpyRing(triangles) }], { frameRate: 24 });
  await page.goto('/');
  await page.getByRole('button', { name: 'New shot' }).first().click();
  await drawn(page);
  await page.waitForTimeout(1000);
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'lumbra-bench-')), 'ring.glb');
  writeFileSync(file, glb);
  const draws = async () => Number(await page.getByTestId('viewport').getAttribute('data-draws'));
  await longTasks(page);
  let start = performance.now();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Mesh file' }).click();
  await (await chooser).setFiles(file);
  await page.getByRole('button', { name: 'Bring it in' }).waitFor();
  const read = performance.now() - start;
  const before = await draws();
  start = performance.now();
  await page.getByRole('button', { name: 'Bring it in' }).click();
  await page.getByRole('complementary', { name: 'Things' }).getByText('1 thing').waitFor();
  while ((await draws()) <= before) await page.waitForTimeout(5);
  const taken = performance.now() - start;
  await page.waitForTimeout(1500);
  const long = await longTasks(page);
  row(
    `import ${triangles.toLocaleString('en')} triangles (${(glb.length / 1e6).toFixed(1)} MB)`,
    `${read.toFixed(0)} ms to the dialogue, ${taken.toFixed(0)} ms to the screen; tasks over 50 ms: ${long.map((ms) => ms.toFixed(0)).join(', ') || 'none'}`,
  );
}

/**
 * Paints over a sheet of 40,000 points: how long the page works on one move of the pointer, and in how many display frames after
 * the one in which the move came it is drawn.
 */
async function painting(page: Page): Promise<void> {
  const cloth = createCloth({
    name: 'Large',
    shape: { kind: 'sheet', width: 2, height: 2, spacing: 0.01 },
    position: [0, 0.2, 0],
  });
  const shot = createShot({
    name: 'Large sheet',
    things: [cloth],
    camera: { position: [0, 3.5, 0.01], target: [0, 0, 0] },
  });
  await openShotFile(page, shot);
  await station(page, 'Hold');
  await page.getByRole('button', { name: 'Empty', exact: true }).click();
  await page.getByRole('button', { name: 'Paint', exact: true }).click();
  await page.waitForTimeout(1000);
  await page.evaluate(() => {
    const at = window as unknown as { moves: number[]; behind: number[] };
    const moves: number[] = (at.moves = []);
    const behind: number[] = (at.behind = []);
    // Asked for at the beginning of every frame, so it is the first of the next one's callbacks.
    let frame = 0;
    const counter = {
      count() {
        requestAnimationFrame(() => counter.count());
        frame++;
      },
    };
    counter.count();
    // Moves come before a frame's callbacks: drawn in the same frame, the count has gone up by one.
    let waiting: number[] = [];
    window.addEventListener('pointermove', () => waiting.push(frame), { capture: true });
    new MutationObserver(() => {
      behind.push(...waiting.map((came) => frame - came - 1));
      waiting = [];
    }).observe(document.querySelector('[data-testid=viewport]')!, { attributeFilter: ['data-draws'] });
    let start = 0;
    window.addEventListener('pointermove', () => (start = performance.now()), { capture: true });
    // After all that the page does in answer, its own microtasks among it.
    window.addEventListener('pointermove', () => {
      void Promise.resolve()
        .then(() => undefined)
        .then(() => moves.push(performance.now() - start));
    });
  });
  const view = (await page.getByTestId('viewport').boundingBox())!;
  // The first picture of depths after the view has changed is drawn when the brush is first moved over the cloth.
  await page.mouse.move(view.x + 200, view.y + 200);
  await page.waitForTimeout(1000);
  const take = () =>
    page.evaluate(() => {
      const at = window as unknown as { moves: number[]; behind: number[] };
      return { moves: at.moves.splice(0), behind: at.behind.splice(0) };
    });
  const first = await take();
  await page.mouse.down();
  for (let i = 0; i < 60; i++) await page.mouse.move(view.x + 200 + i * 4, view.y + 200 + (i % 20) * 6);
  await page.mouse.up();
  await page.waitForTimeout(1000);
  const { moves, behind } = await take();
  const text =
    moves.length > 0
      ? `${median(moves).toFixed(1)} ms (worst ${Math.max(...moves).toFixed(1)}; the first over the cloth ${Math.max(...first.moves).toFixed(0)}), drawn at most ${Math.max(...behind)} frames after the one it came in (${behind.length} moves)`
      : 'below what is measured';
  row('paint, 40,401 points, a move', text);
}

/** Frames a second of a live run of the gangway hood, drawn as it goes, by its checkpoints; the first seconds are left out. */
async function liveHood(page: Page): Promise<void> {
  await page.goto('/shot/nf030');
  await drawn(page);
  await station(page, 'Hold');
  await page.keyboard.press('l');
  await page.getByTestId('hands').waitFor();
  const checkpoint = async () => {
    const before = await page.getByTestId('hands').innerText();
    await page.keyboard.press('p');
    const now = Date.now();
    await page.waitForFunction(
      (text) => document.querySelector<HTMLElement>('[data-testid=hands]')?.innerText !== text,
      before,
    );
    const seconds = /Back to ([\d.]+) s/.exec(await page.getByTestId('hands').innerText())![1];
    return { seconds: Number(seconds), now };
  };
  await page.waitForTimeout(4000);
  const from = await checkpoint();
  await page.waitForTimeout(6000);
  const to = await checkpoint();
  await page.keyboard.press('Escape');
  const rate = (24 * (to.seconds - from.seconds)) / ((to.now - from.now) / 1000);
  row('NF030 live, with software drawing', `${rate.toFixed(1)} frames a second`);
}

/** How long the page itself takes: a live run, undo and redo, painting, and bringing large meshes in. Needs a built app. */
export async function interfaceCost(): Promise<void> {
  const address = await serve({ port: 0 });
  const { context, page } = await openBrowser(address);
  await liveHood(page);
  await undoOnNf050(page);
  for (const triangles of [100_000, 500_000]) await importing(page, triangles);
  await painting(page);
  await context.close();
}
