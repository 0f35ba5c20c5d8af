import { NIGHT_FERRY } from '@lumbra/demo';
import { runInputs, type Shot } from '@lumbra/core';
import { expect, type Page } from '@playwright/test';
import { station, test } from './bench';
import { choose, things } from './controls';
import { built, emptyShot } from './hands';

// The demo shots, built by hand from an empty shot with the interface's own means. Every press and every typed line or row counts
// as an act; naming does not, though a typed line names its thing on the way.

/** What a run depends on, with the names of things in place of their ids. */
function inputsByName(shot: Shot): Record<string, unknown> {
  const names = new Map(shot.things.map(({ id, name }) => [id, name]));
  return Object.fromEntries(
    Object.entries(runInputs(shot, new Map())).map(([path, value]) => {
      const [head, ...rest] = path.split('.');
      // Angles go through degrees as they are typed; an id may read like a kind of shape.
      const named = rest.at(-1) === 'kind' ? value : (names.get(String(value)) ?? value);
      const rounded = typeof value === 'number' ? Number(value.toPrecision(10)) : named;
      return [[names.get(head!) ?? head, ...rest].join('.'), rounded];
    }),
  );
}

function demo(code: string): Shot {
  return NIGHT_FERRY.shots.map((build) => build()).find((shot) => shot.code === code)!;
}

async function expectSame(page: Page, code: string): Promise<void> {
  expect(inputsByName(await built(page))).toEqual(inputsByName(demo(code)));
}

test('NF010 is built by hand in at most 15 acts', async ({ page }) => {
  const hands = await emptyShot(page);
  await hands.type('box 0.95 × 0.5 × 0.62 at -0.08, 0, 0 turned 5.7 friction 0.35 clearance 4 mm named Crate, wide');
  await hands.type('box 0.5 × 0.34 × 0.55 at 0.68, 0, 0.06 turned -14.3 friction 0.35 clearance 4 mm named Crate, low');
  await hands.type(
    'box 0.56 × 0.26 × 0.46 at -0.2, 0.5, -0.02 turned 24.1 friction 0.35 clearance 4 mm named Crate, top',
  );
  for (const turn of [0, 1, 2]) {
    const radius = 0.2 - turn * 0.008;
    const at = [0.34 + turn * 0.006, turn * 0.07, 0.66 - turn * 0.005].map((v) => v.toFixed(3)).join(', ');
    await hands.type(
      `ring ${radius.toFixed(3)} × 0.036 at ${at} friction 0.5 clearance 4 mm named Rope coil, turn ${turn + 1}`,
    );
  }
  await hands.type('ground');
  await hands.type(
    'sheet 2.4 × 2.1 every 22.8 mm of waxed cotton print check 30 cm at 0.04, 0.86, 0.04 turned 10.3 named Cover',
  );
  console.log(`NF010: ${hands.acts} acts`);
  expect(hands.acts).toBeLessThanOrEqual(15);
  await expectSame(page, 'NF010');
});

test('NF020 is built by hand in at most 15 acts, and its pins fade in two more', async ({ page }) => {
  const hands = await emptyShot(page);
  await hands.type('post 0.035 × 2.15 at ±1.5, 0, -1.144 named Post, back');
  await hands.type('post 0.035 × 1.91 at ±1.5, 0, 1.144 named Post, front');
  await hands.type('cylinder 0.12 × 0.06 at ±1.5, 0, ±1.144 as scenery named Foot');
  await hands.type('ground');
  await hands.type('wind 4.2 towards 66 rise 17 gusts 40 %, 2.2 s turbulence 25 %, 0.9 m, 1.4');
  await hands.type(
    'sheet 3 × 2.3 every 30 mm of canvas rest 102.5 × 103 % print stripe 50 cm #E9DFC6 #A9503B at 0, 2.05, 0 turned 6, 0, 0 named Awning',
  );
  await hands.number('Last frame', '144');
  await hands.go('Hold');
  await hands.press('Corners');
  await hands.press('Grow');
  await hands.press('Grow');
  await hands.press(/^Pin \d+ points/);
  console.log(`NF020: ${hands.acts} acts`);
  expect(hands.acts).toBeLessThanOrEqual(15);
  await station(page, 'Hold');
  await hands.press('Mask of Strength');
  await hands.act(() => choose(page, 'Mask that scales Pins 1', 'a new one that fades at the edge'));
  expect(hands.acts).toBeLessThanOrEqual(17);

  const shot = await built(page);
  const [ours, theirs] = [inputsByName(shot), inputsByName(demo('NF020'))];
  // Posts made two at a time are numbered, those of the demo are named by side.
  const unnamed = (inputs: Record<string, unknown>) =>
    Object.entries(inputs)
      .map(([path, value]) => `${path.replace(/^Post, [^.]*/, 'Post')} ${String(value)}`)
      .sort();
  expect(unnamed(ours)).toEqual(unnamed(theirs));
});

test('NF050 is built by hand in at most 15 acts, and undo and redo are quick on it', async ({ page }) => {
  const hands = await emptyShot(page);
  await hands.type('ground friction 0.4 named Deck');
  await hands.type('box 0.08 0.7 1.5 at 1.46 0 0 friction 0.45 named Bulkhead');
  await hands.type(
    'sheet 2.1 0.72 every 20 mm of wool coating print stripe 24 cm #8E3F33 #D9C9A4 at 0.298 0.004 0 named Runner',
  );
  await hands.type('box 0.46 0.36 0.6 at -0.99 0 0.02 friction 0.35 named Crate');
  await hands.press(/^Keys in figures/);
  await hands.keys([
    [8, -0.99, 0.18, 0.02],
    [90, 0.02, 0.18, 0.02],
    [112, -0.18, 0.18, 0.02],
  ]);
  await hands.go('Hold');
  await hands.press('Left side');
  await hands.press('Grow');
  await hands.press(/^Pin \d+ points/);
  await hands.act(() => choose(page, 'Follows', 'Crate'));
  console.log(`NF050: ${hands.acts} acts`);
  expect(hands.acts).toBeLessThanOrEqual(15);
  await expectSame(page, 'NF050');

  // Undo takes every act back one by one, redo brings them back.
  const edits = 9;
  for (let i = 0; i < edits; i++) await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(things(page)).toContainText('0 things');
  for (let i = 0; i < edits; i++) await page.getByRole('button', { name: 'Redo', exact: true }).click();
  await expectSame(page, 'NF050');
});
