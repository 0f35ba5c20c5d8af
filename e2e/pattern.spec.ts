import {
  makeOneMesh,
  placeBy,
  poseOf,
  shapeMesh,
  writeObj,
  type Cloth,
  type PatternShape,
  type Shot,
} from '@lumbra/core';
import { expect, type Locator, type Page } from '@playwright/test';
import { ERROR, station, test } from './bench';
import { pick, row, tick } from './controls';
import { built, emptyShot, type Hands } from './hands';

const BAG =
  '<svg xmlns="http://www.w3.org/2000/svg" width="900mm" height="500mm" viewBox="0 0 900 500">' +
  '<path id="Front" d="M40 60 H400 V380 C400 440 340 460 220 460 C100 460 40 440 40 380 Z"/>' +
  '<path id="Back" d="M480 60 H840 V380 C840 440 780 460 660 460 C540 460 480 440 480 380 Z"/>' +
  '<text x="9" y="9">bag</text></svg>';

function svg(text: string) {
  return { name: 'bag.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(text) };
}

async function bringIn(page: Page, text: string): Promise<void> {
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'From SVG…' }).click();
  await (await chooser).setFiles(svg(text));
}

function shapeOf(shot: Shot): PatternShape {
  return shot.things.find((thing): thing is Cloth => thing.role === 'cloth')!.shape as PatternShape;
}

/** Where a side lies on the screen: one that is level has no height, and is not seen as visible. */
async function middleOf(side: Locator): Promise<[number, number]> {
  return side.evaluate((path) => {
    const { x, y, width, height } = path.getBoundingClientRect();
    return [x + width / 2, y + height / 2];
  });
}

const work = (hands: Hands, name: string) => hands.act(() => pick(hands.page, 'Work', name));
const undo = (page: Page) => page.keyboard.press('Control+z');

test('a bag of two pieces from an SVG file is sewn and filled in at most 12 acts', async ({ page }) => {
  const hands = await emptyShot(page);
  await hands.go('Pattern');
  await hands.act(() => bringIn(page, BAG));
  await expect(page.getByText('Left out: <text>')).toBeVisible();
  await hands.press('Back');
  await hands.number('Place x', '-0.22, 0, -0.09');
  await hands.number('Turn y', '180');
  await work(hands, 'Seams');
  await hands.press('Auto seam…');
  await expect(page.getByText('2 seams, shown in yellow.')).toBeVisible();
  await hands.press('Sew them');
  await expect(page.getByRole('list', { name: 'Seams' }).getByRole('listitem')).toHaveCount(2);
  await hands.go('Fabric');
  await hands.press('Damping and air');
  await hands.number('Pressure', '6');
  await hands.act(() => page.keyboard.press('j'));
  await expect(page.getByTestId('pose')).toContainText('Settl', { timeout: 60_000 });
  console.log(`bag: ${hands.acts} acts`);
  expect(hands.acts).toBeLessThanOrEqual(12);
  await page.keyboard.press('Escape');
  const shape = shapeOf(await built(page));
  expect(shape.pieces.map(({ name }) => name)).toEqual(['Front', 'Back']);
  expect(shape.seams).toHaveLength(2);
});

test('a sleeve is cut, laid round and sewn in at most 12 acts', async ({ page }) => {
  const hands = await emptyShot(page);
  await hands.type('cylinder 0.06 × 0.6 at 0, 0.2, 0 named Arm');
  await hands.go('Pattern');
  await hands.press('Rectangle');
  await hands.act(() => pick(page, 'How the piece lies', 'Round, upright'));
  await hands.number('Radius', '7.96');
  await hands.number('Place x', '0, 0, 0.0796');
  await work(hands, 'Seams');
  await hands.press('Auto seam…');
  await expect(page.getByText('One seam, shown in yellow.')).toBeVisible();
  await hands.press('Sew it');
  console.log(`sleeve: ${hands.acts} acts`);
  expect(hands.acts).toBeLessThanOrEqual(12);
  await expect(page.getByRole('list', { name: 'Seams' })).toContainText('Piece 1, to itself');
  await station(page, 'Stage');
  await expect(page.getByRole('button', { name: 'Settle' })).toBeEnabled();
});

