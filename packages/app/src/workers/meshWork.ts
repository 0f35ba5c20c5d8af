import {
  isFitted,
  rememberMeshHash,
  rememberContactShape,
  contactShapeBody,
  type ColliderBody,
  type Mesh,
  type ContactShape,
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
