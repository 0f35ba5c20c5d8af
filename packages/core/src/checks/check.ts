import type { Mesh } from '../mesh/mesh';
import type { Shot } from '../shot/schema';
import type { Assets } from '../shot/shapes';

export type CheckStation = 'stage' | 'pattern' | 'fabric' | 'hold' | 'air' | 'run';

/** What a check found: plain data, so that looking can be done in another thread. */
export interface CheckFinding {
  check: string;
  /** Id of the thing that it is about; null for the shot. */
  thing: string | null;
  /** Where it is mended by hand. */
  station: CheckStation;
  /** Whether the run cannot be what the artist wants; else it is worth a look. */
  grave: boolean;
  /** Nothing can be run as long as it is so. */
  hinders?: boolean;
  /** One plain sentence. */
  text: string;
  /** What the button says that mends it; null when only the artist can. */
  remedy: string | null;
  /** Numbers that the remedy needs. */
  numbers?: Record<string, number>;
  /** Mended by something other than an edit. */
  act?: 'bake' | 'free room';
}

/** How cloth lies when the run starts, measured by the solver. */
export interface StartState {
  /** How deep cloth is in each active collider, in m. */
  depths: { collider: string; depth: number }[];
  /** How many faces of cloth pass through the surface of each active collider. */
  pierced: { collider: string; count: number }[];
  /** Two active colliders that leave cloth between them too little room for its thickness, and how much is missing in m; null where none do. */
  squeezed: { between: [string, string]; missing: number } | null;
  /** Edges that pass through triangles. */
  crossings: number;
}

export interface CheckContext {
  shot: Shot;
  assets: Assets;
  /** Measured once, when a check asks for it; null when the shot cannot be compiled. */
  start: () => StartState | null;
  /** What the shot cannot see: null where it is not known. */
  bake: { stale: boolean; frames: number } | null;
  /** Bytes that can still be kept. */
  bytesFree: number | null;
}

/** A remedy: an edit of the document, with the new meshes that it names. */
export interface Remedy {
  apply: (draft: Shot) => void;
  assets?: Map<string, Mesh>;
}

/** One check before a run. Each is a file, and a line in CHECKS. */
export interface Check {
  id: string;
  look: (context: CheckContext) => CheckFinding[];
  mend?: (finding: CheckFinding, shot: Shot, assets: Assets) => Remedy | Promise<Remedy>;
}
