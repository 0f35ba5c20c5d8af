import { createCloth, createCollider, createPinSet, createShot, shapeMesh, type Shot } from '@lumbra/core';
import { keyedRows } from './keyed';

const RUNNER = { width: 2.1, height: 0.72, spacing: 0.02 };
const CRATE = { width: 0.46, height: 0.36, depth: 0.6 };
/** Where the crate stands at first, how far it slides, and where it comes to rest as the deck rights itself. */
const SLID = { from: -0.99, to: 0.02, back: -0.18 };
const BULKHEAD = { at: 1.42, thick: 0.08 };
/** The runner begins at the foot of the crate, just before its front. */
const FRONT = SLID.from + CRATE.width / 2 + 0.008;

/** A sliding crate ploughs a deck runner into folds against the bulkhead: moving colliders, self-contact, friction. 3,900 points. */
export function nf050RuckedRunner(): Shot {
  const shape = { kind: 'sheet' as const, ...RUNNER };
  const { positions } = shapeMesh(shape, new Map());
  // Its first two rows are tacked to the foot of the crate.
  const tacked = Array.from({ length: positions.length / 3 }, (_, point) => point).filter(
    (point) => positions[point * 3]! < 1.5 * RUNNER.spacing - RUNNER.width / 2,
  );
  return createShot({
    id: 'nf050',
    code: 'NF050',
    name: 'Rucked runner',
    lastFrame: 120,
    run: { quality: 'shot' },
    camera: { position: [1.9, 1.3, 2.1], target: [0.4, 0.12, 0] },
    things: [
      createCloth({
        id: 'runner',
        name: 'Runner',
        card: 'wool-coating',
        shape,
        position: [FRONT + RUNNER.width / 2, 0.004, 0],
        print: { kind: 'stripe', colour: '#8E3F33', second: '#D9C9A4', repeat: 0.24 },
        pinSets: [createPinSet({ id: 'tacked', name: 'Tacked to the crate', points: tacked, rides: 'crate' })],
      }),
      createCollider({
        id: 'crate',
        name: 'Crate',
        shape: { kind: 'box', ...CRATE },
        position: [SLID.from, CRATE.height / 2, 0.02],
        friction: 0.35,
        colour: '#9C8A70',
        keys: keyedRows(
          'position',
          [
            [8, SLID.from],
            [90, SLID.to],
            [112, SLID.back],
          ].map(([frame, x]) => [frame!, x!, CRATE.height / 2, 0.02]),
        ),
      }),
      createCollider({
        id: 'bulkhead',
        name: 'Bulkhead',
        shape: { kind: 'box', width: BULKHEAD.thick, height: 0.7, depth: 1.5 },
        position: [BULKHEAD.at + BULKHEAD.thick / 2, 0.35, 0],
        friction: 0.45,
        colour: '#A3957C',
      }),
      createCollider({
        id: 'deck',
        name: 'Deck',
        shape: { kind: 'ground' },
        clearance: 0.002,
        friction: 0.4,
      }),
    ],
  });
}
