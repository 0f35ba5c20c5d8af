import type { FaceScales } from '../fabric/faceScales';
import type { Mesh } from '../mesh/mesh';
import type { Topology } from '../mesh/topology';

/** One cloth as its layers meet. Lengths in m. */
export interface LayeredCloth {
  rest: Mesh;
  topology: Topology;
  firstPoint: number;
  points: number;
  /** Distance that layers keep. */
  thickness: number;
  /** Whether it touches itself; it always touches other cloth. */
  touchesItself: boolean;
  friction: number;
  /** By how much masks scale its thickness and friction. */
  scales?: FaceScales | undefined;
}
