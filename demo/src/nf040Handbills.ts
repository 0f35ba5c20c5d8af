import {
  createAir,
  createCloth,
  createCollider,
  createPinSet,
  createScenery,
  createShot,
  shapeMesh,
  sidePoints,
  type Shot,
} from '@lumbra/core';
import { degrees, keyedRows } from './keyed';

const NOTICE = { width: 0.27, height: 0.36, spacing: 0.0135 };
const BOARD = { width: 1.5, height: 1.04, depth: 0.03, at: 1.34 };
const COLUMNS = [-0.46, 0, 0.46];
/** Heights of the middles of both rows; the lower one hangs in front of the upper one’s hem. */
const ROWS = [1.62, 1.22];
const PAPERS = ['#EDE3CC', '#D9C7A3', '#C9D2C6', '#E6D3C2', '#D3D6DC', '#EADFB8'];

/** Notices on a board lift one after another as a draught sweeps past: a beam of air that moves, and wind shadow. 3,500 points. */
export function nf040Handbills(): Shot {
  const shape = { kind: 'sheet' as const, ...NOTICE };
  const tacked = sidePoints(shapeMesh(shape, new Map()), 'top');
  const notices = ROWS.flatMap((y, row) =>
    COLUMNS.map((x, column) => {
      const n = row * COLUMNS.length + column;
      return createCloth({
        id: `notice-${n + 1}`,
        name: `Notice ${n + 1}`,
        card: 'cotton-poplin',
        shape,
        position: [x + 0.02 * (n % 2), y, BOARD.depth / 2 + 0.006],
        rotation: [Math.PI / 2, 0, 0],
        print: { colour: PAPERS[n]! },
        pinSets: [createPinSet({ id: 'tacks', name: 'Tacks', points: tacked })],
      });
    }),
  );
  return createShot({
    id: 'nf040',
    code: 'NF040',
    name: 'Handbills',
    lastFrame: 132,
    run: { quality: 'shot' },
    camera: { position: [1.1, 1.5, 2.3], target: [0, 1.28, 0] },
    things: [
      ...notices,
      createCollider({
        id: 'board',
        name: 'Board',
        shape: { kind: 'box', width: BOARD.width, height: BOARD.height, depth: BOARD.depth },
        position: [0, BOARD.at, 0],
        colour: '#7A6A55',
      }),
      ...[-1, 1].map((side) =>
        createScenery({
          id: side < 0 ? 'leg-left' : 'leg-right',
          name: side < 0 ? 'Leg, left' : 'Leg, right',
          shape: { kind: 'box', width: 0.06, height: 1.9, depth: 0.06 },
          position: [side * 0.68, 0.95, -0.05],
          colour: '#55504A',
        }),
      ),
      createAir({
        id: 'draught',
        name: 'Draught',
        position: [-1.15, 0.62, 0.16],
        rotation: [degrees(-89), 0, 0],
        air: {
          kind: 'beam',
          speed: 4.8,
          width: 0.56,
          length: 1.7,
          edge: 0.6,
          fading: 0.3,
          turbulence: 0.6,
          eddySize: 0.34,
          eddyPace: 2,
          shadow: 0.8,
          shadowReach: 0.8,
        },
        keys: keyedRows('position', [
          [12, -1.15, 0.62, 0.16],
          [108, 1.15, 0.62, 0.16],
        ]),
      }),
    ],
  });
}
