import { invertPose, type Pose } from '../math/pose';
import { arcTangent } from '../math/trigonometry';
import { apply, cross, direction, type Vector3 } from '../math/vector';

/** Which way air goes, as what keeps it off sees it: it comes by what lies up the way first. */
export interface WindWay {
  /** Writes where a place x y z in m is: two coordinates square to the way, in m, then how far down the way. */
  locate: (x: number, y: number, z: number, out: Float64Array) => void;
  /** How many m a step of 1 down the way is, at a place whose first coordinate is given. */
  metres: (across: number) => number;
  /** How squarely a surface with the unit normal nx ny nz at a place x y z meets it, 0 to 1. */
  facing: (x: number, y: number, z: number, nx: number, ny: number, nz: number) => number;
  /** After so many steps the way is back where it was; 0 where it never is. */
  round: number;
}

/** The way of air that blows straight along a unit vector. */
export function straightWay(along: Vector3): WindWay {
  const side = direction(Math.abs(along[1]) < 0.9 ? cross([0, 1, 0], along) : cross([1, 0, 0], along))!;
  const up = cross(along, side);
  return {
    locate: (x, y, z, out) => {
      out[0] = x * side[0] + y * side[1] + z * side[2];
      out[1] = x * up[0] + y * up[1] + z * up[2];
      out[2] = x * along[0] + y * along[1] + z * along[2];
    },
    metres: () => 1,
    facing: (_x, _y, _z, nx, ny, nz) => Math.abs(nx * along[0] + ny * along[1] + nz * along[2]),
    round: 0,
  };
}

/** Nearer to the axis than this, in m, nothing is told apart. */
const AXIS = 1e-3;

/** The way of air that goes round the own y of a pose, from z to x: the distance from the axis, the height, and the angle in radians. */
export function roundWay(pose: Pose): WindWay {
  const { center, rotation: r } = invertPose(pose);
  return {
    locate: (px, py, pz, out) => {
      const x = center[0] + (r[0] * px + r[3] * py + r[6] * pz);
      const z = center[2] + (r[2] * px + r[5] * py + r[8] * pz);
      out[0] = Math.sqrt(x * x + z * z);
      out[1] = center[1] + (r[1] * px + r[4] * py + r[7] * pz);
      out[2] = arcTangent(x, z);
    },
    metres: (across) => Math.max(AXIS, across),
    facing: (px, py, pz, nx, ny, nz) => {
      const x = center[0] + (r[0] * px + r[3] * py + r[6] * pz);
      const z = center[2] + (r[2] * px + r[5] * py + r[8] * pz);
      const [alongX, , alongZ] = apply(r, [nx, ny, nz]);
      return Math.abs(alongX * z - alongZ * x) / Math.max(AXIS, Math.sqrt(x * x + z * z));
    },
    round: 2 * Math.PI,
  };
}
