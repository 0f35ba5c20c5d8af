import { closeBorders } from './closeBorders';
import { drawIn } from './drawIn';
import { keepPoints } from './keepPoints';
import { pointCount, type Mesh } from './mesh';
import { refine } from './refine';
import { topology } from './topology';

/** A mesh in two. */
export interface SplitMesh {
  /** What was split off. */
  piece: Mesh;
  /** Its points on the line where it was, in order: those that stay with what remains. */
  border: number[];
  /** What remains; null where that is nothing. */
  rest: Mesh | null;
}

/**
 * Splits faces off a mesh, with the animation of their points.
 *
 * @param divided how often each face of what is split off is divided into four
 * @param closed whether what remains is closed where it was cut open; borders that it had before stay
 * @param room how far, in m, what remains is drawn in along the cut, under what was split off: contact keeps layers apart
 */
export function splitOff(
  mesh: Mesh,
  faces: readonly number[],
  { divided = 0, closed = true, room = 0 } = {},
): SplitMesh {
  const chosen = new Set(faces);
  const t = topology(mesh);
  const all = Array.from({ length: mesh.triangles.length / 3 }, (_, face) => face);
  const own = facesOf(mesh, faces);
  const left = all.filter((face) => !chosen.has(face));
  // An edge is cut where one of its faces goes and the other stays.
  const [cut, cutAll] = [new Set<number>(), new Set<number>()];
  for (let edge = 0; edge < t.edgeCount; edge++) {
    const [one, other] = [t.edgeFaces[edge * 2]!, t.edgeFaces[edge * 2 + 1]!];
    if (other >= 0 && chosen.has(one) !== chosen.has(other)) {
      for (const end of [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!]) {
        cut.add(own.pointOf[end]!);
        cutAll.add(end);
      }
    }
  }
  const piece = refine(own.mesh, divided);
  const around = room > 0 ? drawIn(mesh, [...cutAll], room) : mesh;
  const rest = left.length > 0 ? facesOf(around, left) : null;
  return {
    piece,
    border: borderOf(own.mesh, piece, cut, divided),
    rest: rest && (closed ? closeCut(rest) : rest.mesh),
  };

  function closeCut({ mesh: open, pointOf }: FacesOf): Mesh {
    const before = new Set<number>();
    for (let edge = 0; edge < t.edgeCount; edge++) {
      if (t.edgeFaces[edge * 2 + 1]! >= 0) continue;
      before.add(pointOf[t.edgePoints[edge * 2]!]!);
    }
    return closeBorders(open, (loop) => loop.some((point) => !before.has(point))).mesh;
  }
}

interface FacesOf {
  mesh: Mesh;
  /** Per point of the whole, which one it has become. */
  pointOf: Int32Array;
}

/** Some faces of a mesh, with the points that they use. */
function facesOf(mesh: Mesh, faces: readonly number[]): FacesOf {
  const pointOf = new Int32Array(pointCount(mesh)).fill(-1);
  const kept: number[] = [];
  const triangles = Uint32Array.from(
    faces.flatMap((face) =>
      [0, 1, 2].map((i) => {
        const point = mesh.triangles[face * 3 + i]!;
        if (pointOf[point] === -1) pointOf[point] = kept.push(point) - 1;
        return pointOf[point]!;
      }),
    ),
  );
  return { mesh: keepPoints(mesh, kept, triangles), pointOf };
}

/** The points of a divided piece that lie on its cut edges: the cut points, and the middles between two of them on its border. */
function borderOf(whole: Mesh, piece: Mesh, cut: ReadonlySet<number>, divided: number): number[] {
  let [mesh, found] = [whole, new Set(cut)];
  for (let level = 0; level < divided; level++) {
    const t = topology(mesh);
    const count = pointCount(mesh);
    const more = new Set(found);
    for (let edge = 0; edge < t.edgeCount; edge++) {
      const isBorder = t.edgeFaces[edge * 2 + 1]! < 0;
      const ends = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!];
      if (isBorder && ends.every((end) => found.has(end))) more.add(count + edge);
    }
    [mesh, found] = [level === divided - 1 ? piece : refine(mesh, 1), more];
  }
  return [...found].sort((a, b) => a - b);
}
