import { z } from 'zod';
import { quantity } from '../quantity/quantity';
import { id } from './ids';
import { ball } from '../mesh/shapes/ball';
import { box } from '../mesh/shapes/box';
import { capsule } from '../mesh/shapes/capsule';
import { cone } from '../mesh/shapes/cone';
import { cylinder } from '../mesh/shapes/cylinder';
import { ground } from '../mesh/shapes/ground';
import { knot } from '../mesh/shapes/knot';
import { ring } from '../mesh/shapes/ring';
import { sheet } from '../mesh/shapes/sheet';
import { tube } from '../mesh/shapes/tube';
import type { Mesh } from '../mesh/mesh';

// The shapes that a thing can have. To add one: a schema here, its builder in mesh/shapes, a line in SHAPES.

const length = (label: string, help: string, value: number) =>
  quantity({ label, help, unit: 'm', min: 0.001, max: 1000, default: value, step: 0.005 });
const segments = (value: number) =>
  quantity({
    label: 'Points around',
    help: 'More make it rounder; 32 to 64 are plenty.',
    unit: '',
    min: 6,
    max: 256,
    default: value,
    step: 1,
    whole: true,
  });

export const sheetSchema = z
  .strictObject({
    kind: z.literal('sheet'),
    width: length('Width', 'Along the warp.', 1),
    height: length('Height', 'Along the weft.', 1),
    spacing: quantity({
      label: 'Spacing',
      help: 'Distance between points. Halving it makes folds twice as fine and costs about ten times the time.',
      unit: 'mm',
      min: 0.001,
      max: 1,
      default: 0.02,
      step: 'ratio',
    }),
  })
  .superRefine((shape, context) => {
    if (shape.spacing > Math.min(shape.width, shape.height)) {
      context.addIssue({ code: 'custom', path: ['spacing'], message: 'the spacing is larger than the sheet' });
    }
    if ((shape.width / shape.spacing) * (shape.height / shape.spacing) > MOST_SHEET_POINTS) {
      context.addIssue({
        code: 'custom',
        path: ['spacing'],
        message: `this spacing would make more than ${MOST_SHEET_POINTS} points`,
      });
    }
  });

/** A sheet finer than this is refused: it would need hours a frame and most of a machine's memory. */
export const MOST_SHEET_POINTS = 400_000;

export const boxSchema = z.strictObject({
  kind: z.literal('box'),
  width: length('Width', 'Along x.', 1),
  height: length('Height', 'Along y, upwards.', 1),
  depth: length('Depth', 'Along z.', 1),
});

export const ballSchema = z.strictObject({
  kind: z.literal('ball'),
  radius: length('Radius', 'From the centre to the surface.', 0.5),
  detail: quantity({
    label: 'Detail',
    help: 'How finely its surface is drawn; the run always uses the exact ball.',
    unit: '',
    min: 0,
    max: 6,
    default: 3,
    step: 1,
    whole: true,
  }),
});

export const cylinderSchema = z.strictObject({
  kind: z.literal('cylinder'),
  radius: length('Radius', 'From the axis to the surface.', 0.1),
  height: length('Height', 'Along its axis.', 1),
  segments: segments(32),
});

export const ringSchema = z.strictObject({
  kind: z.literal('ring'),
  radius: length('Radius', 'From the centre to the middle of the tube.', 0.3),
  tubeRadius: length('Thickness', 'Radius of the tube.', 0.05),
  segments: segments(48),
});

export const capsuleSchema = z
  .strictObject({
    kind: z.literal('capsule'),
    radius: length('Radius', 'Of the body and of its round ends.', 0.1),
    height: length('Height', 'From end to end, round ends included.', 1),
    segments: segments(32),
  })
  .superRefine(({ radius, height }, context) => {
    if (height < 2 * radius) {
      context.addIssue({ code: 'custom', path: ['height'], message: 'the height is less than its round ends need' });
    }
  });

export const coneSchema = z.strictObject({
  kind: z.literal('cone'),
  radius: length('Radius', 'At its foot.', 0.25),
  topRadius: quantity({
    label: 'Top radius',
    help: 'At its top; 0 ends in a point.',
    unit: 'm',
    min: 0,
    max: 1000,
    default: 0,
    step: 0.005,
  }),
  height: length('Height', 'From foot to top.', 0.5),
  segments: segments(40),
});

export const tubeSchema = z
  .strictObject({
    kind: z.literal('tube'),
    radius: length('Radius', 'From the axis to the outside.', 0.2),
    wall: length('Wall', 'Thickness of the wall.', 0.02),
    height: length('Height', 'Along its axis.', 0.5),
    segments: segments(48),
  })
  .superRefine(({ radius, wall }, context) => {
    if (wall >= radius) {
      context.addIssue({ code: 'custom', path: ['wall'], message: 'the wall is as thick as the tube' });
    }
  });

