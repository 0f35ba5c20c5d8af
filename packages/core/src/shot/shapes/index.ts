import { z } from 'zod';
import { byKind, kindNames, schemasOf } from '../../quantity/kinds';
import type { Mesh } from '../../mesh/mesh';
import { arch } from './arch';
import { ball } from './ball';
import { box } from './box';
import { capsule } from './capsule';
import { cone } from './cone';
import { cylinder } from './cylinder';
import { ground } from './ground';
import { hoop } from './hoop';
import { knot } from './knot';
import { mesh } from './mesh';
import { pattern } from './pattern';
import { ring } from './ring';
import type { Assets, ShapeKind as Declared } from './shapeKind';
import { sheet } from './sheet';
import { tube } from './tube';

export { MissingAssetError } from './mesh';
export { MOST_SHEET_POINTS, type Assets, type ExactBody } from './shapeKind';
export type { SheetShape } from './sheet';
export type { PatternShape } from './pattern';

/** The shapes that a thing can have, in the order in which they are offered. To add one: a file here, and a line in this list. */
const ALL = [sheet, pattern, arch, box, ball, cylinder, capsule, cone, ring, hoop, tube, knot, ground, mesh] as const;

export const shapeSchema = z.discriminatedUnion('kind', schemasOf(ALL));

export type Shape = z.infer<typeof shapeSchema>;
export type ShapeKind = Shape['kind'];

/** What is declared of each kind of shape. */
export const SHAPES = byKind<ShapeKind, Declared<z.ZodObject<{ kind: z.ZodLiteral<string> }>, Shape>>(ALL);

/** In the order in which they are offered. */
export const SHAPE_KINDS = kindNames<ShapeKind>(ALL);

/** Meshes that were made, by the shape that asked: documents are never changed in place, so a shape keeps its mesh. */
const made = new WeakMap<Shape, Mesh>();

/** The mesh of a shape around its own origin. Not to be written to: the same shape gives the same mesh. */
export function shapeMesh(shape: Shape, assets: Assets): Mesh {
  const build = () => SHAPES[shape.kind].mesh(shape, assets);
  // The mesh of an asset is kept there. Only frozen shapes are sure to stay as they are; all that come from `edit` are frozen.
  if (shape.kind === 'mesh' || !Object.isFrozen(shape)) return build();
  const known = made.get(shape) ?? build();
  made.set(shape, known);
  return known;
}
