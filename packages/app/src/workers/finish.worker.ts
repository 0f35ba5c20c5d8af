import { FinishList, placesShown, type FinishEntry, type FinishGiven, type Mesh, type ShownPlaces } from '@lumbra/core';
import * as Comlink from 'comlink';

// Does the finish lists of cloths off the page's thread. The list of a cloth is prepared once and kept while its mesh and steps stay.

export interface FinishWork {
  cloth: string;
  /** Names mesh and steps: the same name is the same list. */
  name: string;
  entries: readonly FinishEntry[];
  places: ShownPlaces;
  masks: Map<string, Float32Array>;
  /** Meshes of other things that steps are about, at the frame. */
  things: Map<string, Mesh>;
}

const lists = new Map<string, { name: string; mesh: Mesh; list: FinishList }>();

const worker = {
  /** Prepares the list of a cloth for a mesh. Throws with a sentence for the artist where a step cannot be done. */
  prepare(cloth: string, name: string, mesh: Mesh, entries: readonly FinishEntry[], given: FinishGiven | null): Mesh {
    const list = new FinishList(mesh, entries, given);
    lists.set(cloth, { name, mesh, list });
    return list.mesh;
  },

  /** The finished places of a frame, x y z in m; null where the list was not prepared: the worker may have been started anew. */
  place({ cloth, name, entries, places, masks, things }: FinishWork): Float32Array | null {
    const known = lists.get(cloth);
    if (known?.name !== name) return null;
    const positions = placesShown(known.mesh, places);
    const placed = known.list.place(positions, entries, (id) => masks.get(id) ?? null, things);
    // What it was given comes back where no step is on; that is not ours to move.
    const moved = placed === positions ? placed.slice() : placed;
    return Comlink.transfer(moved, [moved.buffer as ArrayBuffer]);
  },
};

export type FinishWorker = typeof worker;

Comlink.expose(worker);
