import type { Mesh } from './mesh';

/** The same function, computed once for each mesh: meshes are never changed in place. What is known of a mesh goes with it. */
export function oncePerMesh<T>(compute: (mesh: Mesh) => T): (mesh: Mesh) => T {
  const known = new WeakMap<Mesh, { value: T }>();
  return (mesh) => {
    const found = known.get(mesh) ?? { value: compute(mesh) };
    known.set(mesh, found);
    return found.value;
  };
}
