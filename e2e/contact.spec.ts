import { expect } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { createCloth, createCollider, createShot, readObj, type Shot } from '@lumbra/core';
import { bake, openShotFile, smallShot, station, test } from './bench';
import { choose, tick, writeFrame } from './controls';
import { built } from './hands';

test('a swatch is tested in seconds, with what the physics predicts beside it', async ({ page }) => {
  await openShotFile(page, smallShot());
  await station(page, 'Fabric');
  await page.getByRole('button', { name: /Swatch tests/ }).click();
  await page.getByRole('button', { name: 'Test a swatch' }).click();
  await expect(page.getByTestId('stretch-test')).toContainText('predicted 1.4 × 1.63 %', { timeout: 60_000 });
  await expect(page.getByTestId('drape-test')).toContainText(/Drape 6[01](\.\d)? %/);
  await expect(page.getByTestId('drape-test')).toContainText('such cloth: 50 to 75 %');
  await expect(page.getByTestId('bend-test')).toContainText('predicted 23 × 21.5 mm');

  // Results belong to a fabric: another number, and they are gone.
  const bend = page.getByRole('textbox', { name: 'Bend, warp' });
  await bend.fill('60');
  await bend.press('Enter');
  await expect(page.getByTestId('drape-test')).toHaveCount(0);

  // What was measured of cloth is typed, and the fabric’s number follows: B = w g c³.
  const before = await bend.inputValue();
  const measured = page.getByRole('textbox', { name: 'Bending length, warp' });
  const doubled = 2 * Number(await measured.inputValue());
  await measured.fill(String(doubled));
  await measured.press('Enter');
  await expect.poll(async () => Number(await bend.inputValue()) / Number(before)).toBeCloseTo(8, 1);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(bend).toHaveValue(before);

  // A fit of the drape takes some tests; stopped, it leaves the fabric as it was.
  await page.getByRole('button', { name: 'Test a swatch' }).click();
  const drape = page.getByRole('textbox', { name: 'Drape coefficient' });
  await drape.fill('30');
  await drape.press('Enter');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(drape).toBeVisible();
  await expect(bend).toHaveValue(before);
});

/** A sheet that far too few substeps let stretch under its own weight, hung by two corners, and a bar that moves through the shot. */
function stretchedShot(): Shot {
  const columns = 21;
  return createShot({
    id: 'stretched',
    code: 'T020',
    name: 'Stretched',
    lastFrame: 24,
    run: { quality: 'shot', substeps: 3 },
    things: [
      createCloth({
        id: 'sheet',
        name: 'Sheet',
        shape: { kind: 'sheet', width: 0.8, height: 0.8, spacing: 0.04 },
        position: [0, 1, 0],
        rotation: [Math.PI / 2, 0, 0],
        pinSets: [{ id: 'top', name: 'Top', points: [0, columns - 1], strength: 0.99 }],
      }),
      createCollider({
        id: 'bar',
        name: 'Bar',
        shape: { kind: 'cylinder', radius: 0.05, height: 1, segments: 24 },
        position: [0, 0.3, 1],
        keys: [
          {
            number: 'position.z',
            knots: [
              { frame: 4, value: 1 },
              { frame: 20, value: 0.4 },
            ],
          },
        ],
      }),
    ],
  });
}

test('the problem finder lists what went wrong, and a click goes to its frame and place', async ({ page }) => {
  await openShotFile(page, stretchedShot());
  await expect(page.getByTestId('mark')).toHaveCount(0);
  await bake(page, 24);
  await expect(page.getByTestId('problem-count')).toContainText('of 24 frames');
  const row = page.getByRole('button', { name: /Over-stretch/ });
  await expect(row).toHaveCount(1);
  await choose(page, 'Curve', 'fastest point');
  await expect(page.getByTestId('signal')).toContainText('m/s');

  const worst = (await row.getAttribute('aria-description'))!.match(/frame (\d+)/)![1]!;
  await row.click();
  await expect(page.getByTestId('frame')).toHaveValue(worst);
  await expect(page.getByTestId('mark')).toContainText('Over-stretch');
  await expect(page.getByTestId('signal')).toContainText('%');

  // The report has a picture of the place.
  await station(page, 'Hand off');
  await page.getByRole('button', { name: 'Read the bake report' }).click();
  const report = page.frameLocator('iframe[title="Bake report"]');
  const picture = report.getByRole('img', { name: `Frame ${worst} at that place` });
  await expect.poll(() => picture.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(640);
  // Its curves are drawn, and told under the pointer.
  const curves = report.locator('canvas[data-curve]');
  await expect(curves).toHaveCount(7);
  for (const curve of await curves.all()) expect(await curve.evaluate(inked)).toBeGreaterThan(200);
  const fastest = report.getByRole('img', { name: /Fastest point/ });
  const before = await fastest.evaluate(inked);
  await fastest.hover();
  await expect.poll(() => fastest.evaluate(inked)).toBeGreaterThan(before + 1000);
  await page.keyboard.press('Escape');

  // What moves says so, and where.
  await page.getByRole('complementary', { name: 'Things' }).getByText('Bar').click();
  await station(page, 'Stage');
  await expect(page.getByRole('button', { name: /^Keys in figures/ })).toContainText('1 number keyed');
  await expect(page.getByRole('button', { name: 'Key at frame 20', exact: true })).toBeVisible();
  await choose(page, 'Side that counts', 'Both sides');
  await expect(page.getByTestId('thread-stale')).toHaveCount(1);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByTestId('thread-firm')).toHaveCount(1);

  // So does whether cloth touches itself.
  await page.getByRole('complementary', { name: 'Things' }).getByText('Sheet').click();
  await station(page, 'Fabric');
  await page.getByRole('button', { name: /^Layers/ }).click();
  await tick(page, 'Touches itself', false);
  await expect(page.getByTestId('thread-stale')).toHaveCount(1);
  await station(page, 'Run');
  await expect(page.getByText('Sheet, touches itself')).toBeVisible();
});

