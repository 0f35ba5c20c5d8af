import { pointCount } from './mesh';
import { oncePerMesh } from './oncePerMesh';
import { topology } from './topology';

/** One list a point, one after the other: those of point i are `entries` from `starts[i]` to `starts[i + 1]`. */
export interface PointLists {
  readonly starts: Uint32Array;
  readonly entries: Uint32Array;
}

/** Each point itself, and then its neighbours along edges. */
export const ringsOf = oncePerMesh((mesh): PointLists => {
  const { edgePoints } = topology(mesh);
  const points = pointCount(mesh);
  return listed(points, points + edgePoints.length, (add) => {
    for (let point = 0; point < points; point++) add(point, point);
    for (let i = 0; i < edgePoints.length; i += 2) {
      add(edgePoints[i]!, edgePoints[i + 1]!);
      add(edgePoints[i + 1]!, edgePoints[i]!);
    }
  });
});

/** The faces around each point. */
export const facesAround = oncePerMesh((mesh): PointLists => {
  const { triangles } = mesh;
  return listed(pointCount(mesh), triangles.length, (add) => {
    for (let i = 0; i < triangles.length; i++) add(triangles[i]!, Math.floor(i / 3));
  });
});

/** Lists from what is added to points, in that order: gone through twice, to count and to write. */
function listed(
  points: number,
  total: number,
  each: (add: (point: number, entry: number) => void) => void,
): PointLists {
  const starts = new Uint32Array(points + 1);
  each((point) => starts[point + 1]!++);
  for (let point = 0; point < points; point++) starts[point + 1]! += starts[point]!;
  const next = starts.slice();
  const entries = new Uint32Array(total);
  each((point, entry) => {
    entries[next[point]!] = entry;
    next[point]!++;
  });
  return { starts, entries };
}
