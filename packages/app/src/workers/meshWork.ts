import {
  isFitted,
  rememberMeshHash,
  rememberStandIn,
  standInBody,
  type ColliderBody,
  type Mesh,
  type StandIn,
} from '@lumbra/core';
import { meshHost } from './hosts';

// Work on meshes that would hold up the page, as promises.

/** The simple shape that stands in for a mesh; fitted once. */
export async function fitStandIn(mesh: Mesh, standIn: StandIn): Promise<ColliderBody> {
  if (!isFitted(mesh, standIn))
    rememberStandIn(mesh, standIn, await meshHost.call<ColliderBody>((api) => api.standIn(mesh, standIn)));
  return standInBody(mesh, standIn);
}

/** A made mesh with its hash known, so that the page does not compute it. */
export async function made(work: Promise<{ mesh: Mesh; hash: string }>): Promise<Mesh> {
  const { mesh, hash } = await work;
  rememberMeshHash(mesh, hash);
  return mesh;
}
