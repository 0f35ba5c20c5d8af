import { formatQuantity } from '../quantity/units';
import { MeshoptSimplifier } from 'meshoptimizer/simplifier';
import { meanSpacing } from '../mesh/meanSpacing';
import { keepPoints } from '../mesh/keepPoints';
import type { Mesh } from '../mesh/mesh';
import { clothScale, simulatedCloths } from '../run/compile';
import { newId } from '../shot/create';
import { shapeMesh } from '../shot/shapes';
import type { Check } from './check';

/** Meshes with fewer faces cost little, however fine they are. */
const FEW_FACES = 15_000;
/** Faces of a collider need not be smaller than this share of the cloth's spacing. */
const SHARE = 0.4;

/** A collider is far finer than the cloth can feel, and costs time. */
export const tooFine: Check = {
  id: 'too-fine',
  look: ({ shot, assets }) => {
    const spacings = simulatedCloths(shot).map((cloth) => clothScale(cloth, assets).spacing);
    if (spacings.length === 0) return [];
    const finest = Math.min(...spacings);
    return shot.things.flatMap((thing) => {
      if (thing.role !== 'collider' || !thing.enabled || thing.contactShape !== 'exact') return [];
      if (thing.shape.kind !== 'mesh' || !assets.has(thing.shape.asset)) return [];
      const mesh = shapeMesh(thing.shape, assets);
      const faces = mesh.triangles.length / 3;
      if (faces < FEW_FACES || meanSpacing(mesh) > finest * SHARE) return [];
      const wanted = Math.max(
        FEW_FACES / 3,
        Math.round((faces * (meanSpacing(mesh) / (finest * SHARE)) ** 2) / 100) * 100,
      );
      return [
        {
          check: 'too-fine',
          thing: thing.id,
          station: 'stage' as const,
          grave: false,
          text: `${thing.name} has ${formatQuantity(faces, '', 9)} faces, far finer than the cloth can feel: it costs time.`,
          remedy: 'Make it coarser',
          numbers: { faces: wanted, error: finest * 0.1 },
        },
      ];
    });
  },
  mend: async (finding, shot, assets) => {
    const thing = shot.things.find(({ id }) => id === finding.thing);
    if (!thing || !('shape' in thing)) return { apply: () => undefined };
    const { faces, error } = finding.numbers as { faces: number; error: number };
    const asset = newId();
    const coarse = await coarser(shapeMesh(thing.shape, assets), faces, error);
    return {
      apply: (draft) => {
        const target = draft.things.find(({ id }) => id === finding.thing);
        if (target && 'shape' in target) target.shape = { kind: 'mesh', asset };
      },
      assets: new Map([[asset, coarse]]),
    };
  },
};

/**
 * A mesh of about so many faces, nowhere farther from the original than `error` metres, by collapsing edges (Garland and Heckbert
 * 1997). It uses points of the original, so that animation stays whole.
 */
export async function coarser(mesh: Mesh, faces: number, error: number): Promise<Mesh> {
  await MeshoptSimplifier.ready;
  const scale = MeshoptSimplifier.getScale(mesh.positions, 3);
  const [corners] = MeshoptSimplifier.simplify(mesh.triangles, mesh.positions, 3, Math.floor(faces) * 3, error / scale);
  const to = new Map<number, number>();
  const triangles = Uint32Array.from(corners, (point) => {
    if (!to.has(point)) to.set(point, to.size);
    return to.get(point)!;
  });
  return keepPoints(mesh, [...to.keys()], triangles);
}
