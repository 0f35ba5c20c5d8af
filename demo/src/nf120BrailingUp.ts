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
  spots,
  type Cloth,
  type Shot,
} from '@lumbra/core';
import { degrees, keyedRows } from './keyed';

const SAIL = { width: 2, height: 1.3, spacing: 0.025 };
const YARD = { y: 2.05, radius: 0.035, length: 2.3 };
const HEAD = YARD.y - YARD.radius - 0.012;
/** Brail lines run down the sail, through so many eyes each. */
const [LINES, EYES] = [5, 6];
const HAULED = { from: 16, to: 112 };
/** Depth of the bundle that the eyes are hauled into. */
const BUNDLE = 0.13;
const STRAP = { width: 0.42, height: 0.05, spacing: 0.0125 };

/** A small sail is hauled up to its yard in bights by its brail lines: gathered pins, ties, three cloths, wind. 4,300 points. */
export function nf120BrailingUp(): Shot {
  const shape = { kind: 'sheet' as const, ...SAIL };
  const mesh = shapeMesh(shape, new Map());
  // Each eye holds the points around it, so that it pulls no spike.
  const eyes = spots(mesh, LINES, EYES, 1.25 * SAIL.spacing);
  const span = (SAIL.height * (EYES - 1)) / EYES;
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
          ...keyedRows('hold:eyes.move', [
            [HAULED.from, 0, 0, 0],
            [HAULED.to, 0, SAIL.height / 2 - (0.05 + BUNDLE / 2), 0],
          ]),
          ...keyedRows('hold:eyes.gather', [
            [HAULED.from, 1, 1, 1],
            [HAULED.to, 0.97, BUNDLE / span, 1],
          ]),
        ],
      }),
      strap('strap-fore', 'Strap', -0.5),
      strap('strap-aft', 'Strap 2', 0.5),
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
