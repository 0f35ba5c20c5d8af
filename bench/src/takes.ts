import { createCloth, createCollider, createShot, inputsHash, runInputs, sheet, type Shot } from '@lumbra/core';
import { serve } from '@lumbra/server';
import type { Page } from '@playwright/test';
import { drawn, openBrowser, openShotFile, station } from '../../e2e/bench';
import { longTasks } from './longTasks';
import { median, row } from './print';

// What long takes and large shots ask of the page: opening, playing and scrubbing 300 frames of 40,000 points, the frames of a bake as they
// come, stopping, and an edit after 300 edits.

const FRAMES = 300;
const SHAPE = { kind: 'sheet', width: 2, height: 2, spacing: 0.01 } as const;

/** A sheet of 201 by 201 points over a ball. */
function largeShot(): Shot {
  return createShot({
    ...{ id: 'large', code: 'T400', name: 'Large sheet', lastFrame: FRAMES, run: { substeps: 20, quality: 'draft' } },
    things: [
      createCloth({ id: 'sheet', name: 'Sheet', shape: SHAPE, position: [0, 1, 0] }),
      createCollider({
        id: 'ball',
        name: 'Ball',
        shape: { kind: 'ball', radius: 0.4, detail: 3 },
        position: [0, 0.5, 0],
      }),
      createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' } }),
    ],
  });
}

/** Puts a take of made-up frames into the browser’s storage, as a bake would. */
async function putTake(page: Page, shot: Shot): Promise<void> {
  const inputs = runInputs(shot, new Map());
  const points = sheet(SHAPE).positions.length;
  await page.evaluate(
    async ({ shot: id, frames, inputs: kept, hash, count }) => {
      const open = indexedDB.open('lumbra');
      await new Promise((resolve) => (open.onsuccess = resolve));
      const db = open.result;
      const hex = (bytes: ArrayBuffer) =>
        [...new Uint8Array(bytes)].map((byte) => byte.toString(16).padStart(2, '0')).join('');
      const put = (tables: string[], rows: [string, unknown][]) =>
        new Promise<void>((resolve, reject) => {
          const transaction = db.transaction(tables, 'readwrite');
          for (const [table, value] of rows) transaction.objectStore(table).put(value);
          transaction.oncomplete = () => resolve();
          transaction.onerror = () => reject(new Error(String(transaction.error)));
        });
      const size = 16 + count * 4;
      await put(
        ['takes'],
        [
          [
            'takes',
            {
              ...{ id: 'take', shot: id, number: 1, name: '', note: '', keep: false, source: 'bake', made: Date.now() },
              ...{ document: null, quality: 'draft', firstFrame: 1, lastFrame: frames },
              spans: [{ first: 1, inputs: kept, inputsHash: hash, substeps: 20 }],
              sum: { frames, worst: 0.01, seconds: 1, bytes: size * frames, last: frames },
            },
          ],
        ],
      );
      for (let frame = 1; frame <= frames; frame++) {
        const data = new Uint8Array(size);
        new Uint32Array(data.buffer, 0, 4).set([0x46424d4c, 1, 1, count]);
        const positions = new Float32Array(data.buffer, 16);
        const side = Math.round(Math.sqrt(count / 3));
        for (let i = 0; i < count / 3; i++) {
          const [x, z] = [(i % side) / side - 0.5, Math.floor(i / side) / side - 0.5];
          positions.set([2 * x, 0.6 + 0.05 * Math.sin(12 * x + frame / 8) * Math.cos(9 * z), 2 * z], i * 3);
        }
        const fingerprint = hex(await crypto.subtle.digest('SHA-256', data.subarray(16)));
        const stats = {
          ...{ seconds: frame / 24, kineticEnergy: 0, meanStretch: 0.001, maxStretch: 0.01, fastest: 1, contacts: 0 },
          ...{
            crossings: 0,
            deepest: 0,
            deepestIn: null,
            deepestAt: null,
            stretchAt: null,
            crossingAt: null,
            fingerprint,
          },
        };
        await put(
          ['frames', 'frameData'],
          [
            ['frames', { take: 'take', frame, stats, seconds: 1, bytes: size }],
            ['frameData', { take: 'take', frame, data }],
          ],
        );
      }
      db.close();
    },
    { shot: shot.id, frames: FRAMES, inputs, hash: inputsHash(inputs), count: points },
  );
}

const needle = (page: Page) => page.getByTestId('frame');
const numbers = (all: number[]) => all.map((ms) => ms.toFixed(0)).join(', ') || 'none';

async function megabytes(page: Page): Promise<number> {
  const session = await page.context().newCDPSession(page);
  await session.send('HeapProfiler.collectGarbage');
  await session.detach();
  const bytes = await page.evaluate(async () => {
    const measure = performance as unknown as { measureUserAgentSpecificMemory?: () => Promise<{ bytes: number }> };
    return (await measure.measureUserAgentSpecificMemory?.())?.bytes ?? 0;
  });
  return bytes / 1e6;
}

/** Milliseconds from going to a frame until its points are on the screen’s cloth. */
async function scrub(page: Page, frame: number): Promise<number> {
  return needle(page).evaluate(async (field: HTMLInputElement, to) => {
    const view = document.querySelector<HTMLElement>('[data-testid=viewport]')!;
    const start = performance.now();
    field.value = String(to);
    field.dispatchEvent(new Event('change'));
    while (view.dataset['frame'] !== String(to)) await new Promise((resolve) => setTimeout(resolve, 1));
    return performance.now() - start;
  }, frame);
}

