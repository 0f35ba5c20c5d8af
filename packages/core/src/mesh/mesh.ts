/** An indexed triangle mesh on flat arrays. */
export interface Mesh {
  /** x y z of each point in metres. */
  readonly positions: Float32Array;
  /** Three point indices a triangle, counter-clockwise seen from outside. */
  readonly triangles: Uint32Array;
  /** u v of each point in metres of flat fabric, u along the warp; only on meshes that have been cut flat. */
  readonly material?: Float32Array;
  /** Material coordinates of each corner of each triangle instead, where a point lies at several places of the fabric: along a closed seam. */
  readonly cornerMaterial?: Float32Array;
  /** Per point the first of all points that it is sewn to, itself where to none; only where something is sewn. */
  readonly sewn?: Uint32Array;
  /** Edges that are folded at rest though the cloth is cut flat; only where some are. */
  readonly folds?: Folds;
  /** The flat pieces that it is cut from, as rows of points. */
  readonly parts?: readonly MeshPart[];
  /** How the points move, on meshes that were imported with animation. */
  readonly motion?: Motion;
}

/** Edges that are folded at rest, two points an edge, and by how much in radians: above 0 with the face of the cloth inwards. */
export interface Folds {
  readonly edges: Uint32Array;
  readonly angles: Float32Array;
}

/** A flat piece of a mesh. */
export interface MeshPart {
  readonly id: string;
  readonly first: number;
  readonly count: number;
  /** Where the corner of the box around it lies in material coordinates, in m. */
  readonly corner: readonly [u: number, v: number];
}

/**
 * Imported animation: each point is carried by up to four bones, after its morph targets are added. A node that moves as a whole
 * is a bone with the full weight of its points.
 */
export interface Motion {
  /** x y z of each point in the axes that the bones' matrices take; not always metres. */
  readonly bind: Float32Array;
  /** Four bones a point, and their weights, which sum to 1. */
  readonly joints: Uint16Array;
  readonly weights: Float32Array;
  readonly bones: number;
  /** Morph targets: x y z of each point to add to `bind`. */
  readonly targets: readonly Float32Array[];
  readonly clips: readonly Clip[];
}

export interface Clip {
  readonly name: string;
  /** Samples a second; the clip lasts (samples - 1) / rate seconds. */
  readonly rate: number;
  readonly samples: number;
  /** Per sample and bone 12 numbers, three rows of four: from `bind` to metres in the mesh's axes. */
  readonly matrices: Float32Array;
  /** Per sample a weight for each morph target. */
  readonly targetWeights: Float32Array;
}

export function pointCount(mesh: Mesh): number {
  return mesh.positions.length / 3;
}

export function triangleCount(mesh: Mesh): number {
  return mesh.triangles.length / 3;
}

/** A message for the artist when the mesh cannot be used, else undefined. */
export function meshProblem(mesh: Mesh): string | undefined {
  const count = pointCount(mesh);
  if (count === 0) return 'it has no points';
  if (mesh.triangles.length === 0) return 'it has no faces';
  for (let i = 0; i < mesh.positions.length; i++) {
    if (!Number.isFinite(mesh.positions[i]))
      return `point ${Math.floor(i / 3) + 1} has a coordinate that is not a number`;
  }
  for (let i = 0; i < mesh.triangles.length; i++) {
    if (mesh.triangles[i]! >= count)
      return `face ${Math.floor(i / 3) + 1} names point ${mesh.triangles[i]! + 1} of ${count}`;
  }
  return undefined;
}
