import { topology } from '../../mesh/topology';
import type { Thing } from '../schema';
import { shapeMesh } from './index';
import type { Assets } from './shapeKind';

/** Whether the surface of a thing has a border that cloth can be sewn to; the ground, which goes on for ever, has none. */
export function hasBorder(thing: Thing, assets: Assets): boolean {
  if (!('shape' in thing) || thing.shape.kind === 'ground') return false;
  if (thing.shape.kind === 'mesh' && !assets.has(thing.shape.asset)) return false;
  return topology(shapeMesh(thing.shape, assets)).borderEdges > 0;
}