async function longTake(page: Page, shot: Shot): Promise<void> {
  await putTake(page, shot);
  await page.goto('/');
  await page.getByRole('link', { name: `Open ${shot.name}` }).waitFor();
  await page.waitForTimeout(1500);
  await longTasks(page);
  let start = performance.now();
  await page.getByRole('link', { name: `Open ${shot.name}` }).click();
  await page.getByTestId('thread-firm').waitFor({ state: 'attached' });
  const opened = performance.now() - start;
  await drawn(page);
  const shown = performance.now() - start;
  await page.waitForTimeout(2500);
  row(
    `open 300 frames of ${(SHAPE.width / SHAPE.spacing + 1) ** 2} points`,
    `${opened.toFixed(0)} ms to its thread, ${shown.toFixed(0)} ms to its cloth; tasks over 50 ms: ${numbers(await longTasks(page))}`,
  );
  const times: number[] = [];
  for (const frame of [150, 20, 290, 75, 210, 33, 266, 111, 187, 8, 244, 60]) {
    times.push(await scrub(page, frame));
    await page.waitForTimeout(400);
  }
  row(
    'scrub to a frame that is not in memory',
    `median ${median(times).toFixed(0)} ms, worst ${Math.max(...times).toFixed(0)} ms`,
  );
  // Every frame once, so that more than fits has been in memory.
  for (let frame = 1; frame <= FRAMES; frame++) await scrub(page, frame);
  row('memory of the page and its workers after all frames', `${(await megabytes(page)).toFixed(0)} MB`);
  start = performance.now();
  const play = page.locator('.play');
  await play.click();
  const seen = new Set<string>();
  while (performance.now() - start < 8000) {
    seen.add(await needle(page).inputValue());
    await page.waitForTimeout(20);
  }
  await play.click();
  row('play for 8 s', `${seen.size} frames were shown; ${(await megabytes(page)).toFixed(0)} MB`);
}

async function baking(page: Page): Promise<void> {
  await openShotFile(page, { ...largeShot(), name: 'To be baked', lastFrame: 60 });
  await station(page, 'Run');
  await page.waitForTimeout(1500);
  await longTasks(page);
  await page.getByRole('button', { name: /^Bake/ }).click();
  await page.waitForFunction(
    () => Number(document.querySelector<HTMLInputElement>('[data-testid=frame]')?.value) >= 12,
    undefined,
    {
      timeout: 120_000,
      polling: 100,
    },
  );
  const long = await longTasks(page);
  const stopped = await page.evaluate(async () => {
    const start = performance.now();
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }));
    const busy = () =>
      [...document.querySelectorAll('.primary')].some(({ textContent }) => textContent?.startsWith('Stop'));
    while (busy() && performance.now() - start < 20_000) await new Promise((resolve) => setTimeout(resolve, 5));
    return performance.now() - start;
  });
  row(
    'bake of 40,401 points, a dozen frames',
    `tasks over 50 ms: ${numbers(long)}; stopped after ${stopped.toFixed(0)} ms`,
  );
}

/** An edit, undo and redo after so many edits. */
async function afterManyEdits(page: Page, edits: number): Promise<void> {
  await page.goto('/shot/nf120');
  await drawn(page);
  await station(page, 'Fabric');
  const times = await page
    .getByRole('textbox', { name: 'Weight', exact: true })
    .evaluate(async (field: HTMLInputElement, count) => {
      const costs: number[] = [];
      for (let n = 0; n < count + 20; n++) {
        const start = performance.now();
        field.focus();
        field.value = String(200 + (n % 50));
        field.dispatchEvent(new Event('input'));
        field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
        field.dispatchEvent(new Event('change'));
        await new Promise((resolve) => setTimeout(resolve));
        costs.push(performance.now() - start);
      }
      return costs;
    }, edits);
  const press = (name: string) =>
    page.getByRole('button', { name, exact: true }).evaluate(async (button: HTMLButtonElement) => {
      const start = performance.now();
      button.click();
      await new Promise((resolve) => setTimeout(resolve));
      return performance.now() - start;
    });
  const [undo, redo]: [number[], number[]] = [[], []];
  for (let n = 0; n < 10; n++) undo.push(await press('Undo'));
  for (let n = 0; n < 10; n++) redo.push(await press('Redo'));
  row(
    `after ${edits} edits on NF120`,
    `an edit ${median(times.slice(edits)).toFixed(1)} ms (worst ${Math.max(...times.slice(edits)).toFixed(1)}, the first twenty ${median(times.slice(0, 20)).toFixed(1)}), undo ${median(undo).toFixed(1)} (worst ${Math.max(...undo).toFixed(1)}), redo ${median(redo).toFixed(1)} (worst ${Math.max(...redo).toFixed(1)})`,
  );
}

export async function benchTakes(): Promise<void> {
  const { context, page } = await openBrowser(await serve({ port: 0 }));
  // What the compiler of this bench puts around functions does not exist in the page.
  await page.addInitScript('globalThis.__name ??= (it) => it');
  await openShotFile(page, largeShot());
  await longTake(page, largeShot());
  await baking(page);
  await afterManyEdits(page, 300);
  await context.close();
}
