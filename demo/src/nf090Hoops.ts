import { makeOneMesh, placeBy, poseOf, shapeMesh, trackValue, type Mesh } from '@lumbra/core';
import { keyed, type Stop } from './keyed';

/** The name that its content gives the mesh of the hoops; a test compares it. */
export const HOOPS_MESH = '0999c6002d00787d0322122e';
/** The animation that comes with the hoops. */
export const RISE = 'Rise';
const FRAME_RATE = 24;
const NUMBERS = { joints: 4, weights: 4, matrix: 12 };

/** A hoop on the hinges of a cart: its size, and how it leans as a number that changes over the shot. */
export interface HingedHoop {
  radius: number;
  rod: number;
  leans: readonly Stop[];
}

/**
 * Hoops in one mesh around their hinge, with the animation by which they are laid down and rise, as they come out of a file: each is a part that moves as
 * a whole, sampled frame by frame. They stand as they lean at the first frame.
 */
export function hingedHoops(hoops: readonly HingedHoop[]): Mesh {
  const frames = hoops.flatMap(({ leans }) => leans.map(([frame]) => frame));
  const [first, last] = [Math.min(...frames), Math.max(...frames)];
  const meshes = hoops.map(({ radius, rod, leans }) => {
    const hoop = shapeMesh({ kind: 'hoop', radius, leg: 0.001, tubeRadius: rod, segments: 28 }, new Map());
    return turned(placeBy(hoop, poseOf([0, radius / 2, 0], [0, 0, 0])), leans[0]![1]);
  });
  const { positions, triangles } = makeOneMesh(meshes);
  const joints = new Uint16Array((positions.length / 3) * NUMBERS.joints);
  const weights = new Float32Array((positions.length / 3) * NUMBERS.weights);
  let point = 0;
  meshes.forEach((mesh, bone) => {
    for (let own = 0; own < mesh.positions.length / 3; own++, point++) {
      joints[point * NUMBERS.joints] = bone;
      weights[point * NUMBERS.weights] = 1;
    }
  });
  const samples = last - first + 1;
  const matrices = new Float32Array(samples * hoops.length * NUMBERS.matrix);
  const tracks = hoops.map(({ leans }) => keyed('rotation.z', leans));
  for (let sample = 0; sample < samples; sample++) {
    hoops.forEach(({ leans }, bone) => {
      const angle = trackValue(tracks[bone]!, first + sample) - leans[0]![1];
      // Column by column there, row by row here.
      const [xx, yx, , xy, yy] = poseOf([0, 0, 0], [0, 0, angle]).rotation;
      matrices.set([xx, xy, 0, 0, yx, yy, 0, 0, 0, 0, 1, 0], (sample * hoops.length + bone) * NUMBERS.matrix);
    });
  }
  const clip = { name: RISE, rate: FRAME_RATE, samples, matrices, targetWeights: new Float32Array(0) };
  const motion = { bind: positions, joints, weights, bones: hoops.length, targets: [], clips: [clip] };
  return { positions, triangles, motion };
}

function turned(mesh: Mesh, angle: number): Mesh {
  return placeBy(mesh, poseOf([0, 0, 0], [0, 0, angle]));
}
