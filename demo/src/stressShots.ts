import { createCloth, createCollider, createShot, type Shot } from '@lumbra/core';

// Shots that are hard on contact and of no use to a film: what tests and the bench run besides the production.

const ground = () =>
  createCollider({ id: 'ground', name: 'Ground', shape: { kind: 'ground' }, clearance: 0.002, friction: 0.5 });

/** A sheet falls on its edge and crumples into a heap. `points` is about the number along its side. */
export function crumplingDrop(points = 51): Shot {
  return createShot({
    id: 'stress-crumple',
    name: 'Crumpling drop',
    lastFrame: 48,
    things: [
      createCloth({
        id: 'sheet',
        name: 'Sheet',
        card: 'cotton-poplin',
        shape: { kind: 'sheet', width: 1, height: 1, spacing: 1 / (points - 1) },
        position: [0, 0.62, 0],
        rotation: [1.3, 0.2, 0.3],
      }),
      ground(),
    ],
  });
}

/** Three sheets, one over the other, fall on a bollard. */
export function stackedSheets(points = 41): Shot {
  return createShot({
    id: 'stress-stack',
    name: 'Three stacked sheets on a bollard',
    lastFrame: 40,
    things: [
      ...[0, 1, 2].map((layer) =>
        createCloth({
          id: `sheet-${layer + 1}`,
          name: `Sheet ${layer + 1}`,
          card: 'linen-mid',
          shape: { kind: 'sheet', width: 0.8, height: 0.8, spacing: 0.8 / (points - 1) },
          position: [0.01 * layer, 0.52 + 0.02 * layer, 0.02 * layer],
          rotation: [0, 0.35 * layer, 0],
        }),
      ),
      createCollider({
        id: 'bollard',
        name: 'Bollard',
        shape: { kind: 'capsule', radius: 0.19, height: 0.48 },
        position: [0, 0.24, 0],
      }),
      ground(),
    ],
  });
}

/** A fender flies at 8 m/s into a sheet that hangs by its upper corners. */
export function fastFender(points = 41): Shot {
  const columns = points;
  return createShot({
    id: 'stress-fender',
    name: 'Fast fender into a hanging sheet',
    lastFrame: 40,
    things: [
      createCloth({
        id: 'sheet',
        name: 'Sheet',
        card: 'cotton-poplin',
        shape: { kind: 'sheet', width: 0.8, height: 0.8, spacing: 0.8 / (points - 1) },
        position: [0, 0.9, 0],
        rotation: [Math.PI / 2, 0, 0],
        pinSets: [{ id: 'corners', name: 'Corners', points: [0, columns - 1] }],
      }),
      createCollider({
        id: 'fender',
        name: 'Fender',
        shape: { kind: 'capsule', radius: 0.12, height: 0.4 },
        position: [0.05, 0.85, -1.4],
        keys: [
          {
            number: 'position.z',
            knots: [
              { frame: 6, value: -1.4, ease: 'linear' },
              { frame: 12, value: 0.6, ease: 'linear' },
              { frame: 30, value: 0.6, ease: 'hold' },
            ],
          },
        ],
      }),
      ground(),
    ],
  });
}

export const STRESS_SHOTS: readonly (() => Shot)[] = [() => crumplingDrop(), () => stackedSheets(), () => fastFender()];
