import { keepPoints } from './keepPoints';
import { pointCount, type Mesh } from './mesh';
import { borderLoops, topology } from './topology';

/** Closes every border, or those that are wanted of their points in order, by a fan around the middle of its points. */
export function closeBorders(
  mesh: Mesh,
  wanted: (loop: readonly number[]) => boolean = () => true,
): { mesh: Mesh; closed: number } {
  const loops = borderLoops(topology(mesh)).filter((loop) => loop.length >= 3 && wanted(loop));
  if (loops.length === 0) return { mesh, closed: 0 };
  const count = pointCount(mesh);
  const kept = Array.from({ length: count }, (_, i) => i);
  const triangles = [...loops].reduce<number[]>((list, loop, n) => {
    // The middle point takes over the bones of one of the border's.
    kept.push(loop[0]!);
    loop.forEach((point, i) => list.push(count + n, loop[(i + 1) % loop.length]!, point));
    return list;
  }, []);
  const all = new Uint32Array(mesh.triangles.length + triangles.length);
  all.set(mesh.triangles);
  all.set(triangles, mesh.triangles.length);
  const closed = keepPoints(mesh, kept, all);
  const centre = (array: Float32Array, width: number) =>
    loops.forEach((loop, n) => {
      for (let k = 0; k < width; k++) {
        array[(count + n) * width + k] = loop.reduce((sum, point) => sum + array[point * width + k]!, 0) / loop.length;
      }
    });
  centre(closed.positions, 3);
  if (closed.material) centre(closed.material, 2);
  if (closed.motion) for (const array of [closed.motion.bind, ...closed.motion.targets]) centre(array, 3);
  return { mesh: closed, closed: loops.length };
}
