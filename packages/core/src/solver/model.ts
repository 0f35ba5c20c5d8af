import type { Fabric } from '../fabric/fabric';
import type { FaceScales } from '../fabric/faceScales';
import type { Pose } from '../math/pose';
import type { Vector3 } from '../math/vector';
import type { Mesh } from '../mesh/mesh';

// What the solver is given: plain arrays and numbers in SI, in world space. It knows nothing of documents.

/** Points that are drawn to places in space: pins that move or give, ties to things, leashes. */
export interface HoldModel {
  /** Indices of the points. */
  points: readonly number[];
  /** Where they are drawn to at a time in s, x y z in m each, in exact arithmetic. */
  placesAt: (time: number) => Float32Array;
  /** Per point, 0 to 1 at a time in s: at 1 a point is carried and nothing else moves it; below, it gives. */
  strengthsAt: (time: number) => Float32Array;
  /** Those of the points whose strength is always 1 and that may never stray. */
  carried: readonly number[];
  /** Per point, how far in m it may stray at a time in s; nowhere where it is missing. */
  slackAt?: (time: number) => Float32Array;
  /** Per point, the unit normal x y z at a time in s of the plane through its place that it may not go behind. */
  normalsAt?: (time: number) => Float32Array;
}

/** Points that are tied to faces of another cloth; both give way. */
export interface TieModel {
  points: readonly number[];
  /** Id of the other cloth. */
  to: string;
  /** Per point the three corners in the other cloth, and how they weigh in. */
  corners: Uint32Array;
  weights: Float32Array;
  /** Per point, in m at a time in s. */
  lengthsAt: (time: number) => Float32Array;
  /** Per point, 0 to 1. */
  strengthsAt: (time: number) => Float32Array;
}

/** What decides how far points can come to be from each other. */
export type LooseNumbers = Pick<Fabric, 'weight' | 'restWarp' | 'restWeft' | 'stretchWarp' | 'stretchWeft'>;

export interface ClothModel {
  id: string;
  /** Its motion is given by what holds it, point for point: nothing of it is computed, and others meet its surface. */
  given?: boolean;
  /** The shape as cut. Material coordinates, where it has them, say how it lies flat and where the warp runs. */
  rest: Mesh;
  /** Where the points start, x y z in metres. */
  positions: Float32Array;
  /** Per point that the solver tells of, which point of `rest` it is, where seams have made several one. */
  pointOf?: Uint32Array;
  fabric: Fabric;
  /** The fabric at a time in s, when its numbers are keyed; weight, thickness and friction never change. */
  fabricAt?: (time: number) => Fabric;
  /** By how much masks scale its numbers, face by face. */
  scales?: FaceScales;
  /** The same at a time in s, where masks change. */
  scalesAt?: (time: number) => FaceScales;
  /** The largest rest sizes and the least stretch that `fabricAt` gives. */
  loosest?: LooseNumbers;
  /** Indices of points that do not move. */
  held: readonly number[];
  /** Points that are held otherwise; where several hold a point, the first that carries it decides. */
  holds?: readonly HoldModel[];
  /** What is tied to other cloth. */
  ties?: readonly TieModel[];
  /** The largest acceleration in m/s^2 that gravity and wind give it; by default that of gravity. */
  load?: number;
  /** Distance in m that its layers keep from each other; by default the fabric's thickness. Different cloths keep the mean of theirs. */
  layerDistance?: number;
  /** Whether it touches itself; by default it does. */
  touchesItself?: boolean;
  /** Faces that pass through their own cloth all the same, a byte each, 1 where they do. */
  passing?: Uint8Array;
  /** Whether gravity, air, pressure and what draws act on it while its seams are drawn together. */
  falls?: boolean;
  /** Whether none of gravity, wind, pressure and what draws acts on it: still air only brakes it. */
  weightless?: boolean;
}

/** How a cloth and another thing touch, otherwise than by their own numbers. What is missing is as these say. */
export interface PairModel {
  /** Ids of a cloth and of a collider or another cloth. */
  between: readonly [string, string];
  touches: boolean;
  /** Of a collider, the distance in m that cloth keeps besides half its thickness; of two cloths, the distance between their middles. */
  clearance?: number;
  friction?: number;
  /** The side of a collider that counts. */
  side?: 'outside' | 'inside' | 'both';
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
  /** Wind in m/s, the same everywhere, at a time in s since the start of the run. Must be exact arithmetic: see math/trigonometry.ts. */
  windAt: (time: number) => Vector3;
  /** Air that is not the same everywhere, and what draws points. */
  field?: AirField;
}

/** What air does from place to place. */
export interface AirField {
  /** Whether it moves air, and whether it draws points. */
  moves: boolean;
  pulls: boolean;
  /**
   * Writes what it does to the points of all cloths over the next so many s from a time in s since the start of the run, in exact arithmetic; `first` in a frame,
   * whose state alone decides what is kept for the rest of it.
   */
  sample: (time: number, cloths: readonly SampledCloth[], seconds: number, first: boolean) => void;
}

/** A cloth in the air. */
export interface SampledCloth {
  /** x y z of each point in m, and its velocity in m/s. */
  positions: Float32Array;
  velocities: Float32Array;
  triangles: Uint32Array;
  /** How far its points are apart at rest, in m. */
  spacing: number;
  /** Id of the cloth. */
  id: string;
  /** kg/m² */
  weight: number;
  /** To be written, 4 numbers a point: velocity of the air x y z in m/s, one unused. */
  velocity: Float32Array;
  /** To be written, 8 numbers a point: acceleration x y z in m/s², by how many m/s² it is braked against the velocity that follows, x y z in m/s; one unused. */
  pull: Float32Array;
  /** Adds eddies to that velocity at a time in s: waves as `eddyWaves` makes them, and how fast eddies are at each point, in m/s. */
  stir: (waves: Float64Array, time: number, speeds: Float32Array) => void;
}

export interface Model {
  cloths: ClothModel[];
  colliders: ColliderModel[];
  /** Who touches whom otherwise than by their own numbers; each pair once. */
  pairs?: readonly PairModel[];
  air: AirModel;
  /** Where all places in this model are counted from, x y z in m in the world: that of cloth far out. What the solver tells is in the world. */
  origin?: Vector3;
  /**
   * How cloth meets cloth: `exact` never lets it cross, `draft` only pushes layers apart and costs less, `off` lets it pass.
   * By default exact.
   */
  layers?: 'exact' | 'draft' | 'off';
}
