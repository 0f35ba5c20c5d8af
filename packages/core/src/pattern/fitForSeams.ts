/** Each turned edge may make another one that has to be turned. */
const MOST_ROUNDS = 6;

/**
 * Triangles of pieces that stay a surface when seams are closed: no face has two corners that become one, as at the point of a cone, and no edge comes
 * to lie on an edge of another piece, as across the corner of a bag. Such inner edges are turned to the far corners of their two faces.
 *
 * @param sewn per point the first of those that it is sewn to
 * @param material u v of each point
 */
export function fitForSeams(triangles: Uint32Array, sewn: Uint32Array, material: Float32Array): Uint32Array {
  const fitted = triangles.slice();
  const many = new Uint8Array(sewn.length);
  sewn.forEach((first, point) => {
    if (first !== point) many[first] = many[point] = 1;
  });
  const isSewn = (point: number) => many[point] === 1;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const facesOf = new Map<string, number[]>();
    const uses = new Map<string, number>();
    for (let t = 0; t < fitted.length; t += 3) {
      for (let i = 0; i < 3; i++) {
        const [a, b] = [fitted[t + i]!, fitted[t + ((i + 1) % 3)]!];
        if (!isSewn(a) || !isSewn(b)) continue;
        const own = keyOf(a, b);
        facesOf.set(own, [...(facesOf.get(own) ?? []), t]);
        const closed = keyOf(sewn[a]!, sewn[b]!);
        uses.set(closed, (uses.get(closed) ?? 0) + 1);
      }
    }
    let turned = false;
    for (const [key, faces] of facesOf) {
      const [a, b] = key.split(' ').map(Number) as [number, number];
      const closed = keyOf(sewn[a]!, sewn[b]!);
      if (faces.length !== 2 || (sewn[a] !== sewn[b] && uses.get(closed)! <= 2)) continue;
      if (!turn(fitted, faces[0]!, faces[1]!, a, b, material)) continue;
      uses.set(closed, uses.get(closed)! - 2);
      turned = true;
    }
    if (!turned) break;
  }
  return fitted;
}

function keyOf(a: number, b: number): string {
  return a < b ? `${a} ${b}` : `${b} ${a}`;
}

/** Turns the edge a b of two faces to their far corners; false where they are not convex together, or have been turned already. */
function turn(
  triangles: Uint32Array,
  one: number,
  other: number,
  a: number,
  b: number,
  material: Float32Array,
): boolean {
  const corners = (face: number) => [triangles[face]!, triangles[face + 1]!, triangles[face + 2]!];
  const far = (face: number) => corners(face).find((point) => point !== a && point !== b)!;
  if (![one, other].every((face) => corners(face).includes(a) && corners(face).includes(b))) return false;
  const [c, d] = [far(one), far(other)];
  const side = (p: number, q: number, r: number) =>
    (material[q * 2]! - material[p * 2]!) * (material[r * 2 + 1]! - material[p * 2 + 1]!) -
    (material[q * 2 + 1]! - material[p * 2 + 1]!) * (material[r * 2]! - material[p * 2]!);
  if (!(side(c, d, a) * side(c, d, b) < 0)) return false;
  const own = corners(one);
  // As the first face runs along the edge, so do the new ones around it.
  const [from, to] = own[(own.indexOf(a) + 1) % 3] === b ? [a, b] : [b, a];
  triangles.set([c, from, d], one);
  triangles.set([d, to, c], other);
  return true;
}