test('who touches whom: a cloth passes a thing that another lies on, and a pair keeps its own distance', async ({
  page,
}) => {
  const shape = { kind: 'sheet', width: 0.3, height: 0.3, spacing: 0.03 } as const;
  const things = [
    createCloth({ name: 'Above', shape, position: [0, 0.26, 0] }),
    createCloth({ name: 'Through', shape, position: [0, 0.24, 0] }),
    createCollider({
      ...{ name: 'Board', position: [0, 0.2, 0] },
      shape: { kind: 'box', width: 0.6, height: 0.04, depth: 0.6 },
    }),
    createCollider({ name: 'Floor', shape: { kind: 'ground' } }),
  ];
  await openShotFile(page, createShot({ name: 'Table', things, lastFrame: 24, run: { substeps: 20 } }));
  await station(page, 'Run');
  await page.getByRole('button', { name: /^Who touches whom/ }).click();
  const table = page.getByRole('table', { name: 'Who touches whom' });
  await table.getByRole('button', { name: 'Through and Board touch' }).click();
  await tick(page, 'Through touches Board', false);
  await expect(table.getByRole('button', { name: 'Through and Board pass through each other' })).toBeVisible();
  // By keys: one to the left stands the pair of the other cloth.
  await page.keyboard.press('Shift+Tab');
  await table.getByRole('button', { name: 'Through and Board pass through each other' }).press('ArrowLeft');
  const clearance = page.getByRole('textbox', { name: 'Clearance' });
  await expect(clearance).toHaveValue('3');
  await clearance.fill('20');
  await clearance.press('Enter');
  await expect(table.getByRole('button', { name: 'Above and Board touch, with numbers of their own' })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Who touches whom/ })).toContainText('2 pairs otherwise');
  await bake(page, 24);
  const shot = await built(page);
  expect(shot.contacts).toHaveLength(2);
  const download = page.waitForEvent('download', { timeout: 60_000 });
  await writeFrame(page, 'OBJ sequence');
  const { positions } = readObj(readFileSync(await (await download).path(), 'utf8'));
  const heights = [0, 1].map((cloth) => {
    const half = positions.length / 6;
    const ys = [...positions.filter((_, i) => i % 3 === 1)].slice(cloth * half, (cloth + 1) * half);
    return [Math.min(...ys), Math.max(...ys)];
  });
  expect(heights[0]![0]).toBeGreaterThan(0.235);
  expect(heights[1]![1]).toBeLessThan(0.19);

  // What was baked is stale when the table changes, and says by what.
  await station(page, 'Run');
  await page.getByRole('button', { name: /^Who touches whom/ }).click();
  await table.getByRole('button', { name: 'Above and Board touch, with numbers of their own' }).click();
  await page.getByRole('button', { name: /^Back to the numbers of/ }).click();
  await expect(page.getByText('Above and Board, clearance')).toBeVisible();
});

test('a cue changes the fabric where it touches a thing, and says when and where it happened', async ({ page }) => {
  const shape = { kind: 'sheet', width: 0.3, height: 0.3, spacing: 0.03 } as const;
  const things = [
    createCloth({ name: 'Apron', shape, position: [0, 0.3, 0] }),
    createCollider({ name: 'Lamp', position: [0, 0.1, 0], shape: { kind: 'ball', radius: 0.08 } }),
  ];
  await openShotFile(page, createShot({ name: 'Cues', things, lastFrame: 16, run: { substeps: 20 } }));
  await station(page, 'Fabric');
  await page.getByRole('button', { name: /^Cues/ }).click();
  await page.getByRole('button', { name: 'New cue' }).click();
  await expect(page.getByRole('button', { name: /^Cues/ })).toContainText('1 on');
  await choose(page, 'Number of the cue', 'Pressure');
  const to = page.getByRole('textbox', { name: 'Goes to' });
  await to.fill('30');
  await to.press('Enter');
  const spread = page.getByRole('textbox', { name: 'Spread' });
  await spread.fill('60');
  await spread.press('Enter');
  await bake(page, 16);
  await station(page, 'Fabric');
  await page.getByRole('button', { name: /^Cues/ }).click();
  await expect(page.getByText(/Happened first at frame \d+; \d+ points by the end/)).toBeVisible();
  await page.getByRole('button', { name: 'Look there' }).click();
  await expect(page.getByTestId('signal')).not.toHaveText('–');
  await expect(page.getByTestId('frame')).not.toHaveValue('1');

  // What it waits for is deleted: the checks say so, and the cue is switched off by one press.
  await choose(page, 'When', 'a frame is reached');
  const frame = page.getByRole('textbox', { name: 'Frame', exact: true });
  await frame.fill('99');
  await frame.press('Enter');
  await station(page, 'Run');
  await expect(page.getByText('Apron, Cue 1')).toBeVisible();
  await page.getByRole('button', { name: /check/ }).first().click();
  await expect(page.getByText('Cue 1 of Apron never happens: frame 99 comes after the last one.')).toBeVisible();
  await page.getByRole('button', { name: 'Switch it off' }).click();
  await expect(page.getByText('never happens')).toHaveCount(0);
});

/** How many pixels of a drawing have something on them. */
const inked = (canvas: HTMLCanvasElement | SVGElement | HTMLElement): number => {
  const { width, height } = canvas as HTMLCanvasElement;
  const { data } = (canvas as HTMLCanvasElement).getContext('2d')!.getImageData(0, 0, width, height);
  return data.filter((value, i) => i % 4 === 3 && value > 0).length;
};
