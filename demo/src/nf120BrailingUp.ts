import {
  createAir,
  createCloth,
  createCollider,
  createPinSet,
  createScenery,
  createShot,
  createTie,
  shapeMesh,
  sidePoints,
  type Cloth,
  type Shot,
} from '@lumbra/core';
import { degrees, keyed } from './keyed';

const SAIL = { width: 2, height: 1.3, spacing: 0.025 };
const YARD = { y: 2.05, radius: 0.035, length: 2.3 };
const HEAD = YARD.y - YARD.radius - 0.012;
/** Brail lines run down the sail at these shares of its width, through eyes so far apart. */
const LINES = [0.1, 0.3, 0.5, 0.7, 0.9];
const EYES = 0.2;
const HAULED = { from: 16, to: 112 };
/** Depth of the bundle that the eyes are hauled into. */
const BUNDLE = 0.13;
const STRAP = { width: 0.42, height: 0.05, spacing: 0.0125 };

/** A small sail is hauled up to its yard in bights by its brail lines: gathered pins, ties, three cloths, wind. 4,300 points. */
export function nf120BrailingUp(): Shot {
  const shape = { kind: 'sheet' as const, ...SAIL };
  const mesh = shapeMesh(shape, new Map());
  const { positions } = mesh;
  const near = (value: number, wanted: number) => Math.abs(value - wanted) < SAIL.spacing / 2 - 1e-6;
  const count = Math.floor(SAIL.height / EYES);
  const eyes = Array.from({ length: positions.length / 3 }, (_, point) => point).filter((point) => {
    const [x, z] = [positions[point * 3]! / SAIL.width + 0.5, positions[point * 3 + 2]! + SAIL.height / 2];
    // Each eye holds three points in a row, so that it pulls no spike.
    const onLine = LINES.some((share) => Math.abs(x - share) * SAIL.width < 1.25 * SAIL.spacing);
    return onLine && Array.from({ length: count }, (_, i) => (i + 1) * EYES).some((depth) => near(z, depth));
  });
  const span = (count - 1) * EYES;
  const middle = EYES + span / 2;
  return createShot({
    id: 'nf120',
    code: 'NF120',
    name: 'Brailing up',
    lastFrame: 156,
    run: { quality: 'shot' },
    camera: { position: [1.5, 1.75, 3.3], target: [0, 1.5, 0] },
    things: [
      createAir({
        ...{ id: 'wind', name: 'Breeze', position: [-1.4, 1.6, -0.8], rotation: [0, degrees(8), 0] },
        air: { kind: 'wind', speed: 1.8, gustDepth: 0.5, gustPeriod: 1.7 },
      }),
      createCloth({
        id: 'sail',
        name: 'Sail',
        card: 'canvas',
        shape,
        position: [0, HEAD - SAIL.height / 2, 0],
        rotation: [degrees(90), 0, 0],
        print: { kind: 'stripe', colour: '#E6DCC3', second: '#9C4B38', repeat: 1 },
        pinSets: [createPinSet({ id: 'eyes', name: 'Brail eyes', points: eyes, strength: 0.35 })],
        ties: [createTie({ id: 'lacing', name: 'Lacing', points: sidePoints(mesh, 'top'), to: 'yard' })],
        keys: [
          keyed('hold:eyes.gather.y', [
            [HAULED.from, 1],
            [HAULED.to, BUNDLE / span],
          ]),
          keyed('hold:eyes.gather.x', [
            [HAULED.from, 1],
            [HAULED.to, 0.97],
          ]),
          keyed('hold:eyes.move.y', [
            [HAULED.from, 0],
            [HAULED.to, middle - (0.05 + BUNDLE / 2)],
          ]),
        ],
      }),
      strap('strap-fore', 'Strap, fore', -0.45),
      strap('strap-aft', 'Strap, aft', 0.55),
      createCollider({
        id: 'yard',
        name: 'Yard',
        shape: { kind: 'cylinder', radius: YARD.radius, height: YARD.length, segments: 32 },
        position: [0, YARD.y, 0],
        rotation: [0, 0, degrees(90)],
        colour: '#8A7448',
      }),
      createCollider({
        id: 'mast',
        name: 'Mast',
        shape: { kind: 'cylinder', radius: 0.05, height: 2.6, segments: 32 },
        position: [0, 1.3, -0.1],
        colour: '#8A7448',
      }),
      createScenery({
        id: 'deck',
        name: 'Deck',
        shape: { kind: 'box', width: 3.2, height: 0.06, depth: 2 },
        position: [0, -0.03, 0],
        colour: '#9C8A70',
      }),
    ],
  });
}

/** A strap that hangs from the yard in front of the sail, for lashing it later. */
function strap(id: string, name: string, x: number): Cloth {
  const shape = { kind: 'sheet' as const, ...STRAP };
  return createCloth({
    id,
    name,
    card: 'canvas',
    shape,
    position: [x, YARD.y - STRAP.width / 2, YARD.radius + 0.014],
    rotation: [degrees(90), 0, degrees(-90)],
    print: { colour: '#40646B' },
    ties: [
      createTie({
        id: `${id}-tie`,
        name: 'Nailed',
        points: sidePoints(shapeMesh(shape, new Map()), 'start'),
        to: 'yard',
      }),
    ],
  });
}
