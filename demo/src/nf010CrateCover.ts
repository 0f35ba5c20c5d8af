import { createCloth, createCollider, createScenery, createShot, type Shot } from '@lumbra/core';
import { COVER_STILL, COVER_STILL_AT } from './nf010Still';

const degrees = (angle: number) => (angle * Math.PI) / 180;

/** A waxed cover drops over three crates and a coil of rope: drape, friction, settle. About 10,000 points. */
export function nf010CrateCover(): Shot {
  const wood = { clearance: 0.004, friction: 0.35 };
  const rope = { clearance: 0.004, friction: 0.5, colour: '#B8A27C' };
  return createShot({
    id: 'nf010',
    code: 'NF010',
    name: 'Crate cover',
    lastFrame: 120,
    run: { quality: 'shot' },
    camera: { position: [2.55, 1.9, 3.0], target: [0.06, 0.4, 0.04] },
    things: [
      createCloth({
        id: 'cover',
        name: 'Cover',
        card: 'waxed-cotton',
        shape: { kind: 'sheet', width: 2.4, height: 2.1, spacing: 0.0228 },
        position: [0.04, 0.86, 0.04],
        rotation: [0, degrees(10.3), 0],
        print: { kind: 'check', second: '#B9B497', repeat: 0.3, waxed: true },
        finish: [
          { id: 'finer', step: { kind: 'subdivide' } },
          { id: 'thick', step: { kind: 'thicken', thickness: 0.0015 } },
        ],
      }),
      createScenery({
        ...{ id: 'still', name: 'Cover, frame 120', shape: { kind: 'mesh', asset: COVER_STILL } },
        ...{ position: COVER_STILL_AT, colour: '#D8CDB4', visible: false },
      }),
      createCollider({
        id: 'crate-wide',
        name: 'Crate, wide',
        shape: { kind: 'box', width: 0.95, height: 0.5, depth: 0.62 },
        position: [-0.08, 0.25, 0],
        rotation: [0, degrees(5.7), 0],
        ...wood,
        colour: '#9C8A70',
      }),
      createCollider({
        id: 'crate-low',
        name: 'Crate, low',
        shape: { kind: 'box', width: 0.5, height: 0.34, depth: 0.55 },
        position: [0.68, 0.17, 0.06],
        rotation: [0, degrees(-14.3), 0],
        ...wood,
        colour: '#A39278',
      }),
      createCollider({
        id: 'crate-top',
        name: 'Crate, top',
        shape: { kind: 'box', width: 0.56, height: 0.26, depth: 0.46 },
        position: [-0.2, 0.63, -0.02],
        rotation: [0, degrees(24.1), 0],
        ...wood,
        colour: '#93826A',
      }),
      ...[0, 1, 2].map((turn) =>
        createCollider({
          id: `rope-${turn + 1}`,
          name: `Rope coil, turn ${turn + 1}`,
          shape: { kind: 'ring', radius: 0.2 - turn * 0.008, tubeRadius: 0.036, segments: 48 },
          position: [0.34 + turn * 0.006, 0.036 + turn * 0.07, 0.66 - turn * 0.005],
          ...rope,
        }),
      ),
      createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' }, clearance: 0.002, friction: 0.5 }),
    ],
  });
}
