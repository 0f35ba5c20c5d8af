import type { Mesh } from './mesh';
import { signedVolume } from './volume';
import { topology, type Topology } from './topology';

export interface Oriented {
  mesh: Mesh;
  /** Faces that were turned around. */
  turned: number;
}

/**
 * Makes neighbouring faces look to the same side, piece by piece, and closed pieces look outwards. Of an open piece the side of
 * most of its faces wins, and where they are as many, as of two equal pieces of cloth that were sewn together but for a mouth, outwards from their middle.
 */
export function orient(mesh: Mesh, known?: Topology): Oriented {
  const t = known ?? topology(mesh);
  const faceCount = mesh.triangles.length / 3;
  const flip = new Uint8Array(faceCount);
  const seen = new Uint8Array(faceCount);
  const triangles = mesh.triangles.slice();
  let turned = 0;
  for (let first = 0; first < faceCount; first++) {
    if (seen[first]) continue;
    const piece = [first];
    seen[first] = 1;
    let open = false;
    for (let n = 0; n < piece.length; n++) {
      const face = piece[n]!;
      for (let corner = 0; corner < 3; corner++) {
        const edge = t.faceEdges[face * 3 + corner]!;
        const [a, b] = [t.edgeFaces[edge * 2]!, t.edgeFaces[edge * 2 + 1]!];
        // A third face on an edge is not linked: it is oriented from its other edges.
        if (b < 0) open = true;
        if (b < 0 || (face !== a && face !== b)) continue;
        const other = face === a ? b : a;
        if (seen[other]) continue;
        seen[other] = 1;
        const disagree = runsAlong(mesh, a, edge, t) === runsAlong(mesh, b, edge, t);
        flip[other] = disagree ? 1 - flip[face]! : flip[face]!;
        piece.push(other);
      }
    }
    const flipped = piece.reduce((sum, face) => sum + flip[face]!, 0);
    let turnAll = flipped * 2 > piece.length;
    if (!open || flipped * 2 === piece.length) {
      const trial = new Uint32Array(piece.length * 3);
      piece.forEach((face, i) => trial.set(cornersOf(mesh.triangles, face, flip[face] === 1), i * 3));
      turnAll = (open ? volumeFromMiddle(mesh.positions, trial) : signedVolume({ ...mesh, triangles: trial })) < 0;
    }
    for (const face of piece) {
      if ((flip[face] === 1) === turnAll) continue;
      triangles.set(cornersOf(mesh.triangles, face, true), face * 3);
      turned++;
    }
  }
  return { mesh: turned > 0 ? { ...mesh, triangles } : mesh, turned };
}

/** Flatter than this, as a share of the cube of its reach, an open piece has no outside: rounding would choose one. */
const FLAT = 1e-4;

/** Signed volume in m^3 between an open piece and the middle of its corners; 0 where it is flat. */
function volumeFromMiddle(positions: Float32Array, triangles: Uint32Array): number {
  const middle = [0, 0, 0];
  for (const point of triangles) for (let k = 0; k < 3; k++) middle[k]! += positions[point * 3 + k]! / triangles.length;
  const seen = positions.map((value, i) => value - middle[i % 3]!);
  let reach = 0;
  for (const point of triangles) for (let k = 0; k < 3; k++) reach = Math.max(reach, Math.abs(seen[point * 3 + k]!));
  const volume = signedVolume({ positions: seen, triangles });
  return Math.abs(volume) < FLAT * reach * reach * reach ? 0 : volume;
}

function cornersOf(triangles: Uint32Array, face: number, turned: boolean): [number, number, number] {
  const [a, b, c] = [triangles[face * 3]!, triangles[face * 3 + 1]!, triangles[face * 3 + 2]!];
  return turned ? [a, c, b] : [a, b, c];
}

/** Whether a face runs along an edge in the edge's own direction. */
function runsAlong({ triangles }: Mesh, face: number, edge: number, t: Topology): boolean {
  const [from, to] = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!];
  for (let corner = 0; corner < 3; corner++) {
    if (triangles[face * 3 + corner] === from) return triangles[face * 3 + ((corner + 1) % 3)] === to;
  }
  return false;
}
