import {
  isFitted,
  rememberMeshHash,
  rememberContactShape,
  rememberCut,
  uncutPieces,
  contactShapeBody,
  type ColliderBody,
  type Mesh,
  type ContactShape,
  type Pattern,
} from '@lumbra/core';
import { meshHost } from './hosts';

// Work on meshes that would hold up the page, as promises.

/** The simple shape that stands in for a mesh; fitted once. */
export async function fitContactShape(mesh: Mesh, contactShape: ContactShape): Promise<ColliderBody> {
  if (!isFitted(mesh, contactShape))
    rememberContactShape(
      mesh,
      contactShape,
      await meshHost.call<ColliderBody>((api) => api.contactShape(mesh, contactShape)),
    );
  return contactShapeBody(mesh, contactShape);
}

/** A made mesh with its hash known, so that the page does not compute it. */
export async function made(work: Promise<{ mesh: Mesh; hash: string }>): Promise<Mesh> {
  const { mesh, hash } = await work;
  rememberMeshHash(mesh, hash);
  return mesh;
}

/** Has the pieces of a pattern cut that have not been yet, so that the page finds them cut. */
export async function cutAhead(pattern: Pattern): Promise<void> {
  const ids = uncutPieces(pattern);
  if (ids.length === 0) return;
  for (const [key, cut] of await meshHost.call((api) => api.cutPieces(plain(pattern), ids))) rememberCut(key, cut);
}

/** What the store makes reactive cannot be sent. */
function plain(pattern: Pattern): Pattern {
  return JSON.parse(JSON.stringify(pattern)) as Pattern;
}
