import { z } from 'zod';
import { id } from '../ids';
import { shapeKind } from './shapeKind';

/** A thing's shape names an asset that is not in the shot. */
export class MissingAssetError extends Error {
  constructor(readonly asset: string) {
    super(`The mesh “${asset}” is not in this shot. Import it again, or delete the thing that uses it.`);
  }
}

/** A mesh that was read from a file, or made, and is kept as an asset of the shot. */
export const mesh = shapeKind({
  label: 'Mesh',
  words: [],
  sizes: [],
  start: null,
  schema: z.strictObject({
    kind: z.literal('mesh'),
    asset: id.describe('Id of the asset that holds the mesh.'),
  }),
  mesh: ({ asset }, assets) => {
    const found = assets.get(asset);
    if (!found) throw new MissingAssetError(asset);
    return found;
  },
  // Its size is in its asset: see resize.ts.
  resize: (shape) => shape,
});
