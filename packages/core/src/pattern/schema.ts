import { z } from 'zod';
import { id } from '../shot/ids';
import { lookOnly, quantity } from '../quantity/quantity';

// A cloth as it is cut: flat pieces, each with a place in the stage, and the seams between them. Plain data, metres and radians.

/** How much a pattern may hold: far more than any needs, and few enough to be looked through at every change. */
export const MOST_PIECES = 200;
export const MOST_NODES = 2000;
export const MOST_HOLES = 200;
export const MOST_SEAMS = 1000;

const flatPlace = z.tuple([z.number().min(-500).max(500), z.number().min(-500).max(500)]);

export const nodeSchema = z.strictObject({
  id,
  at: flatPlace.describe('Along u and v of its piece, in metres.'),
  before: flatPlace.nullable().default(null).describe('The handle by which a curve arrives, from the node.'),
  after: flatPlace.nullable().default(null).describe('The handle by which a curve leaves, from the node.'),
});

export const pieceSchema = z.strictObject({
  id,
  name: lookOnly(z.string().min(1).max(120)),
  outline: z.array(nodeSchema).min(2).max(MOST_NODES),
  holes: z.array(z.array(nodeSchema).min(2).max(MOST_NODES)).max(MOST_HOLES).default([]),
  grain: quantity({
    label: 'Grain',
    help: 'Direction of the warp on the piece: 0° along u, 90° along v.',
    unit: '°',
    min: -Math.PI,
    max: Math.PI,
    default: Math.PI / 2,
    step: Math.PI / 180,
  }),
  position: z
    .tuple([z.number(), z.number(), z.number()])
    .default([0, 0, 0])
    .describe('In the axes of the cloth, in m.'),
  rotation: z
    .tuple([z.number(), z.number(), z.number()])
    .default([0, 0, 0])
    .describe('Radians about x, then y, then z.'),
  lies: z
    .enum(['flat', 'round upright', 'round level'])
    .default('flat')
    .describe('Flat, or laid round an axis behind it: upright like a skirt, level like a hood.'),
  radius: quantity({
    label: 'Radius',
    help: 'Of what the piece is laid round. Below 0 it hollows towards you.',
    unit: 'cm',
    min: -100,
    max: 100,
    default: 0.25,
    step: 0.005,
  }),
});

export const stretchSchema = z.strictObject({
  piece: id,
  from: id.describe('Id of the node at which it begins.'),
  to: id.describe('Id of the node at which it ends, further along the same border; the same node for all of it.'),
});

export const seamSchema = z.strictObject({
  id,
  a: stretchSchema,
  b: stretchSchema,
  turned: z
    .boolean()
    .default(false)
    .describe(
      'Whether both begin together; else the beginning of one is sewn to the end of the other, as pieces face each other.',
    ),
});

export type PatternNode = z.infer<typeof nodeSchema>;
export type Piece = z.infer<typeof pieceSchema>;
export type Stretch = z.infer<typeof stretchSchema>;
export type Seam = z.infer<typeof seamSchema>;

/** What pieces are cut and sewn from: part of the shape of a cloth. */
export interface Pattern {
  spacing: number;
  weave: 'all directions' | 'along the grain';
  pieces: readonly Piece[];
  seams: readonly Seam[];
}
