import type { Mesh } from '../mesh/mesh';
import type { Cloth } from '../shot/schema';

/** A cloth of a shot and the mesh that is simulated of it. */
export interface SimulatedCloth {
  cloth: Cloth;
  mesh: Mesh;
}
