import { z } from 'zod';
import type { Mesh, Motion } from '../mesh/mesh';
import { ReadError } from './readError';

// The animation of an asset in a `.lumbra` file: a JSON header that says how many of what, and beside it the numbers themselves,
// little-endian, one array after the other: bind, weights, targets, then per clip matrices and target weights (all float32),
// and last the joints (uint16).

const headerSchema = z.strictObject({
  points: z.number().int().min(1),
  bones: z.number().int().min(1),
  targets: z.number().int().min(0),
  clips: z.array(
    z.strictObject({ name: z.string().min(1), rate: z.number().positive(), samples: z.number().int().min(1) }),
  ),
});

export function writeMotion(motion: Motion): { header: string; numbers: Uint8Array } {
  const { bind, weights, targets, clips, joints, bones } = motion;
  const header = {
    points: bind.length / 3,
    bones,
    targets: targets.length,
    clips: clips.map(({ name, rate, samples }) => ({ name, rate, samples })),
  };
  const floats = [
    bind,
    weights,
    ...targets,
    ...clips.flatMap(({ matrices, targetWeights }) => [matrices, targetWeights]),
  ];
  const count = floats.reduce((sum, array) => sum + array.length, 0);
  const numbers = new Uint8Array(count * 4 + joints.length * 2);
  let at = 0;
  for (const array of [...floats, joints]) {
    numbers.set(new Uint8Array(array.buffer, array.byteOffset, array.byteLength), at);
    at += array.byteLength;
  }
  return { header: JSON.stringify(header), numbers };
}

/** Gives a mesh its animation back. @throws ReadError when header, numbers and mesh do not fit together */
export function readMotion(mesh: Mesh, header: string, numbers: Uint8Array): Mesh {
  let parsed: z.infer<typeof headerSchema>;
  try {
    parsed = headerSchema.parse(JSON.parse(header));
  } catch {
    throw new ReadError('The animation of a mesh is damaged: its header cannot be read.');
  }
  const { points, bones, targets, clips } = parsed;
  const lengths = [points * 3, points * 4, ...Array<number>(targets).fill(points * 3)];
  for (const { samples } of clips) lengths.push(samples * bones * 12, samples * targets);
  const needed = lengths.reduce((sum, length) => sum + length, 0) * 4 + points * 8;
  if (points * 3 !== mesh.positions.length || needed !== numbers.length) {
    throw new ReadError('The animation of a mesh is damaged: it does not fit the mesh.');
  }
  const buffer = numbers.slice().buffer;
  let at = 0;
  const take = (length: number) => {
    const array = new Float32Array(buffer, at, length);
    at += length * 4;
    return array;
  };
  const [bind, weights] = [take(points * 3), take(points * 4)];
  const targetArrays = Array.from({ length: targets }, () => take(points * 3));
  const read = clips.map((clip) => ({
    ...clip,
    matrices: take(clip.samples * bones * 12),
    targetWeights: take(clip.samples * targets),
  }));
  const joints = new Uint16Array(buffer, at, points * 4);
  if (joints.some((joint) => joint >= bones))
    throw new ReadError('The animation of a mesh names a bone that it lacks.');
  return { ...mesh, motion: { bind, joints, weights, bones, targets: targetArrays, clips: read } };
}
