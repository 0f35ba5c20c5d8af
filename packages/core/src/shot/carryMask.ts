import { pointCount, type Mesh, type MeshPart } from '../mesh/mesh';
import { boxTree } from '../mesh/boxTree';
import { fabricPlaces } from '../mesh/fabricPlaces';
import { nearestPlace } from '../mesh/nearestPlace';

/**
 * The values of a mask on another mesh of the same fabric, by material coordinates: both are laid flat, at the same size, and each
 * new point takes what the old faces have at its place. Pieces of a pattern keep theirs, at the size that they have. Meshes without material coordinates keep what they have point by point.
 */
export function carryMask(from: Mesh, to: Mesh, values: Uint8Array): Uint8Array {
  const carried = new Uint8Array(pointCount(to));
  if (from.parts && to.parts) {
    for (const part of to.parts) {
      const other = from.parts.find(({ id }) => id === part.id);
      if (other)
        carried.set(carryOne(pieceOf(from, other), pieceOf(to, part), values.subarray(other.first)), part.first);
    }
    return carried;
  }
  // Cut as a pattern, a sheet lies where it lay.
  if (from.parts || to.parts) return carryOne(from, to, values);
  return carryOne(flattened(from), flattened(to), values, carried);
}

/** A piece laid flat, from the corner of the box around it, in m; its points counted from its first. */
function pieceOf(mesh: Mesh, { first, count, corner }: MeshPart): Mesh {
  const positions = new Float32Array(count * 3);
  for (let point = 0; point < count; point++) {
    positions[point * 3] = mesh.material![(first + point) * 2]! - corner[0];
    positions[point * 3 + 1] = mesh.material![(first + point) * 2 + 1]! - corner[1];
  }
  const own = mesh.triangles.filter((_, i) => {
    const point = mesh.triangles[i - (i % 3)]!;
    return point >= first && point < first + count;
  });
  return { positions, triangles: own.map((point) => point - first) };
}

/** What each point of a flat mesh finds on another at its place. */
function carryOne(
  flat: Mesh | null,
  place: Mesh | null,
  values: Uint8Array,
  carried = new Uint8Array(place ? pointCount(place) : 0),
): Uint8Array {
  if (!flat || !place) {
    carried.set(values.subarray(0, carried.length));
    return carried;
  }
  const tree = boxTree(flat);
  for (let point = 0; point < carried.length; point++) {
    const at = place.positions;
    const found = nearestPlace(flat, tree, [at[point * 3]!, at[point * 3 + 1]!, at[point * 3 + 2]!]);
    if (!found) continue;
    const value = found.weights.reduce(
      (sum, weight, corner) => sum + weight * (values[flat.triangles[found.face * 3 + corner]!] ?? 0),
      0,
    );
    carried[point] = Math.round(value);
  }
  return carried;
}

/** The mesh laid flat in its material coordinates, one by one large. */
function flattened(mesh: Mesh): Mesh | null {
  if (!mesh.material) return null;
  const { places, width, height } = fabricPlaces(mesh);
  const positions = new Float32Array((places.length / 2) * 3);
  for (let point = 0; point < places.length / 2; point++) {
    positions[point * 3] = places[point * 2]! / (width || 1);
    positions[point * 3 + 1] = places[point * 2 + 1]! / (height || 1);
  }
  return { positions, triangles: mesh.triangles };
}
