import { z } from 'zod';
import type { Mesh } from '../../mesh/mesh';
import { clearNormals } from '../../mesh/clearNormals';
import { openBorders } from '../../mesh/seamEdges';
import { topology } from '../../mesh/topology';
import { quantity } from '../../quantity/quantity';
import { finishStep } from '../finishStep';
import { keptApart } from '../keptApart';
import { pulledBack } from '../pulledBack';

/** On the inside of a fold a surface moves out by no more than this share of what its bend leaves, or it would cross itself. */
const MOST_OF_BEND = 0.9;

const WAYS = ['centred', 'outwards', 'inwards'] as const;

export const thicken = finishStep({
  label: 'Thicken',
  help: 'Gives cloth its thickness: two sides and a rim.',
  masked: true,
  schema: z.strictObject({
    kind: z.literal('thicken'),
    thickness: quantity({
      label: 'Thickness',
      help: 'From side to side. Where layers lie closer, each takes less than half of what is between them.',
      unit: 'mm',
      min: 0.00001,
      max: 0.2,
      default: 0.0015,
      step: 'ratio',
      keyable: true,
    }),
    way: z.enum(WAYS).default('centred').describe('To which side of the simulated surface.'),
    rim: z.boolean().default(true).describe('Whether borders are closed.'),
  }),
  words: { way: 'Way', rim: 'closed at the borders' },
  choices: { way: WAYS },
  build: (mesh, { rim }) => {
    const points = mesh.positions.length / 3;
    const t = topology(mesh);
    const faces = mesh.triangles.length / 3;
    // Along a seam there is no rim: the sides go on.
    const border = rim ? openBorders(t, mesh.sewn) : [];
    const triangles = new Uint32Array((faces * 2 + border.length * 2) * 3);
    triangles.set(mesh.triangles);
    for (let face = 0; face < faces; face++) {
      const [a, b, c] = [0, 1, 2].map((corner) => points + mesh.triangles[face * 3 + corner]!) as [
        number,
        number,
        number,
      ];
      triangles.set([a, c, b], (faces + face) * 3);
    }
    border.forEach((edge, i) => {
      // The outer face runs along a border from a to b, so the rim runs back.
      const [a, b] = [t.edgePoints[edge * 2]!, t.edgePoints[edge * 2 + 1]!];
      triangles.set([b, a, points + a, b, points + a, points + b], (faces * 2 + i * 2) * 3);
    });
    const twice = (values: Float32Array) => {
      const out = new Float32Array(values.length * 2);
      out.set(values);
      out.set(values, values.length);
      return out;
    };
    const made: Mesh = {
      positions: twice(mesh.positions),
      triangles,
      ...(mesh.material && { material: twice(mesh.material) }),
      ...(mesh.sewn && { sewn: Uint32Array.from([...mesh.sewn, ...mesh.sewn.map((point) => point + points)]) }),
    };
    return {
      mesh: made,
      carry: twice,
      place: (positions, { thickness, way }, mask) => {
        const { normals, sharp } = clearNormals({ ...mesh, positions });
        const most = roomOf(positions, normals, t.edgePoints, t.edgeCount);
        const [above, below] = { centred: [0.5, -0.5], outwards: [1, 0], inwards: [0, -1] }[way] as [number, number];
        const sides = [above, below].map((side) => {
          const room = side > 0 ? most.outer : most.inner;
          return normals.map((value, i) => {
            const point = Math.floor(i / 3);
            const far = Math.min(Math.abs(side) * thickness * (mask ? mask[point]! : 1), room[point]!);
            return Math.sign(side) * far * value;
          });
        });
        // Layers that lie on each other share what is between them.
        const shares = keptApart({ positions, triangles: mesh.triangles, sewn: mesh.sewn }, sides);
        const moves = new Float32Array(points * 6);
        sides.forEach((side, n) => {
          for (let i = 0; i < points * 3; i++) moves[n * points * 3 + i] = shares[n]![Math.floor(i / 3)]! * side[i]!;
        });
        // What still crosses lies at sharp folds.
        const looked = new Uint8Array(triangles.length / 3);
        triangles.forEach((point, corner) => {
          if (sharp[point % points]! > 0) looked[Math.floor(corner / 3)] = 1;
        });
        return pulledBack(twice(positions), moves, triangles, looked);
      },
    };
  },
});

/** How far each point can move along its normal, and against it, before neighbours meet: by how their normals lean to each other, in m. */
function roomOf(
  positions: Float32Array,
  normals: Float32Array,
  edgePoints: Uint32Array,
  edgeCount: number,
): { outer: Float64Array; inner: Float64Array } {
  const points = positions.length / 3;
  const outer = new Float64Array(points).fill(Infinity);
  const inner = new Float64Array(points).fill(Infinity);
  for (let edge = 0; edge < edgeCount; edge++) {
    const [a, b] = [edgePoints[edge * 2]! * 3, edgePoints[edge * 2 + 1]! * 3];
    let length = 0;
    let closing = 0;
    for (let axis = 0; axis < 3; axis++) {
      const along = positions[b + axis]! - positions[a + axis]!;
      length += along * along;
      closing += along * (normals[b + axis]! - normals[a + axis]!);
    }
    if (closing === 0) continue;
    // Moved out by d both, the edge is length² + d·closing along itself: negative closing brings them together.
    const room = (MOST_OF_BEND * length) / Math.abs(closing);
    const side = closing < 0 ? outer : inner;
    for (const point of [a / 3, b / 3]) side[point] = Math.min(side[point]!, room);
  }
  return { outer, inner };
}
