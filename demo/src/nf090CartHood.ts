import {
  createCloth,
  createCollider,
  createMount,
  createScenery,
  createShot,
  createTie,
  finishEntrySchema,
  makePiece,
  newNode,
  pointsAlong,
  type Mesh,
  type PatternShape,
  type Piece,
  type Shot,
} from '@lumbra/core';
import { degrees, type Stop } from './keyed';
import { HOOD_AS_ONE } from './nf090HoodAsOne';
import { hingedHoops, HOOPS_MESH, RISE } from './nf090Hoops';

/** The hoops turn on two hinges at the sides of the cart, so high over the ground; across, and as rods. */
const HINGE = 0.52;
const HOOP = { radius: 0.5, rod: 0.008 };
/** How the hoops lean when the hood is up, the front one first, and how many degrees apart they lie when it is down. */
const UP = [62, 31, 0, -31, -62];
const DOWN = 12;
/** Panels lie so much outside of the hoops. */
const OUTSIDE = 0.016;
/** In the pre-roll the hood is drawn on its hoops, then laid down. */
const LAID = { from: -66, to: -16 };
const RISES = { from: 12, to: 84 };
const SEWN_IN = 16;
/** So far short of the hinges, in radians around the hoop, the panels have their hems. */
const HEM = degrees(30);

/** A panel from one side of the cart over the top to the other, between two hoops: a slice of a sphere, flat. It ends short of the hinges. */
function panel(i: number): Piece {
  const radius = HOOP.radius + OUTSIDE;
  const half = (radius * degrees(UP[0]! - UP[1]!)) / 2;
  const reach = radius * (Math.PI / 2 - HEM);
  const end = half * Math.sin(HEM);
  // As steep as the slice at its ends, and a little more, so that it is as wide in its middle.
  const handle = [1.15 * (half / radius) * Math.cos(HEM) * ((2 * reach) / 3), (2 * reach) / 3] as const;
  const lean = degrees((UP[i]! + UP[i + 1]!) / 2);
  const corner = (
    id: string,
    at: [number, number],
    before: [number, number] | null,
    after: [number, number] | null,
  ) => ({
    ...newNode(at, before, after),
    id,
  });
  return makePiece({
    ...{ id: `panel-${i + 1}`, name: `Panel ${i + 1}` },
    outline: [
      corner('front-near', [end, -reach], null, [handle[0], handle[1]]),
      corner('front-far', [end, reach], [handle[0], -handle[1]], null),
      corner('back-far', [-end, reach], null, [-handle[0], -handle[1]]),
      corner('back-near', [-end, -reach], [-handle[0], handle[1]], null),
    ],
    lies: 'round level',
    radius,
    rotation: [-Math.PI / 2, 0, -lean],
    position: [Math.sin(lean) * radius, Math.cos(lean) * radius, 0],
  });
}

/** The hoops with the animation that they came with. */
export function cartHoops(): Mesh {
  return hingedHoops(
    UP.map((up, i) => {
      const down = UP.at(-1)! + DOWN * (UP.length - 1 - i);
      const leans: Stop[] = [
        [LAID.from, degrees(0 - up)],
        [LAID.to, degrees(0 - down)],
        [RISES.from, degrees(0 - down)],
        [RISES.to, degrees(0 - up)],
      ];
      return { ...HOOP, leans };
    }),
  );
}

/** The four panels, and the seams between them. */
export function hoodShape(): PatternShape {
  return {
    ...{ kind: 'pattern', spacing: 0.026, weave: 'all directions', closing: SEWN_IN },
    pieces: [0, 1, 2, 3].map(panel),
    seams: [1, 2, 3].map((i) => ({
      id: `seam-${i}`,
      a: { piece: `panel-${i + 1}`, from: 'front-near', to: 'front-far' },
      b: { piece: `panel-${i}`, from: 'back-far', to: 'back-near' },
      turned: false,
    })),
  };
}

