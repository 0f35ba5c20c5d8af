import { z } from 'zod';
import { id } from '../shot/ids';
import { lookOnly, quantity } from '../quantity/quantity';

// A cloth as it is cut: flat pieces, each with a place in the stage, and the seams between them. Plain data, metres and radians.

/** How much a pattern may hold: far more than any needs, and few enough to be looked through at every change. */
export const MOST_PIECES = 200;
export const MOST_NODES = 2000;
export const MOST_HOLES = 200;
export const MOST_SEAMS = 1000;
export const MOST_LINES = 500;

/** A fold along a drawn line goes so far: nearly shut, in radians. */
const MOST_FOLD = (170 * Math.PI) / 180;

const flatPlace = z.tuple([z.number().min(-500).max(500), z.number().min(-500).max(500)]);

export const nodeSchema = z.strictObject({
  id,
  at: flatPlace.describe('Along u and v of its piece, in metres.'),
  before: flatPlace.nullable().default(null).describe('The handle by which a curve arrives, from the node.'),
  after: flatPlace.nullable().default(null).describe('The handle by which a curve leaves, from the node.'),
});

/** A rail has so many places at most. */
const MOST_PLACES = 500;
const rail = z
  .array(z.tuple([z.number(), z.number(), z.number()]))
  .min(2)
  .max(MOST_PLACES);

/** A line drawn on a piece, from its first node to its last. */
export const lineSchema = z.strictObject({
  id,
  nodes: z.array(nodeSchema).min(2).max(MOST_NODES),
  kind: z
    .enum(['crease', 'slit'])
    .default('crease')
    .describe('Edges of the mesh run along a crease; a slit is cut open.'),
  fold: quantity({
    label: 'Fold',
    help: 'By how much the cloth is folded along the line of itself: above 0 with its face inwards, below 0 outwards.',
    unit: '°',
    min: -MOST_FOLD,
    max: MOST_FOLD,
    default: 0,
    step: Math.PI / 36,
  }),
});

/** Folds that lie in a row along a side of a piece. */
export const pleatsSchema = z.strictObject({
  side: id.describe(
    'Id of the node at which the side of the outline begins along which they lie; they run across the piece from it.',
  ),
  to: id
    .optional()
    .describe('Id of the node at which that side ends, further along the outline; the next one where it is left out.'),
  kind: z
    .enum(['knife', 'box', 'rolled'])
    .default('knife')
    .describe('Folded one way, folded to either side of a panel, or round without creases.'),
  count: quantity({
    label: 'Pleats',
    help: 'How many lie along the side.',
    unit: '',
    min: 1,
    max: 200,
    default: 8,
    step: 1,
    whole: true,
  }),
  depth: quantity({
    label: 'Depth',
    help: 'How far the cloth goes back in each fold; of rolled ones how far they stand out.',
    unit: 'cm',
    min: 0.001,
    max: 10,
    default: 0.03,
    step: 0.001,
  }),
  room: quantity({
    label: 'Room',
    help: 'Between the layers of a fold where a run begins.',
    unit: 'mm',
    min: 0.0005,
    max: 0.1,
    default: 0.004,
    step: 0.0005,
  }),
  pressed: quantity({
    label: 'Pressed',
    help: 'How much of each fold stays of itself: 0 % opens as it likes, 100 % stays as it is laid.',
    unit: '%',
    min: 0,
    max: 1,
    default: 1,
    step: 0.01,
  }),
});

export const pieceSchema = z.strictObject({
  id,
  name: lookOnly(z.string().min(1).max(120)),
  outline: z.array(nodeSchema).min(2).max(MOST_NODES),
  holes: z.array(z.array(nodeSchema).min(2).max(MOST_NODES)).max(MOST_HOLES).default([]),
  lines: z.array(lineSchema).max(MOST_LINES).default([]),
  pleats: pleatsSchema.nullable().default(null),
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
    .enum(['flat', 'round upright', 'round level', 'between rails'])
    .default('flat')
    .describe(
      'Flat; laid round an axis behind it, upright like a skirt or level like a hood; or along its rails, which are flat where it has none.',
    ),
  rails: z
    .tuple([rail, rail])
    .optional()
    .describe(
      'Left and right rail between which it is laid, as many places each, in m about the place of the piece: the strip between them, unrolled about its middle, is the plane of the piece.',
    ),
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

/** Patterns that are as they were before version 4 are meshed as they were then, for points of them are named in holds, masks and takes. */
export const mesherSchema = z
  .literal('first')
  .describe('How pieces were meshed before version 4, by which holds and masks name points; new cloth leaves it out.');

export type Mesher = z.infer<typeof mesherSchema>;
export type PatternNode = z.infer<typeof nodeSchema>;
export type PatternLine = z.infer<typeof lineSchema>;
export type Pleats = z.infer<typeof pleatsSchema>;
export type Piece = z.infer<typeof pieceSchema>;
export type Stretch = z.infer<typeof stretchSchema>;
export type Seam = z.infer<typeof seamSchema>;

/** What pieces are cut and sewn from: part of the shape of a cloth. */
export interface Pattern {
  spacing: number;
  weave: 'all directions' | 'along the grain';
  pieces: readonly Piece[];
  seams: readonly Seam[];
  mesher?: Mesher | undefined;
}
