import {
  finishAt,
  finishGiven,
  finishGivenKey,
  finishKey,
  finishMasks,
  finishThings,
  shapeMesh,
  type Assets,
  type Cloth,
  type Mesh,
  type Shot,
  type ShownPlaces,
} from '@lumbra/core';
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import { finishHost } from '../workers/hosts';
import { errorText } from './notice';

/** A mesh that is drawn in place of the simulated one of a cloth, and where its points are: x y z in m. */
export interface ShownMesh {
  mesh: Mesh;
  positions: Float32Array;
}

/** What is to be finished: a frame of a shot. */
interface Wanted {
  shot: Shot;
  assets: Assets;
  frame: number;
  /** Where its cloths are by their ids; those of which a frame is still being read are missing, and stay as they are. */
  places: ReadonlyMap<string, ShownPlaces>;
}

interface Prepared {
  name: string;
  mesh: Mesh;
}

/**
 * Cloth as its finish list makes it, computed in a worker for the frame that is looked at. What was finished last stays until the next is
 * there; of frames that come faster than they are done, only the newest is done.
 */
export const useFinishedStore = defineStore('finished', () => {
  /** Whether cloth is shown as it was simulated. */
  const raw = ref(false);
  const shown = shallowRef<ReadonlyMap<string, ShownMesh>>(new Map());
  /** Why a cloth cannot be finished, by its id. */
  const problems = shallowRef<ReadonlyMap<string, string>>(new Map());
  const prepared = new Map<string, Prepared>();
  let wanted: Wanted | null = null;
  /** Whether cloth is to be shown finished at all, as it was asked last. */
  let shows = false;
  let busy = false;

  /** Finishes a frame, or with null shows what was simulated. */
  function show(next: Wanted | null): void {
    wanted = next;
    shows = next !== null;
    if (!next) {
      if (shown.value.size > 0) shown.value = new Map();
      return;
    }
    if (!busy) void work();
  }

  async function work(): Promise<void> {
    busy = true;
    try {
      while (wanted) {
        const now = wanted;
        wanted = null;
        const [made, wrong] = await finish(now);
        problems.value = wrong;
        // Asked to show what was simulated meanwhile, it stays so.
        if (shows) shown.value = made;
      }
    } finally {
      busy = false;
    }
  }

  async function finish({
    shot,
    assets,
    frame,
    places,
  }: Wanted): Promise<[Map<string, ShownMesh>, Map<string, string>]> {
    const made = new Map<string, ShownMesh>();
    const wrong = new Map<string, string>();
    for (const cloth of shot.things) {
      if (cloth.role !== 'cloth' || !cloth.finish.some(({ on }) => on)) continue;
      const own = places.get(cloth.id);
      const before = shown.value.get(cloth.id);
      if (!own) {
        if (before) made.set(cloth.id, before);
        continue;
      }
      try {
        made.set(cloth.id, await finishCloth(shot, cloth, assets, frame, own));
      } catch (error) {
        wrong.set(cloth.id, errorText(error));
      }
    }
    return [made, wrong];
  }

  async function finishCloth(
    shot: Shot,
    cloth: Cloth,
    assets: Assets,
    frame: number,
    places: ShownPlaces,
  ): Promise<ShownMesh> {
    const mesh = shapeMesh(cloth.shape, assets);
    const name = `${meshName(mesh)} ${finishKey(cloth.finish)} ${finishGivenKey(shot, cloth)}`;
    const entries = finishAt(cloth, frame);
    const masks = finishMasks(cloth, mesh, frame);
    const things = finishThings(shot, cloth, assets, frame);
    // Once more where the worker has been started anew.
    for (let attempt = 0; attempt < 2; attempt++) {
      if (prepared.get(cloth.id)?.name !== name || attempt > 0) {
        const given = finishGiven(shot, cloth, assets);
        const fine = await finishHost.call<Mesh>((api) => api.prepare(cloth.id, name, mesh, cloth.finish, given));
        prepared.set(cloth.id, { name, mesh: fine });
      }
      const placed = await finishHost.call<Float32Array | null>((api) =>
        api.place({ cloth: cloth.id, name, entries, places, masks, things }),
      );
      if (placed) return { mesh: prepared.get(cloth.id)!.mesh, positions: placed };
    }
    throw new Error('The finish list could not be done. Reload the page, and it is done anew.');
  }

  return { raw, shown, problems, show };
});

/** A name for a mesh that stays its own while it lives. */
function meshName(mesh: Mesh): number {
  const known = names.get(mesh) ?? ++lastName;
  names.set(mesh, known);
  return known;
}
const names = new WeakMap<Mesh, number>();
let lastName = 0;
