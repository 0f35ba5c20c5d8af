import type { Assets, Shot } from '@lumbra/core';
import type { ShownMesh } from '../stores/finished';
import type { ViewMode } from '../stores/selection';

export type { ShownMesh } from '../stores/finished';

/** What a viewport draws: one frame of one take. Two viewports with a scene each can stand side by side. */
export interface Scene {
  shot: Shot;
  assets: Assets;
  /** At which keyed things are shown; not always whole. */
  frame: number;
  /** Points of the simulated meshes by the ids of their cloths, x y z in m; tools work on these. */
  positions: ReadonlyMap<string, Float32Array>;
  /** Cloths that are drawn as another mesh than the simulated one, by id. */
  shown?: ReadonlyMap<string, ShownMesh>;
  mode: ViewMode;
  /** Drawn with fewer pixels and without shadows. */
  quick: boolean;
  /** Ids of things that are outlined. */
  selected: readonly string[];
  evening: boolean;
}
