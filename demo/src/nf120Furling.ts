import {
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
  type Track,
} from '@lumbra/core';

const degrees = (angle: number) => (angle * Math.PI) / 180;

const SPACING = 0.03;
const SAIL = { width: 2.01, height: 1.32 };
const BOOM = { y: 1, radius: 0.04 };
const FOOT = BOOM.y + BOOM.radius + 0.006;
/** The sail is laid in folds as deep as this, to and fro over the boom. */
const FOLD = 0.22;
/** How far to either side of the boom the folds are laid, and how far apart they lie in the end. */
const LAID = { aside: 0.1, apart: 0.011 };
const LOWERED = { from: 14, to: 84 };
const STRAP = { length: 0.78, width: 0.06, spacing: 0.015 };
const LASHED = { from: 88, up: 104, to: 118, pulled: 128, free: 140, tight: 146 };
/** The shares of their length to which the straps are drawn, before the folds are let go and after it. */
const DRAWN = { first: 0.85, last: 0.64 };

type Stop = readonly [frame: number, value: number];

const keyed = (number: string, stops: readonly Stop[]): Track => ({
  number,
  knots: stops.map(([frame, value]) => ({ frame, value, ease: 'smooth' })),
});

/**
 * A small sail is lowered and laid in folds over its boom, then lashed with two straps: gathered pins, ties, three cloths. The folds
 * are held by two pin sets, one to either side; when the straps are tight they are let go.
 */
export function nf120Furling(): Shot {
  const shape = { kind: 'sheet' as const, ...SAIL, spacing: SPACING };
  const mesh = shapeMesh(shape, new Map());
  const foot = sidePoints(mesh, 'bottom');
  /** Points across the whole sail so high above its foot, in m. */
  const row = (height: number) => {
    const across = foot.length;
    const rows = mesh.positions.length / 3 / across;
    const first = (rows - 1 - Math.round((height / SAIL.height) * (rows - 1))) * across;
    return Array.from({ length: across }, (_, i) => first + i);
  };
  const count = Math.round(SAIL.height / FOLD);
  const folds = Array.from({ length: count }, (_, i) => i + 1);
  const laidOn = (side: 1 | -1) => {
    const mine = folds.filter((fold) => (fold % 2 === 1) === (side === 1));
    const middle = (heights: number[]) => (heights[0]! + heights.at(-1)!) / 2;
    const from = mine.map((fold) => fold * FOLD);
    const to = mine.map((fold) => fold * LAID.apart);
    const id = side === 1 ? 'folds-near' : 'folds-far';
    return {
      set: createPinSet({
        id,
        name: side === 1 ? 'Folds, near side' : 'Folds, far side',
        points: mine.flatMap((fold) => row(fold * FOLD)),
      }),
      keys: [
        keyed(`hold:${id}.gather.y`, [
          [LOWERED.from, 1],
          [LOWERED.to, (to.at(-1)! - to[0]!) / (from.at(-1)! - from[0]!)],
        ]),
        keyed(`hold:${id}.move.y`, [
          [LOWERED.from, 0],
          [LOWERED.to, middle(to) - middle(from)],
        ]),
        keyed(`hold:${id}.move.z`, [
          [LOWERED.from, 0],
          [LOWERED.to, side * LAID.aside],
        ]),
        keyed(`hold:${id}.strength`, [
          [LASHED.pulled, 1],
          [LASHED.free, 0],
        ]),
      ],
    };
  };
  const sides = [laidOn(1), laidOn(-1)];
  return createShot({
    id: 'nf120',
    code: 'NF120',
    name: 'Furling',
    lastFrame: 168,
    run: { quality: 'shot' },
    camera: { position: [1.55, 1.9, 3.35], target: [0, 1.42, 0] },
    wind: { enabled: true, speed: 1.6, heading: degrees(12), gustDepth: 0.5, gustPeriod: 1.4 },
    things: [
      createCloth({
        id: 'sail',
        name: 'Sail',
        card: 'canvas',
        // Salt and wear make it grip.
        fabric: { friction: 0.8 },
        shape,
        position: [0, FOOT + SAIL.height / 2, 0],
        rotation: [degrees(90), 0, 0],
        print: { kind: 'stripe', colour: '#E6DCC3', second: '#C9B98F', repeat: 0.6 },
        pinSets: sides.map(({ set }) => set),
        keys: sides.flatMap(({ keys }) => keys),
        ties: [createTie({ id: 'lacing', name: 'Lacing', points: foot, to: 'boom' })],
      }),
      strap('strap-fore', 'Strap, fore', -0.56),
      strap('strap-aft', 'Strap, aft', 0.56),
      createCollider({
        id: 'boom',
        name: 'Boom',
        shape: { kind: 'cylinder', radius: BOOM.radius, height: 2.2, segments: 32 },
        position: [0.02, BOOM.y, 0],
        rotation: [0, 0, degrees(90)],
        colour: '#8A7448',
      }),
      createCollider({
        id: 'mast',
        name: 'Mast',
        shape: { kind: 'cylinder', radius: 0.05, height: 2.7, segments: 32 },
        position: [-1.12, 1.35, 0],
        colour: '#8A7448',
      }),
      createScenery({
        id: 'deck',
        name: 'Deck',
        shape: { kind: 'box', width: 3.6, height: 0.06, depth: 2.2 },
        position: [0, -0.03, 0],
        colour: '#9C8A70',
      }),
    ],
  });
}

/** A strap that lies under the boom and is led up around the sail by its ends, which meet above it. */
function strap(id: string, name: string, x: number): Cloth {
  const shape = { kind: 'sheet' as const, width: STRAP.length, height: STRAP.width, spacing: STRAP.spacing };
  const mesh = shapeMesh(shape, new Map());
  const low = BOOM.y - BOOM.radius - 0.02;
  const end = (which: 'start' | 'end', side: 1 | -1) => {
    const hold = `${id}-${which}`;
    const move = (axis: 'y' | 'z', stops: Stop[]) => keyed(`hold:${hold}.move.${axis}`, stops);
    const out = STRAP.length / 2;
    return {
      set: createPinSet({
        id: hold,
        name: which === 'start' ? 'End, near' : 'End, far',
        points: sidePoints(mesh, which),
      }),
      keys: [
        move('y', [
          [LASHED.from, 0],
          [LASHED.up, 0.22],
          [LASHED.to, 0.27],
          [LASHED.pulled, 0.18],
          [LASHED.tight, 0.15],
        ]),
        move('z', [
          [LASHED.from, 0],
          [LASHED.up, side * (0.24 - out)],
          [LASHED.to, side * (0.02 - out)],
          [LASHED.pulled, side * (0.01 - out)],
        ]),
      ],
    };
  };
  const ends = [end('start', 1), end('end', -1)];
  return createCloth({
    id,
    name,
    card: 'canvas',
    shape,
    position: [x, low, 0],
    rotation: [0, degrees(90), 0],
    print: { colour: '#7A3B2E' },
    pinSets: ends.map(({ set }) => set),
    keys: [
      ...ends.flatMap(({ keys }) => keys),
      keyed('fabric.restWarp', [
        [LASHED.to, 1],
        [LASHED.pulled, DRAWN.first],
        [LASHED.tight, DRAWN.last],
      ]),
    ],
  });
}
