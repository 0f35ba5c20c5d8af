import { fabricSchema, sheet, type Model } from '@lumbra/core';

/** A sheet of n by n points, `spacing` m apart, held by its corners, in still air. */
export function hangingSheet(n: number, spacing = 0.02): Model {
  const rest = sheet({ width: (n - 1) * spacing, height: (n - 1) * spacing, spacing });
  const fabric = fabricSchema.parse({ weight: 0.2, airAcross: 0, airAlong: 0 });
  const held = [0, n - 1, n * (n - 1), n * n - 1];
  return {
    cloths: [{ id: 'sheet', rest, positions: rest.positions, fabric, held }],
    colliders: [],
    air: { gravity: [0, -9.81, 0], density: 0, windAt: () => [0, 0, 0] },
  };
}

/** The same sheet, free, falling on a box and the ground. */
export function drapedSheet(n: number, spacing = 0.02): Model {
  const model = hangingSheet(n, spacing);
  const side = (n - 1) * spacing;
  const identity = [1, 0, 0, 0, 1, 0, 0, 0, 1] as const;
  const base = { clearance: 0.003, friction: 0.4, rotation: identity };
  return {
    ...model,
    cloths: model.cloths.map((cloth) => ({ ...cloth, held: [] })),
    colliders: [
      { ...base, id: 'ground', kind: 'plane', center: [0, -0.3 * side, 0] },
      { ...base, id: 'box', kind: 'box', center: [0, -0.16 * side, 0], size: [0.4 * side, 0.28 * side, 0.4 * side] },
    ],
  };
}
