import type { FaceScales } from '../../fabric/faceScales';
import type { Mesh } from '../../mesh/mesh';

/** One cloth as its layers meet. Lengths in m. */
export interface LayeredCloth {
  /** Its faces, and after them the webs in its open seams. */
  rest: Mesh;
  /** Points that start apart from what they are sewn to; see `WebbedCloth`. */
  apart: Uint8Array | null;
  firstPoint: number;
  points: number;
  /** Distance that layers keep. */
  thickness: number;
  /** The largest distance that it keeps from anything. */
  farthest: number;
  /** Faces that pass through their own cloth, a byte each, 1 where they do. */
  passing?: Uint8Array | undefined;
  friction: number;
  /** By how much masks scale its thickness and friction. */
  scales?: FaceScales | undefined;
}
