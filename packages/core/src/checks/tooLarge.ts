import { pointCount } from '../mesh/mesh';
import { activeCloths } from '../run/compile';
import { MOST_BYTES, neededBytes, roomText } from '../run/neededBytes';
import { shapeMesh, SHAPES, type Assets } from '../shot/shapes';
import type { Shot } from '../shot/schema';
import type { Check } from './check';

/** How much of the room a mended run may take. */
const SHARE = 0.9;

/** A run does not fit into memory. */
export const tooLarge: Check = {
  id: 'too-large',
  look: ({ shot, assets }) => {
    const needed = shotBytes(shot, assets);
    if (needed <= MOST_BYTES) return [];
    const spaced = activeCloths(shot).some(({ shape }) => 'spacing' in shape);
    return [
      {
        check: 'too-large',
        thing: activeCloths(shot)[0]!.id,
        station: 'stage',
        grave: true,
        hinders: true,
        text: roomText(needed),
        remedy: spaced ? 'Widen the spacing' : null,
        numbers: { factor: Math.sqrt(needed / (MOST_BYTES * SHARE)) },
      },
    ];
  },
  mend: ({ numbers }) => ({
    apply: (draft) => {
      for (const { shape } of activeCloths(draft)) if ('spacing' in shape) shape.spacing *= numbers!['factor']!;
    },
  }),
};

function shotBytes(shot: Shot, assets: Assets): number {
  const meshed = activeCloths(shot).map(({ shape }) => pointCount(shapeMesh(shape, assets)));
  const faces = shot.things.flatMap((thing) => {
    if (thing.role !== 'collider' || !thing.enabled) return [];
    return SHAPES[thing.shape.kind].body ? 0 : shapeMesh(thing.shape, assets).triangles.length / 3;
  });
  return neededBytes(
    meshed.reduce((sum, count) => sum + count, 0),
    faces,
  );
}
