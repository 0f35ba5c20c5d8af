import { cross, dot, type Vector3 } from '../math/vector';
import { treeOf } from '../mesh/boxTree';
import { facesInBox } from '../mesh/facesInBox';
import type { Mesh } from '../mesh/mesh';
import { pairsOfSeams } from '../pattern/seamLines';
import { placedMesh, startPositions } from '../run/compile';
import type { Shot, Thing } from '../shot/schema';
import { shapeMesh, type Assets } from '../shot/shapes';
import { CLOSED } from '../solver/layers/seamWebs';
import type { Check } from './check';
import { cutCloths, cutIn } from './cutCloths';

/** So many stitches of a seam are looked along. */
const LOOKED_ALONG = 24;
/** Finer meshes are not looked at: it would take too long at every change. */
const MOST_FACES = 60_000;

/** A seam that would be drawn together through a collider or other cloth: its pieces stand on the wrong sides of it. */
export const seamsThrough: Check = {
  id: 'seams-through',
  look: ({ shot, assets }) =>
    cutCloths(shot).flatMap(({ cloth, shape }) => {
      const positions = startPositions(shot, cloth, assets);
      const at = (point: number) => [...positions.subarray(point * 3, point * 3 + 3)] as unknown as Vector3;
      const inTheWay = shot.things.flatMap((thing) => {
        const mesh = thing.id === cloth.id ? null : meshInTheWay(shot, thing, assets);
        return mesh === null || mesh.triangles.length > MOST_FACES * 3 ? [] : [{ thing, mesh }];
      });
      return pairsOfSeams(shape).flatMap((pairs, i) => {
        const step = Math.max(1, Math.floor(pairs.length / LOOKED_ALONG));
        const stitches = pairs
          .filter((_, n) => n % step === 0)
          .map(([a, b]) => [at(a), at(b)] as const)
          .filter(([a, b]) => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]) > CLOSED);
        const through = inTheWay.find(({ mesh }) => stitches.some(([a, b]) => passesThrough(mesh, a, b)));
        if (!through) return [];
        return [
          {
            check: 'seams-through',
            thing: cloth.id,
            station: 'pattern' as const,
            // What is sewn through other cloth is caught in the seam, which may be meant.
            grave: through.thing.role === 'collider',
            text: `Seam ${i + 1} of ${cloth.name} would be drawn together through ${through.thing.name}. Place its pieces so that the stitches go around it.`,
            remedy: 'Unpick the seam',
            numbers: { seam: i },
          },
        ];
      });
    }),
  mend: ({ thing, numbers }) => ({
    apply: (draft) => void cutIn(draft, thing)?.seams.splice(numbers!['seam']!, 1),
  }),
};

/** The faces of a thing as they are where a run starts, where seams cannot be drawn through them. */
function meshInTheWay(shot: Shot, thing: Thing, assets: Assets): Mesh | null {
  if (thing.role === 'cloth' && thing.enabled)
    return { positions: startPositions(shot, thing, assets), triangles: shapeMesh(thing.shape, assets).triangles };
  if (thing.role !== 'collider' || !thing.enabled || thing.shape.kind === 'ground') return null;
  return placedMesh(shot, thing, assets);
}

/** Whether the line between two places passes through a face: only those in the box around it are looked at. */
function passesThrough(mesh: Mesh, from: Vector3, to: Vector3): boolean {
  const [low, high] = [Math.min, Math.max].map((of) => from.map((value, axis) => of(value, to[axis]!)));
  let through = false;
  facesInBox(treeOf(mesh), Float32Array.from([...low!, ...high!]), (face) => {
    through ||= meetsFace(mesh, face, from, to);
  });
  return through;
}

/** Whether the line between two places passes through a face (Moeller and Trumbore 1997). */
function meetsFace({ positions: p, triangles }: Mesh, face: number, from: Vector3, to: Vector3): boolean {
  const way: Vector3 = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
  const corner = (i: number): Vector3 => [p[i * 3]!, p[i * 3 + 1]!, p[i * 3 + 2]!];
  const minus = (a: Vector3, b: Vector3): Vector3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
  const a = corner(triangles[face * 3]!);
  const [e, f] = [minus(corner(triangles[face * 3 + 1]!), a), minus(corner(triangles[face * 3 + 2]!), a)];
  const h = cross(way, f);
  const scale = dot(e, h);
  if (Math.abs(scale) < 1e-18) return false;
  const s = minus(from, a);
  const u = dot(s, h) / scale;
  if (u < 0 || u > 1) return false;
  const q = cross(s, e);
  const v = dot(way, q) / scale;
  if (v < 0 || u + v > 1) return false;
  const share = dot(f, q) / scale;
  return share > 0 && share < 1;
}
