import * as Star from '@lumbra/kernel/layouts/layers/star';
import { oncePerMesh } from '../../mesh/oncePerMesh';
import { pointCount } from '../../mesh/mesh';
import { topology } from '../../mesh/topology';
import type { KernelMemory } from '../kernelMemory';
import type { LayeredCloth } from './layeredCloth';

/** Whether the faces around each point go once around it, or from border to border (`Star.KIND_...`), a byte a point. */
export const starKinds = oncePerMesh((mesh): Uint8Array => {
  const kinds = new Uint8Array(pointCount(mesh));
  const { edgeCount, edgeFaces, edgePoints, nonManifoldEdges } = topology(mesh);
  // Which edges have a third face is not known.
  if (nonManifoldEdges > 0) return kinds.fill(Star.KIND_OTHER);
  const borders = new Uint32Array(kinds.length);
  for (let edge = 0; edge < edgeCount; edge++) {
    if (edgeFaces[edge * 2 + 1] !== -1) continue;
    for (const end of [0, 1]) borders[edgePoints[edge * 2 + end]!]!++;
  }
  const ofBorders = new Map([
    [0, Star.KIND_INSIDE],
    [2, Star.KIND_BORDER],
  ]);
  return kinds.map((_, point) => ofBorders.get(borders[point]!) ?? Star.KIND_OTHER);
});

/** A star a point of all cloths, of which only the kind is known. Returns their address. */
export function writeStars(memory: KernelMemory, cloths: readonly LayeredCloth[], count: number): number {
  const address = memory.allocate((count + 1) * Star.BYTES);
  const stars = memory.records(address, Star.BYTES, count);
  for (const { rest, firstPoint } of cloths) {
    starKinds(rest).forEach((kind, point) => {
      stars.setInteger(firstPoint + point, Star.KIND, kind);
    });
  }
  return address;
}
