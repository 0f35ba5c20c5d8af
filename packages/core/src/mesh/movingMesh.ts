import type { Mesh, Motion } from './mesh';

/** The clip of a mesh that was put together of frames. */
export const FRAMES_CLIP = 'Frames';

export interface NumberedFrame {
  number: number;
}

/** One mesh that is at each frame where it was read to be: each frame is a morph target of its own. */
export function movingMesh(meshes: readonly Mesh[], frames: readonly NumberedFrame[], rate: number): Mesh {
  const [first, ...others] = meshes as [Mesh, ...Mesh[]];
  if (others.length === 0) return first;
  const points = first.positions.length / 3;
  const samples = frames.at(-1)!.number - frames[0]!.number + 1;
  const targetWeights = new Float32Array(samples * others.length);
  let after = 1;
  for (let sample = 0; sample < samples; sample++) {
    const number = frames[0]!.number + sample;
    while (after < frames.length - 1 && frames[after]!.number < number) after++;
    const [from, to] = [frames[after - 1]!.number, frames[after]!.number];
    const share = (number - from) / (to - from);
    // The first frame is where it is without any target.
    if (after > 1) targetWeights[sample * others.length + after - 2] = 1 - share;
    targetWeights[sample * others.length + after - 1] = share;
  }
  const motion: Motion = {
    bind: first.positions,
    joints: new Uint16Array(points * 4),
    weights: Float32Array.from({ length: points * 4 }, (_, i) => (i % 4 === 0 ? 1 : 0)),
    bones: 1,
    targets: others.map(({ positions }) => positions.map((value, i) => value - first.positions[i]!)),
    clips: [
      {
        name: FRAMES_CLIP,
        rate,
        samples,
        matrices: Float32Array.from({ length: samples * 12 }, (_, i) =>
          i % 12 === 0 || i % 12 === 5 || i % 12 === 10 ? 1 : 0,
        ),
        targetWeights,
      },
    ],
  };
  return { ...first, motion };
}