test('a piece is drawn flat: nodes are dragged, added, moved by keys and deleted, and sides are sewn', async ({
  page,
}) => {
  await emptyShot(page);
  await station(page, 'Pattern');
  await page.getByRole('button', { name: 'Rectangle' }).click();
  await page.getByRole('button', { name: 'Rectangle' }).click();
  await page.keyboard.press('f');
  const flat = page.getByRole('group', { name: 'Pieces laid out flat' });
  await expect(flat).toBeVisible();
  const node = (n: number) => flat.getByRole('button', { name: `Node ${n} of Piece 2` });
  const box = (await node(1).boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];

  // Down and to the left: its sides grow.
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x - 40, y + 30, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByText(/^5\d\.\d+ × 5\d/)).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Along u' })).not.toHaveValue('−25');
  await undo(page);
  await expect(page.getByText('50 × 50 cm, 0.250 m²')).toBeVisible();

  // In figures, and by keys.
  await node(3).click();
  await page.getByRole('textbox', { name: 'Along u' }).fill('30');
  await page.getByRole('textbox', { name: 'Along u' }).press('Enter');
  await expect(page.getByText(/^55 × 50 cm/)).toBeVisible();
  await node(3).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(page.getByText(/^56 × 50 cm/)).toBeVisible();

  // One more node, a curve, and none of it again.
  const side = (piece: number, n: number) =>
    flat.getByRole('button', { name: new RegExp(`^Side of Piece ${piece}`) }).nth(n);
  await page.mouse.dblclick(...(await middleOf(side(2, 0))));
  await expect(node(5)).toBeVisible();
  await page.getByRole('button', { name: 'Make it a curve' }).click();
  await expect(flat.getByTestId('flat-handle-before')).toBeVisible();
  await page.getByRole('button', { name: 'Make it a corner' }).click();
  await expect(flat.getByTestId('flat-handle-before')).toHaveCount(0);
  await node(2).focus();
  await page.keyboard.press('Delete');
  await expect(node(5)).toHaveCount(0);

  // An outline that would cross itself is refused, and stays.
  await node(1).click();
  await page.getByRole('textbox', { name: 'Along v' }).fill('70');
  await page.getByRole('textbox', { name: 'Along v' }).press('Enter');
  await expect(page.locator(ERROR)).toContainText('the outline crosses itself');
  await page
    .locator(ERROR)
    .getByRole('button')
    .or(page.locator(`${ERROR} .el-message__closeBtn`))
    .first()
    .click();

  // Two sides, sewn.
  await pick(page, 'Work', 'Seams');
  await expect(page.getByRole('button', { name: 'Sew', exact: true })).toBeDisabled();
  await page.mouse.click(...(await middleOf(side(1, 1))));
  await page.keyboard.down('Shift');
  await page.mouse.click(...(await middleOf(side(2, 3))));
  await page.keyboard.up('Shift');
  await page.getByRole('button', { name: 'Sew', exact: true }).click();
  await expect(page.getByRole('list', { name: 'Seams' })).toContainText('Piece 1 to Piece 2');
  // Without weight until it is closed, unless one wants it to fall.
  const falls = page.getByRole('checkbox', { name: 'gravity, wind and pressure act while they close' });
  await expect(falls).not.toBeChecked();
  await tick(page, 'gravity, wind and pressure act while they close');
  await expect(falls).toBeChecked();
  await undo(page);
  await expect(falls).not.toBeChecked();
  await page.keyboard.press('f');
  await expect(flat).toHaveCount(0);
});

test('a drawing that cannot be used says why; a sheet is cut as a pattern, and undo brings it back', async ({
  page,
}) => {
  const hands = await emptyShot(page);
  await station(page, 'Pattern');
  await bringIn(page, '<svg><text>only</text></svg>');
  await expect(page.locator(ERROR)).toContainText('It has no closed outline');
  await expect(page.getByRole('complementary', { name: 'Things' })).toContainText('0 things');
  await station(page, 'Stage');
  await hands.type('sheet 0.4 0.3 every 50 mm named Cover');
  await station(page, 'Pattern');
  await page.getByRole('button', { name: 'Cut as a pattern' }).click();
  await expect(page.getByText('40 × 30 cm, 0.120 m²')).toBeVisible();
  await row(page, 'Cover').click();
  await pick(page, 'Work', 'Mesh');
  await expect(page.getByText(/^63 points/)).toBeVisible();
  await pick(page, 'Kind of mesh', 'All directions');
  await expect(page.getByText(/^63 points/)).toHaveCount(0);
  await undo(page);
  await undo(page);
  await expect(page.getByRole('button', { name: 'Cut as a pattern' })).toBeVisible();
});