/**
 * Hinged hoops, imported with their animation, rise and spread the panels sewn between them: a hood cut in four pieces, taut by its rest size, and shown as
 * one mesh that goes along.
 * 1,850 points.
 */
export function nf090CartHood(): Shot {
  const shape = hoodShape();
  const [clearance, thickness] = [0.002, 0.0006];
  // Each panel is sewn to the next, and the seams, with the first and the last border, to the hoops.
  const last = shape.pieces.at(-1)!.id;
  const ties = UP.map((_, i) => {
    const front = { piece: `panel-${i + 1}`, from: 'front-near', to: 'front-far' };
    const stretch = i < UP.length - 1 ? front : { piece: last, from: 'back-far', to: 'back-near' };
    return createTie({
      ...{ id: `tie-hoop-${i + 1}`, name: `Seam to hoop ${i + 1}`, to: 'hoops' },
      points: pointsAlong(shape, stretch),
      ...{ keepsDistance: false, standOff: clearance + thickness / 2, drawnIn: SEWN_IN },
    });
  });
  const wood = { colour: '#9C8A70', parent: 'cart' };
  return createShot({
    ...{ id: 'nf090', code: 'NF090', name: 'Cart hood', lastFrame: 120, preRoll: 68 },
    run: { quality: 'shot' },
    camera: { position: [1.9, 1.45, 1.75], target: [-0.05, 0.62, 0] },
    things: [
      createCloth({
        ...{ id: 'hood', name: 'Hood', card: 'canvas', shape, ties },
        position: [0, HINGE, 0],
        parent: 'cart',
        fabric: { thickness, restWarp: 0.985, restWeft: 0.985 },
        print: { kind: 'plain', colour: '#5B6B5A', waxed: true },
        finish: [
          finishEntrySchema.parse({ id: 'as-one', step: { kind: 'carry', thing: 'hood-as-one' } }),
          finishEntrySchema.parse({ id: 'finer', step: { kind: 'subdivide' } }),
        ],
      }),
      createScenery({
        ...{ id: 'hood-as-one', name: 'Hood in one piece', shape: { kind: 'mesh', asset: HOOD_AS_ONE } },
        ...{ position: [0, HINGE, 0], parent: 'cart', colour: '#5B6B5A', visible: false },
      }),
      createMount({ id: 'cart', name: 'Cart' }),
      createCollider({
        ...{ id: 'hoops', name: 'Hoops', parent: 'cart', colour: '#6A5A3C', clearance, friction: 0.3 },
        shape: { kind: 'mesh', asset: HOOPS_MESH },
        position: [0, HINGE, 0],
        motion: { clip: RISE, start: LAID.from },
      }),
      createCollider({
        ...{ id: 'bed', name: 'Bed', friction: 0.5, ...wood },
        shape: { kind: 'box', width: 1.05, height: 0.06, depth: 0.86 },
        position: [0, 0.4, 0],
      }),
      ...[1, -1].map((side) =>
        createScenery({
          ...{ id: side === 1 ? 'wheel-near' : 'wheel-far', name: side === 1 ? 'Wheel, near' : 'Wheel, far', ...wood },
          shape: { kind: 'ring', radius: 0.3, tubeRadius: 0.022 },
          position: [0, 0.322, side * 0.56],
          rotation: [degrees(90), 0, 0],
        }),
      ),
      ...[1, -1].map((side) =>
        createScenery({
          ...{ id: side === 1 ? 'shaft-near' : 'shaft-far', name: side === 1 ? 'Shaft, near' : 'Shaft, far', ...wood },
          shape: { kind: 'cylinder', radius: 0.018, height: 1, segments: 16 },
          position: [0.9, 0.4, side * 0.3],
          rotation: [0, 0, degrees(90)],
        }),
      ),
      createCollider({ id: 'quay', name: 'Quay', shape: { kind: 'ground' }, friction: 0.6 }),
    ],
  });
}
