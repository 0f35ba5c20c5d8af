import type { Vector3 } from '../math/vector';
import { bounds, size } from './bounds';
import { faceAreas } from './faceAreas';
import { pointCount, triangleCount, type Mesh } from './mesh';
import { borderLoops, isClosed, topology } from './topology';
import { signedVolume } from './volume';
import { weld } from './weld';

/** What an artist should know of a mesh before using it. */
export interface MeshReport {
  points: number;
  triangles: number;
  /** Along x, y and z, in m. */
  size: Vector3;
  /** Open borders: closed runs of edges with a face on one side only, points in one place taken as one. */
  borders: number;
  /** Edges with more than two faces. */
  nonManifoldEdges: number;
  /** Points that lie exactly where another one lies. */
  duplicatePoints: number;
  /** Edges whose two faces look to different sides. */
  flippedEdges: number;
  /** Closed, but its faces look inwards. */
  insideOut: boolean;
  /** Faces without area. */
  emptyFaces: number;
}

/** Looks a mesh over. Borders and edges are those of its surface: files split points for shading, which opens nothing. */
export function inspectMesh(mesh: Mesh): MeshReport {
  const box = bounds(mesh.positions);
  const joined = weld(mesh, { tolerance: 0 });
  const t = topology(joined.mesh);
  const areas = faceAreas(mesh);
  return {
    points: pointCount(mesh),
    triangles: triangleCount(mesh),
    size: box ? size(box) : [0, 0, 0],
    borders: borderLoops(t).length,
    nonManifoldEdges: t.nonManifoldEdges,
    duplicatePoints: pointCount(mesh) - pointCount(joined.mesh),
    flippedEdges: t.flippedEdges,
    insideOut: isClosed(t) && signedVolume(joined.mesh) < 0,
    emptyFaces: areas.reduce((sum, area) => sum + (area > 1e-14 ? 0 : 1), 0),
  };
}