test('a piece is pleated, creased and slit by hand', async ({ page }) => {
  const hands = await emptyShot(page);
  await hands.go('Pattern');
  await hands.press('Rectangle');
  await page.getByRole('button', { name: /^Pleats/ }).click();
  await pick(page, 'Pleats', 'Box');
  const pleats = page.getByRole('button', { name: /^Pleats/ });
  await expect(pleats).toContainText('2 box');
  await hands.number('Depth', '9');
  await expect(page.locator(ERROR)).toContainText('its 2 pleats need more cloth than it has');
  await expect(pleats).toContainText('2 box');
  await hands.number('Depth', '4');
  // With folds that run across it the piece has no room for a line along them: it goes in beside another piece.
  await hands.press('Rectangle');
  await expect(page.getByRole('list', { name: 'Pieces' }).getByRole('listitem')).toHaveCount(2);
  await page.getByRole('button', { name: /^Lines/ }).click();
  await hands.press('New line');
  const flat = page.getByRole('group', { name: 'Pieces laid out flat' });
  await expect(flat).toBeVisible();
  await hands.number('Fold', '-75');
  // Its end is dragged near to the border, and keeps to it.
  const [x, y] = await middleOf(flat.getByRole('button', { name: 'Node 6 of Piece 2' }));
  const [right] = await middleOf(flat.getByRole('button', { name: 'Node 2 of Piece 2' }));
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(right - 20, y + 30, { steps: 4 });
  await page.mouse.move(right - 4, y + 40, { steps: 4 });
  await page.mouse.up();
  const end = flat.getByRole('button', { name: 'Node 6 of Piece 2' });
  await expect.poll(async () => Math.abs((await middleOf(end))[0] - right)).toBeLessThan(1);
  await expect(page.getByText('cutting…')).toBeHidden();
  await hands.press('New line');
  await expect(page.getByRole('list', { name: 'Lines' }).getByRole('button', { pressed: true })).toHaveText(/Line 2/);
  await pick(page, 'Kind of line', 'Slit');
  const lines = page.getByRole('list', { name: 'Lines' });
  await expect(lines).toContainText('slit');
  await undo(page);
  await expect(lines).not.toContainText('slit');
  await page.keyboard.press('Control+Shift+z');
  await expect(lines).toContainText('slit');
  const [pleated, lined] = shapeOf(await built(page)).pieces;
  expect(pleated!.pleats).toMatchObject({ kind: 'box', count: 2, depth: expect.closeTo(0.04, 9) });
  const [crease, slit] = lined!.lines;
  expect(crease).toMatchObject({ kind: 'crease', fold: expect.closeTo((-75 * Math.PI) / 180, 6) });
  expect(crease!.nodes[1]!.at[0]).toBeCloseTo(0.25, 6);
  expect(slit!.kind).toBe('slit');

  // As part of the border its lips are selected, and sewn.
  await hands.go('Pattern');
  await hands.press('Make it border');
  await expect(lines).not.toContainText('slit');
  await pick(page, 'Work', 'Seams');
  // A press on either side of it chooses the lip there.
  const [u, w] = await middleOf(flat.getByRole('button', { name: 'Side of Piece 2, 30 cm' }).first());
  await page.mouse.click(u + 40, w + 3);
  await page.keyboard.down('Shift');
  await page.mouse.click(u + 40, w - 3);
  await page.keyboard.up('Shift');
  await hands.press('Sew');
  await expect(page.getByRole('list', { name: 'Seams' }).getByRole('listitem')).toHaveCount(1);
  const sewn = shapeOf(await built(page));
  const hole = sewn.pieces[1]!.holes[0]!.map(({ id }) => id);
  expect(sewn.seams.map(({ a, b }) => [a.from, a.to, b.from, b.to])).toEqual([[hole[0], hole[1], hole[1], hole[0]]]);
  await hands.go('Pattern');
  for (let i = 0; i < 2; i++) await undo(page);
  await pick(page, 'Work', 'Pieces');
  await expect(lines).toContainText('slit');
});

