import type { Fabric } from '../fabric/fabric';
import type { Pose } from '../math/pose';
import type { Vector3 } from '../math/vector';
import type { Mesh } from '../mesh/mesh';

// What the solver is given: plain arrays and numbers in SI, in world space. It knows nothing of documents.

export interface ClothModel {
  id: string;
  /** The shape as cut. Material coordinates, where it has them, say how it lies flat and where the warp runs. */
  rest: Mesh;
  /** Where the points start, x y z in metres. */
  positions: Float32Array;
  fabric: Fabric;
  /** The fabric at a time in s, when its numbers are keyed; weight and thickness never change. */
  fabricAt?: (time: number) => Fabric;
  /** The largest rest size along warp and weft that `fabricAt` gives. */
  slackest?: readonly [number, number];
  /** Indices of points that do not move. */
  held: readonly number[];
  /** The largest acceleration in m/s^2 that gravity and wind give it; by default that of gravity. */
  load?: number;
  /** Distance in m that its layers keep from each other; by default the fabric's thickness. Different cloths keep the mean of theirs. */
  layerDistance?: number;
  /** Whether it touches itself; by default it does. It always touches other cloth. */
  touchesItself?: boolean;
}

/** How cloth is touched. */
export interface Touch {
  /** Distance in m that cloth keeps, besides half its thickness. */
  clearance: number;
  friction: number;
  /** Share of the speed of cloth that hits it that is thrown back. */
  bounce?: number;
}

interface ColliderBase extends Pose, Touch {
  id: string;
  /** How it touches at a time in s, when that is keyed. */
  touchAt?: (time: number) => Touch;
  /**
   * The side that cloth is kept on. Where both count, cloth stays on the side where it is; that is the default of open meshes,
   * outside that of everything else.
   */
  side?: 'outside' | 'inside' | 'both';
  /** Where it is at a time in s since the start of the run, when it moves. Must be exact arithmetic. */
  poseAt?: (time: number) => Pose;
}

export type ColliderModel =
  /** An endless plane; its own y points out. */
  | (ColliderBase & { kind: 'plane' })
  | (ColliderBase & { kind: 'ball'; radius: number })
  | (ColliderBase & { kind: 'box'; size: Vector3 })
  | (ColliderBase & { kind: 'cylinder'; radius: number; height: number })
  /** Standing along its own y; the height is from end to end. */
  | (ColliderBase & { kind: 'capsule'; radius: number; height: number })
  /** Any mesh around its own origin; `pointsAt` gives its points at a time in s when it changes its shape, in exact arithmetic. */
  | (ColliderBase & { kind: 'mesh'; mesh: Mesh; pointsAt?: (time: number) => Float32Array });

export interface AirModel {
  gravity: Vector3;
  /** Gravity at a time in s since the start of the run, when it is keyed. */
  gravityAt?: (time: number) => Vector3;
  /** kg/m^3 */
  density: number;
  /** Wind in m/s at a time in s since the first frame. Must be exact arithmetic: see math/trigonometry.ts. */
  windAt: (time: number) => Vector3;
}

export interface Model {
  cloths: ClothModel[];
  colliders: ColliderModel[];
  air: AirModel;
  /**
   * How cloth meets cloth: `exact` never lets it cross, `draft` only pushes layers apart and costs less, `off` lets it pass.
   * By default exact.
   */
  layers?: 'exact' | 'draft' | 'off';
}
