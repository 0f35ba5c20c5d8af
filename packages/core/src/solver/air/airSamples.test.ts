import { expect, it } from 'vitest';
import { addEddies, eddyWaves } from '../../air/eddies';
import { fabricSchema } from '../../fabric/fabric';
import { pointCount } from '../../mesh/mesh';
import { sheet } from '../../mesh/shapes/sheet';
import type { ClothState } from '../clothState';
import { KernelMemory } from '../kernelMemory';
import type { AirField } from '../model';
import { AirSamples } from './airSamples';

const TIME = 1234.5;

it('stirs all points of a cloth as they are stirred one by one, and those of no other', () => {
  const waves = eddyWaves({ eddySize: 0.05, eddyPace: 2, eddySeed: 3 });
  const memory = new KernelMemory();
  // Nine points and four, neither of which ends where the fours do that the kernel takes at once.
  const [first, second] = [0.02, 0.01].map((size) => sheet({ width: size, height: size, spacing: 0.01 }));
  const meshes = [first!, second!];
  const count = meshes.reduce((sum, mesh) => sum + pointCount(mesh), 0);
  const [points, velocity] = [memory.allocate(count * 16), memory.allocate(count * 16)];
  const places = Array.from({ length: count }, (_, i) => [0.3 * i, 7 - 0.17 * i, 30 + 0.01 * i * i]);
  places.forEach((place, i) => memory.floats(points + i * 16, 3).set(place));
  const speedOf = (i: number) => (i === 2 ? 0 : 0.5 + i);
  const field: AirField = {
    moves: true,
    pulls: false,
    sample: (time, cloths) => {
      const { velocity: own, stir } = cloths[0]!;
      own.fill(0);
      cloths[1]!.velocity.fill(5);
      stir(
        waves,
        time,
        Float32Array.from({ length: own.length / 4 }, (_, i) => speedOf(i)),
      );
    },
  };
  let firstPoint = 0;
  const cloths = meshes.map((rest, i) => {
    const state = { model: { id: `${i}`, rest }, firstPoint, points: pointCount(rest), fabric: fabricSchema.parse({}) };
    firstPoint += pointCount(rest);
    return state as unknown as ClothState;
  });
  const samples = new AirSamples(memory, field, cloths, count, { points, velocity });
  samples.sample(0, 40, 1 / 960, TIME);
  const found = memory.floats(samples.velocities, count * 4);
  for (let i = 0; i < count; i++) {
    const wanted = new Float64Array(3);
    if (i < 9) addEddies(waves, ...(places[i] as [number, number, number]), TIME, speedOf(i), wanted);
    else wanted.fill(5);
    for (let axis = 0; axis < 3; axis++) {
      // Places of 30 m are whole to 2e-6 m, which is 4e-5 of such an eddy.
      expect(Math.abs(found[i * 4 + axis]! - wanted[axis]!), `point ${i}`).toBeLessThanOrEqual(5e-4 * speedOf(i));
    }
  }
});