test('cloth is split off a thing by its faces', async ({ page }) => {
  const hands = await emptyShot(page);
  await hands.type('box 0.6 × 0.4 × 0.5 at 0, 0.2, 0 named Crate');
  await hands.go('Pattern');
  await hands.press('Split cloth off Crate');
  const count = page.getByTestId('face-count');
  await expect(count).toHaveText('0 of 12 faces selected');
  await expect(page.getByRole('button', { name: 'Split off as cloth' })).toBeDisabled();
  // The camera looks at it from above: its middle in the picture is on its top.
  const [x, y] = await middleOf(page.getByTestId('viewport'));
  await hands.act(() => page.mouse.click(x, y - 20));
  await expect(count).toHaveText('1 of 12 faces selected');
  await hands.press('All up to 20°');
  await expect(count).toHaveText('2 of 12 faces selected');
  await hands.press('Split off as cloth');
  await expect(row(page, 'Cloth of Crate')).toBeVisible();
  await expect(page.getByRole('button', { name: 'All checks well' })).toBeVisible({ timeout: 30_000 });
  await undo(page);
  await expect(row(page, 'Cloth of Crate')).toBeHidden();
  await page.keyboard.press('Control+Shift+z');
  await expect(row(page, 'Cloth of Crate')).toBeVisible();
  const split = (await built(page)).things;
  expect(split.map(({ role }) => role).sort()).toEqual(['cloth', 'collider']);
  const cloth = split.find((thing): thing is Cloth => thing.role === 'cloth')!;
  expect(cloth.pinSets[0]).toMatchObject({ name: 'Border on Crate', rides: cloth.id });
});

test('a border is sewn to a thing by hand', async ({ page }) => {
  const hands = await emptyShot(page);
  await hands.type('box 0.7 × 0.1 × 0.1 at 0, 1.2, -0.3 named Beam');
  await hands.go('Pattern');
  await hands.press('Rectangle');
  await expect(page.getByRole('list', { name: 'Pieces' })).toBeVisible();
  await page.keyboard.press('f');
  const flat = page.getByRole('group', { name: 'Pieces laid out flat' });
  const [x, y] = await middleOf(flat.getByRole('button', { name: /^Side of Piece 1/ }).nth(2));
  await hands.act(() => page.mouse.click(x, y));
  await work(hands, 'Seams');
  await hands.press('Sew to Beam');
  await expect(page.getByText('One border is sewn to things')).toBeVisible();
  const cloth = (await built(page)).things.find((thing): thing is Cloth => thing.role === 'cloth')!;
  expect(cloth.ties).toHaveLength(1);
  expect(cloth.ties[0]).toMatchObject({ name: 'Seam to Beam', keepsDistance: false, drawnIn: 24 });
  expect(cloth.ties[0]!.points.length).toBeGreaterThan(30);
});

test('a hood is spread over hoops from a file, sewn and taut in at most 10 acts', async ({ page }) => {
  const hoops = [60, 30, 0, -30, -60].map((lean) => {
    const angle = (lean * Math.PI) / 180;
    const hoop = shapeMesh({ kind: 'hoop', radius: 0.5, leg: 0.001, tubeRadius: 0.008, segments: 28 }, new Map());
    return placeBy(hoop, poseOf([-0.25 * Math.sin(angle), 0.5 + 0.25 * Math.cos(angle), 0], [0, 0, angle]));
  });
  const file = writeObj([{ name: 'Hoops', mesh: makeOneMesh(hoops) }]);
  const hands = await emptyShot(page);
  await hands.act(async () => {
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Mesh file' }).click();
    await (await chooser).setFiles({ name: 'hoops.obj', mimeType: 'model/obj', buffer: Buffer.from(file) });
  });
  await hands.press('Bring it in');
  await expect(row(page, 'Hoops')).toBeVisible();
  await hands.go('Pattern');
  await hands.press('Spread cloth between rods');
  await expect(page.getByText('5 rods, 4 panels between them.')).toBeVisible();
  await hands.press('Make the panels');
  await expect(row(page, 'Cover')).toBeVisible();
  await hands.go('Fabric');
  await hands.press(/^Rest size/);
  await hands.number('Rest size, warp', '98.5');
  await hands.number('Rest size, weft', '98.5');
  await hands.act(() => page.keyboard.press('j'));
  await expect(page.getByTestId('pose')).toContainText('Settl', { timeout: 60_000 });
  console.log(`hood: ${hands.acts} acts`);
  expect(hands.acts).toBeLessThanOrEqual(10);
  await page.keyboard.press('Escape');
  const cloth = (await built(page)).things.find((thing): thing is Cloth => thing.role === 'cloth')!;
  const shape = cloth.shape as PatternShape;
  expect(shape.pieces).toHaveLength(4);
  expect(shape.seams).toHaveLength(3);
  expect(cloth.ties).toHaveLength(5);
});
