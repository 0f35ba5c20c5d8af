import { edgeRow, isDiagonal, pointsOfEdges, pointsOfFaces, topology, type Mesh } from '@lumbra/core';
import type { Takes } from '../../stores/selection';
import type { Picking } from '../picking';
import type { CanvasPlace } from '../viewPart';

// Which points of a cloth a tool takes: single ones, or those of whole edges or faces.

/** A click takes the point or edge within so many CSS pixels. */
const REACH = 14;

/** A cloth as it is shown: its mesh, and where its points are in m. */
export interface ShownCloth {
  id: string;
  mesh: Mesh;
  positions: Float32Array;
}

/** The points under a place of the canvas; none where there are none. `hidden`: also behind something. */
export function pointsAt(
  picking: Picking,
  { id, mesh, positions }: ShownCloth,
  takes: Takes,
  at: CanvasPlace,
  hidden: boolean,
): number[] {
  if (takes === 'points') return [picking.nearestPoint(id, at.x, at.y, REACH, hidden)].filter((point) => point >= 0);
  if (takes === 'edges') {
    const edge = picking.nearestEdge(positions, topology(mesh).edgePoints, at, REACH, hidden);
    return edge < 0 ? [] : pointsOfEdges(mesh, [edge]);
  }
  // What is in front of the cloth is in the way.
  if (!hidden && !picking.placeOnCloth(id, at.x, at.y)) return [];
  const face = picking.faceAt({ positions, triangles: mesh.triangles }, at.x, at.y);
  return face < 0 ? [] : pointsOfFaces(mesh, [face]);
}

/** The points of all whose place, or middle, on the canvas a test holds for. */
export function pointsInside(
  picking: Picking,
  { id, mesh, positions }: ShownCloth,
  takes: Takes,
  test: (x: number, y: number) => boolean,
  hidden: boolean,
): number[] {
  if (takes === 'points') return picking.pointsWhere(id, test, hidden);
  if (takes === 'edges')
    return pointsOfEdges(mesh, picking.edgesWhere(positions, topology(mesh).edgePoints, test, hidden));
  return pointsOfFaces(mesh, picking.facesWhere({ positions, triangles: mesh.triangles }, test, hidden, true));
}

/** The points of the row that goes straight on from the edge under a place of the canvas; one that only cuts a four-sided face in two begins none. */
export function rowAt(picking: Picking, { mesh, positions }: ShownCloth, at: CanvasPlace, hidden: boolean): number[] {
  const { edgePoints } = topology(mesh);
  const edge = picking.nearestEdge(positions, edgePoints, at, REACH, hidden, (one) => !isDiagonal(mesh, one));
  return edge < 0 ? [] : pointsOfEdges(mesh, edgeRow(mesh, edge));
}
