import type { Shape } from '../shapes';

/** A kind of thing that can be typed. */
export interface Kind {
  words: string[];
  /** What the numbers after the word mean, for the example and the message. */
  numbers: string;
  least: number;
  shape: (n: number[]) => Shape;
  /** From the thing's origin to its foot, in m. */
  foot: (n: number[]) => number;
}

const SEGMENTS = { cylinder: 32, ring: 48, tube: 48, cone: 40, capsule: 32, knot: 160 };
export const KINDS: Record<string, Kind> = {
  Sheet: {
    words: ['sheet', 'cloth'],
    numbers: 'width × height',
    least: 2,
    shape: ([width, height]) => ({
      kind: 'sheet',
      width: width!,
      height: height!,
      spacing: Math.max(width!, height!) / 60,
    }),
    foot: () => 0,
  },
  Box: {
    words: ['box'],
    numbers: 'width × height × depth',
    least: 3,
    shape: ([width, height, depth]) => ({ kind: 'box', width: width!, height: height!, depth: depth! }),
    foot: ([, height]) => height! / 2,
  },
  Ball: {
    words: ['ball'],
    numbers: 'diameter',
    least: 1,
    shape: ([across]) => ({ kind: 'ball', radius: across! / 2, detail: 3 }),
    foot: ([across]) => across! / 2,
  },
  Cylinder: {
    words: ['cylinder', 'post', 'pole'],
    numbers: 'diameter × height',
    least: 2,
    shape: ([across, height]) => ({
      kind: 'cylinder',
      radius: across! / 2,
      height: height!,
      segments: SEGMENTS.cylinder,
    }),
    foot: ([, height]) => height! / 2,
  },
  Capsule: {
    words: ['capsule'],
    numbers: 'diameter × height',
    least: 2,
    shape: ([across, height]) => ({
      kind: 'capsule',
      radius: across! / 2,
      height: height!,
      segments: SEGMENTS.capsule,
    }),
    foot: ([, height]) => height! / 2,
  },
  Cone: {
    words: ['cone'],
    numbers: 'diameter × height',
    least: 2,
    shape: ([across, height]) => ({
      kind: 'cone',
      radius: across! / 2,
      topRadius: 0,
      height: height!,
      segments: SEGMENTS.cone,
    }),
    foot: ([, height]) => height! / 2,
  },
  Tube: {
    words: ['tube', 'pipe'],
    numbers: 'diameter × height × wall',
    least: 3,
    shape: ([across, height, wall]) => ({
      ...{ kind: 'tube', radius: across! / 2, wall: wall!, height: height!, segments: SEGMENTS.tube },
    }),
    foot: ([, height]) => height! / 2,
  },
  Ring: {
    words: ['ring'],
    numbers: 'diameter × thickness',
    least: 2,
    shape: ([across, thick]) => ({
      ...{ kind: 'ring', radius: (across! - thick!) / 2, tubeRadius: thick! / 2, segments: SEGMENTS.ring },
    }),
    foot: ([, thick]) => thick! / 2,
  },
  Knot: {
    words: ['knot'],
    numbers: 'diameter × thickness',
    least: 2,
    shape: ([across, thick]) => ({
      ...{ kind: 'knot', radius: across! / 2 / 1.45, tubeRadius: thick! / 2, windings: 3, segments: SEGMENTS.knot },
    }),
    foot: ([across, thick]) => (across! / 2 / 1.45) * 0.45 + thick! / 2,
  },
  Ground: { words: ['ground'], numbers: '', least: 0, shape: () => ({ kind: 'ground' }), foot: () => 0 },
};
