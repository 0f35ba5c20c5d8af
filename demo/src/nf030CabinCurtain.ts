import {
  createCloth,
  createCollider,
  createMount,
  createScenery,
  createShot,
  createTie,
  shapeMesh,
  sidePoints,
  type Shot,
  type Track,
} from '@lumbra/core';

const degrees = (angle: number) => (angle * Math.PI) / 180;

const WIDTH = 1.77;
const HEIGHT = 1.41;
const RAIL = 1.9;
/** Every so many points of the top border hang from a rider. */
const EVERY = 6;
/** The width to which the curtain is drawn together, as a share of its own. */
const DRAWN = 0.34;
const DRAW = { from: 16, to: 106 };

const keyed = (number: string, knots: [number, number][]): Track => ({
  number,
  knots: knots.map(([frame, value]) => ({ frame, value, ease: 'smooth' })),
});

/** A curtain hangs from riders on a rail that draw it together, while the whole cabin rolls: ties, riding, keys. 60 by 48 points. */
export function nf030CabinCurtain(): Shot {
  const shape = { kind: 'sheet' as const, width: WIDTH, height: HEIGHT, spacing: 0.03 };
  const top = sidePoints(shapeMesh(shape, new Map()), 'top');
  // The last point hangs too, or a corner would flap.
  const hung = top.filter((_, i) => i % EVERY === 0 || i === top.length - 1);
  const placeOf = (point: number) => -WIDTH / 2 + (point / (top.length - 1)) * WIDTH;
  const riders = hung.map((point, i) => ({ id: `rider-${i + 1}`, name: `Rider ${i + 1}`, point, x: placeOf(point) }));
  return createShot({
    id: 'nf030',
    code: 'NF030',
    name: 'Cabin curtain',
    lastFrame: 168,
    run: { quality: 'draft' },
    camera: { position: [1.5, 1.75, 3.3], target: [0, 1.2, 0] },
    things: [
      createCloth({
        id: 'curtain',
        name: 'Curtain',
        card: 'linen-mid',
        shape,
        position: [0, RAIL - 0.03 - HEIGHT / 2, 0],
        rotation: [degrees(90), 0, 0],
        print: { kind: 'stripe', colour: '#7C8F86', second: '#DCD3BC', repeat: 0.22 },
        ties: riders.map(({ id, name, point }) =>
          createTie({ id: `tie-${id}`, name: `Tie to ${name.toLowerCase()}`, points: [point], to: id }),
        ),
      }),
      createMount({
        id: 'cabin',
        name: 'Cabin',
        keys: [
          keyed('rotation.x', [
            [8, 0],
            [36, degrees(7)],
            [78, degrees(-7)],
            [120, degrees(6)],
            [156, degrees(-4)],
          ]),
          keyed('rotation.z', [
            [8, 0],
            [52, degrees(3)],
            [104, degrees(-3)],
            [150, 0],
          ]),
        ],
      }),
      createScenery({
        id: 'rail',
        name: 'Rail',
        shape: { kind: 'cylinder', radius: 0.012, height: 2, segments: 24 },
        position: [0, RAIL, 0],
        rotation: [0, 0, degrees(90)],
        parent: 'cabin',
        colour: '#8A7448',
      }),
      ...riders.map(({ id, name, x }) =>
        createScenery({
          id,
          name,
          shape: { kind: 'ring', radius: 0.022, tubeRadius: 0.005, segments: 24 },
          position: [x, RAIL - 0.008, 0],
          rotation: [0, 0, degrees(90)],
          parent: 'cabin',
          colour: '#5F5233',
          keys: [
            keyed('position.x', [
              [DRAW.from, x],
              [DRAW.to, -WIDTH / 2 + (x + WIDTH / 2) * DRAWN],
            ]),
          ],
        }),
      ),
      createCollider({
        id: 'bulkhead',
        name: 'Bulkhead',
        shape: { kind: 'box', width: 2.6, height: 2.3, depth: 0.04 },
        position: [0, 1.15, -0.17],
        parent: 'cabin',
        friction: 0.3,
        colour: '#A3957C',
      }),
    ],
  });
}
