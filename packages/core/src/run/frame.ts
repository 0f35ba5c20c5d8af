import type { Breach } from './pace';

/** The numbers of one baked frame. */
export interface FrameStats {
  /** Seconds since the first frame. */
  seconds: number;
  /** J */
  kineticEnergy: number;
  /** Share, over all faces, along warp and weft. */
  meanStretch: number;
  maxStretch: number;
  /** The largest stretch beyond what the fabric gives. Frames that an older Lumbra baked have none. */
  falseStretch?: number;
  /** Id of the cloth that has it. */
  stretchIn?: string | null;
  /** m/s */
  fastest: number;
  /** Places where cloth touches something. */
  contacts: number;
  /** Edges that pass through triangles, counted exactly. */
  crossings: number;
  /** How far cloth is inside a collider's surface at most, in m, and the id of that collider; 0 where it keeps off all. */
  deepest: number;
  deepestIn: string | null;
  deepestAt: [number, number, number] | null;
  /** Faces of cloth that pass through the surface of a collider, counted exactly; the id of the collider, and where. Older frames have none. */
  pierced?: number;
  piercedIn?: string | null;
  piercedAt?: [number, number, number] | null;
  /** How much room in m two colliders miss that cloth is between, for its thickness; their ids, and where. Older frames have none. */
  squeezed?: number;
  squeezedBetween?: [string, string] | null;
  squeezedAt?: [number, number, number] | null;
  /** Where the largest stretch beyond what the fabric gives is, and where the first crossing, x y z in m. */
  stretchAt: [number, number, number] | null;
  crossingAt: [number, number, number] | null;
  fingerprint: string;
  /** Substeps with which the frame was computed, and how often it was taken again, since it broke what its quality promises. */
  substeps?: number;
  retakes?: number;
  /** Whether what is promised was kept, null where nothing is promised; and by what it was broken. */
  kept?: boolean | null;
  broke?: Breach | null;
  /** How many points each cue has reached, by its id. */
  cues?: Record<string, number>;
}

export interface BakedFrame {
  frame: number;
  /** Per cloth in the run, in the order of the list: x y z in metres. */
  positions: Float32Array<ArrayBuffer>[];
  stats: FrameStats;
}

/** Asked in the middle of a frame with the share of it that is done; where it says no, the frame is given up. */
export type Heed = (share: number) => boolean;
