import {
  createAir,
  createCloth,
  createCollider,
  createPinSet,
  createShot,
  sheet,
  sidePoints,
  type Shot,
} from '@lumbra/core';

/** A strip held at one end with its keyed hem carried along, in wind. */
export function sideInWind(): Shot {
  const shape = { kind: 'sheet', width: 0.8, height: 0.6, spacing: 0.02 } as const;
  const pins = createPinSet({ id: 'side', name: 'Side', points: sidePoints(sheet(shape), 'start') });
  const cloth = createCloth({
    ...{ id: 'cloth', name: 'Cloth', card: 'ripstop-nylon', shape, position: [0, 0.9, 0], pinSets: [pins] },
    rotation: [Math.PI / 2, 0, 0],
  });
  const ground = createCollider({
    ...{ id: 'ground', name: 'Ground', shape: { kind: 'ground' }, clearance: 0.002, friction: 0.5 },
  });
  const wind = createAir({
    ...{ id: 'wind', name: 'Wind', position: [-1.2, 1.6, 0], rotation: [0, Math.PI / 2, 0] },
    air: { kind: 'wind', speed: 9, gustDepth: 0.5 },
  });
  return createShot({ id: 'trial-side-in-wind', name: 'side in wind', lastFrame: 72, things: [cloth, wind, ground] });
}
