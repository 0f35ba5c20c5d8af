import { createCloth, createCollider, createPinSet, createShot, sheet, type Shot, type Thing } from '@lumbra/core';
import { degrees, keyed } from './keyed';

// Shots that nobody tuned: cloth in layers, pinched, drawn, and over what is sharp. What a quality promises has to hold in them. The bench
// runs them in older checkouts too (`bench/src/older.ts`), so they import only what the first solver had.

const ground = () =>
  createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' }, clearance: 0.002, friction: 0.5 });

function square(id: string, card: string, side: number, spacing: number, height: number, turned = 0): Thing {
  return createCloth({
    ...{ id, name: id, card, position: [0, height, 0], rotation: [0, turned, 0] },
    shape: { kind: 'sheet', width: side, height: side, spacing },
  });
}

function shot(name: string, lastFrame: number, things: Thing[]): Shot {
  return createShot({
    ...{ id: `trial-${name.replaceAll(' ', '-')}`, name, lastFrame },
    things: [...things, ground()],
  });
}

const crate = (keys: NonNullable<Parameters<typeof createCollider>[0]['keys']> = []) =>
  createCollider({
    ...{ id: 'crate', name: 'Crate', position: [0, 0.15, 0], friction: 0.35, keys },
    shape: { kind: 'box', width: 0.4, height: 0.3, depth: 0.4 },
  });

/** One sheet on a crate. */
export const sheetOnCrate = (): Shot =>
  shot('sheet on a crate', 48, [square('cover', 'linen-mid', 1, 0.017, 0.36), crate()]);

/** Heavy cloth over light cloth on a crate, or light over heavy. */
export const twoLayers = (under: string, over: string): Shot =>
  shot(`${over} over ${under}`, 48, [
    square('under', under, 0.9, 0.018, 0.34),
    square('over', over, 0.9, 0.018, 0.37, 0.3),
    crate(),
  ]);

/** Three fabrics on a crate that turns. */
export const turningLayers = (): Shot =>
  shot('three layers on a turning crate', 72, [
    square('inner', 'silk-chiffon', 0.8, 0.02, 0.34),
    square('middle', 'canvas', 0.8, 0.02, 0.365, 0.4),
    square('outer', 'cotton-poplin', 0.8, 0.02, 0.39, 0.8),
    crate([
      keyed('rotation.y', [
        [24, 0],
        [60, degrees(120)],
      ]),
    ]),
  ]);

/** Two plates close on a heap of cloth. */
export function closingPlates(): Shot {
  const plate = (id: string, from: number, to: number) =>
    createCollider({
      ...{ id, name: id, position: [from, 0.2, 0], friction: 0.3 },
      shape: { kind: 'box', width: 0.04, height: 0.4, depth: 0.8 },
      keys: [
        keyed('position.x', [
          [24, from],
          [60, to],
        ]),
      ],
    });
  return shot('plates closing on a heap', 72, [
    square('heap', 'cotton-poplin', 0.7, 0.018, 0.3),
    plate('left', -0.4, -0.09),
    plate('right', 0.4, 0.09),
  ]);
}

/** A sheet is drawn through a ring by its middle. */
export function drawnThroughRing(): Shot {
  const shape = { kind: 'sheet', width: 0.6, height: 0.6, spacing: 0.02 } as const;
  const { positions } = sheet(shape);
  const points = [...Array(positions.length / 3).keys()].filter(
    (point) => Math.hypot(positions[point * 3]!, positions[point * 3 + 2]!) < 0.045,
  );
  const pins = createPinSet({ id: 'drawn', name: 'Drawn', points });
  const cover = createCloth({
    ...{ id: 'cover', name: 'Cover', card: 'silk-habotai', shape, position: [0, 0.62, 0], pinSets: [pins] },
    keys: [
      keyed('hold:drawn.move.y', [
        [12, 0],
        [72, -0.42],
      ]),
    ],
  });
  const ring = createCollider({
    ...{ id: 'ring', name: 'Ring', position: [0, 0.58, 0], friction: 0.15 },
    shape: { kind: 'ring', radius: 0.075, tubeRadius: 0.015 },
  });
  return shot('sheet drawn through a ring', 96, [cover, ring]);
}

/** A sheet over the tip of a cone. */
export const sheetOnCone = (): Shot =>
  shot('sheet on a cone', 48, [
    square('cover', 'linen-mid', 0.8, 0.018, 0.56),
    createCollider({ id: 'cone', name: 'Cone', shape: { kind: 'cone' } }),
  ]);

/** A sheet over rods that are thinner than its spacing. */
export const sheetOnRods = (): Shot =>
  shot('sheet on thin rods', 48, [
    square('cover', 'cotton-poplin', 0.7, 0.025, 0.36),
    ...[-0.15, 0.04, 0.17].map((x, i) =>
      createCollider({
        ...{ id: `rod-${i + 1}`, name: `Rod ${i + 1}`, position: [x, 0, 0.02 * i] },
        shape: { kind: 'cone', radius: 0.006, topRadius: 0.004, height: 0.3 + 0.03 * i, segments: 8 },
      }),
    ),
  ]);