export const knotShapeSchema = z
  .strictObject({
    kind: z.literal('knot'),
    radius: length('Radius', 'From the centre to the middle of the knot.', 0.3),
    tubeRadius: length('Thickness', 'Radius of the rope.', 0.05),
    windings: quantity({
      label: 'Windings',
      help: 'How often the rope winds around while it goes around twice; odd numbers make one rope.',
      unit: '',
      min: 3,
      max: 15,
      default: 3,
      step: 2,
      whole: true,
    }),
    segments: quantity({
      label: 'Points along',
      help: 'More make it rounder; 128 to 256 are plenty.',
      unit: '',
      min: 32,
      max: 1024,
      default: 160,
      step: 8,
      whole: true,
    }),
  })
  .superRefine(({ windings }, context) => {
    if (windings % 2 === 0) {
      context.addIssue({ code: 'custom', path: ['windings'], message: 'the windings must be an odd number' });
    }
  });

export const groundSchema = z.strictObject({ kind: z.literal('ground') });

/** A mesh that was read from a file and is kept as an asset of the shot. */
export const meshShapeSchema = z.strictObject({
  kind: z.literal('mesh'),
  asset: id.describe('Id of the asset that holds the mesh.'),
});

export const shapeSchema = z.discriminatedUnion('kind', [
  sheetSchema,
  boxSchema,
  ballSchema,
  cylinderSchema,
  capsuleSchema,
  coneSchema,
  ringSchema,
  knotShapeSchema,
  tubeSchema,
  groundSchema,
  meshShapeSchema,
]);

export type Shape = z.infer<typeof shapeSchema>;
export type ShapeKind = Shape['kind'];
export type SheetShape = z.infer<typeof sheetSchema>;

/** Meshes by asset id. */
export type Assets = ReadonlyMap<string, Mesh>;

/** A thing's shape names an asset that is not in the shot. */
export class MissingAssetError extends Error {
  constructor(readonly asset: string) {
    super(`The mesh “${asset}” is not in this shot. Import it again, or delete the thing that uses it.`);
  }
}

/** How each kind of shape is called, which schema declares its numbers, and how its mesh is made. */
export const SHAPES: {
  [K in ShapeKind]: {
    label: string;
    schema: z.ZodObject;
    mesh: (shape: Extract<Shape, { kind: K }>, assets: Assets) => Mesh;
  };
} = {
  sheet: { label: 'Sheet', schema: sheetSchema, mesh: (shape) => sheet(shape) },
  box: {
    label: 'Box',
    schema: boxSchema,
    mesh: ({ width, height, depth }) => box({ size: [width, height, depth] }),
  },
  ball: { label: 'Ball', schema: ballSchema, mesh: (shape) => ball(shape) },
  cylinder: { label: 'Cylinder', schema: cylinderSchema, mesh: (shape) => cylinder(shape) },
  ring: { label: 'Ring', schema: ringSchema, mesh: (shape) => ring(shape) },
  capsule: { label: 'Capsule', schema: capsuleSchema, mesh: (shape) => capsule(shape) },
  cone: { label: 'Cone', schema: coneSchema, mesh: (shape) => cone(shape) },
  knot: { label: 'Knot', schema: knotShapeSchema, mesh: (shape) => knot(shape) },
  tube: { label: 'Tube', schema: tubeSchema, mesh: (shape) => tube(shape) },
  ground: { label: 'Ground', schema: groundSchema, mesh: () => ground() },
  mesh: {
    label: 'Mesh',
    schema: meshShapeSchema,
    mesh: ({ asset }, assets) => {
      const mesh = assets.get(asset);
      if (!mesh) throw new MissingAssetError(asset);
      return mesh;
    },
  },
};

/** Meshes that were made, by the shape that asked: documents are never changed in place, so a shape keeps its mesh. */
const made = new WeakMap<Shape, Mesh>();

/** The mesh of a shape around its own origin. Not to be written to: the same shape gives the same mesh. */
export function shapeMesh(shape: Shape, assets: Assets): Mesh {
  if (shape.kind === 'mesh') return SHAPES.mesh.mesh(shape, assets);
  const known = Object.isFrozen(shape) ? made.get(shape) : undefined;
  if (known) return known;
  const mesh = buildShape(shape, assets);
  // Only frozen shapes are sure to stay as they are; all that come from `edit` are frozen.
  if (Object.isFrozen(shape)) made.set(shape, mesh);
  return mesh;
}

function buildShape(shape: Shape, assets: Assets): Mesh {
  const entry = SHAPES[shape.kind] as { mesh: (shape: Shape, assets: Assets) => Mesh };
  return entry.mesh(shape, assets);
}
