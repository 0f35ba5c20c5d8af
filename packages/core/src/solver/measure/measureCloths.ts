import { scaleOf } from '../../fabric/faceScales';
import type { ClothState } from '../clothState';
import { membraneStiffness } from '../energies/membraneEnergy';
import type { KernelMemory } from '../kernelMemory';
import { measureStretch, type StretchMeasure } from './measures';

export interface FrameMeasures {
  /** J */
  kineticEnergy: number;
  /** How far the farthest point moved in the last `advance`, over its time, in m/s. */
  fastest: number;
  /** Largest over all cloths, mean over all faces; and the id of the cloth that stretches most beyond what its fabric gives. */
  stretch: StretchMeasure & { falseCloth: string | null };
  /** Places of cloth that touched a collider in the last substep. */
  contacts: number;
}

/**
 * Measures all cloths. `before` has the points, 4 numbers each, as they were `seconds` ago; the substeps took h s, or 0 before the first. `isSqueezed` tells of a point of all
 * whether it is between colliders that leave it no room.
 */
export function measureCloths(
  memory: KernelMemory,
  cloths: readonly ClothState[],
  addresses: { points: number; velocity: number },
  { before, seconds }: { before: Float32Array | null; seconds: number },
  h: number,
  isSqueezed: (point: number) => boolean,
): Omit<FrameMeasures, 'contacts'> {
  let kineticEnergy = 0;
  let fastest = 0;
  const worst: StretchMeasure = { largest: 0, place: null, largestFalse: 0, falsePlace: null, largestFree: 0, mean: 0 };
  let falseCloth: string | null = null;
  let meanSum = 0;
  let faces = 0;
  for (const { model, fabric, scales, firstPoint, points, flat, inverseMasses } of cloths) {
    // What is given is not what this run made.
    if (model.given) continue;
    const velocity = memory.points(addresses.velocity, firstPoint, points);
    for (let i = 0; i < points; i++) {
      const square = velocity[i * 4]! ** 2 + velocity[i * 4 + 1]! ** 2 + velocity[i * 4 + 2]! ** 2;
      if (inverseMasses[i]! > 0) kineticEnergy += (0.5 * square) / inverseMasses[i]!;
    }
    const positions = memory.points(addresses.points, firstPoint, points);
    const earlier = before?.subarray(firstPoint * 4, (firstPoint + points) * 4);
    for (let i = 0; earlier && i < points * 4; i += 4) {
      const moved =
        (positions[i]! - earlier[i]!) ** 2 +
        (positions[i + 1]! - earlier[i + 1]!) ** 2 +
        (positions[i + 2]! - earlier[i + 2]!) ** 2;
      fastest = Math.max(fastest, moved);
    }
    const stretch = measureStretch(positions, 4, model.rest.triangles, flat, {
      stiffnessOf: (face) => {
        const { warp, weft } = membraneStiffness(fabric, scales, face);
        return { stretch: Math.max(warp, weft), weight: fabric.weight * scaleOf(scales, 'weight', face), h };
      },
      isHeld: (point) => inverseMasses[point] === 0,
      isSqueezed: (point) => isSqueezed(firstPoint + point),
    });
    const { largest, place, largestFalse, falsePlace, largestFree } = stretch;
    worst.largestFree = Math.max(worst.largestFree, largestFree);
    if (largest > worst.largest) Object.assign(worst, { largest, place });
    if (largestFalse > worst.largestFalse) {
      Object.assign(worst, { largestFalse, falsePlace });
      falseCloth = model.id;
    }
    meanSum += stretch.mean * flat.areas.length;
    faces += flat.areas.length;
  }
  return {
    kineticEnergy,
    fastest: Math.sqrt(fastest) / seconds,
    stretch: { ...worst, falseCloth, mean: faces > 0 ? meanSum / faces : 0 },
  };
}
