import type { Vector3 } from '../math/vector';
import { bounds } from '../mesh/bounds';
import type { Mesh } from '../mesh/mesh';
import type { Assets } from '../shot/shapes';
import type { Shot, Thing } from '../shot/schema';

// Single precision is 4 µm fine at 32 m from the origin and 60 µm at 1 km, where layers are kept 4 µm apart. So what happens far out is
// computed near the origin, and what comes of it is put where it belongs.

/** Farther out than this, in m, cloth is computed elsewhere. */
const FAR = 16;

/** From where a run had better be computed, in whole m: the origin itself for cloth that starts near it. */
export function runOrigin(starts: readonly Float32Array[]): Vector3 {
  const boxes = starts.flatMap((positions) => bounds(positions) ?? []);
  if (boxes.length === 0) return [0, 0, 0];
  const [x, y, z] = [0, 1, 2].map((axis) => {
    const low = Math.min(...boxes.map((box) => box.low[axis]!));
    const high = Math.max(...boxes.map((box) => box.high[axis]!));
    return Math.max(-low, high) > FAR ? Math.round((low + high) / 2) : 0;
  });
  return [x!, y!, z!];
}

/** The same shot about another origin: everything that rides nothing is moved, with its keys and the poses that cloth starts from. */
export function nearOrigin(shot: Shot, assets: Assets, origin: Vector3): { shot: Shot; assets: Assets } {
  const moved = new Map(assets);
  const things = shot.things.map((thing) => {
    const near = thing.parent === null ? shifted(thing, origin) : thing;
    if (near.role !== 'cloth') return near;
    const keep = (id: string | null) => {
      const mesh = id === null ? undefined : assets.get(id);
      if (!mesh) return id;
      // Under a name of its own: a mesh of the same id may be somebody's shape.
      moved.set(`${id} near`, shiftedMesh(mesh, origin));
      return `${id} near`;
    };
    const given = near.given && { ...near.given, asset: keep(near.given.asset) };
    return { ...near, start: keep(near.start), given };
  });
  return { shot: { ...shot, things }, assets: moved };
}

function shiftedMesh(mesh: Mesh, origin: Vector3): Mesh {
  const shift = (positions: Float32Array) => positions.map((value, i) => value - origin[i % 3]!);
  const { positions, motion } = mesh;
  // What moves point by point, frame by frame, is moved with where it is bound.
  return { ...mesh, positions: shift(positions), ...(motion && { motion: { ...motion, bind: shift(motion.bind) } }) };
}

function shifted<T extends Thing>(thing: T, origin: Vector3): T {
  const [x, y, z] = thing.position;
  return {
    ...thing,
    position: [x - origin[0], y - origin[1], z - origin[2]],
    keys: thing.keys.map((track) => {
      const axis = ['position.x', 'position.y', 'position.z'].indexOf(track.number);
      if (axis < 0) return track;
      return { ...track, knots: track.knots.map((knot) => ({ ...knot, value: knot.value - origin[axis]! })) };
    }),
  };
}
