import { activeCloths, type PressedCloth } from '@lumbra/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { useDocumentStore } from '../session/document';
import { checksHost, checksSender } from '../workers/hosts';
import { errorText, useNoticeStore } from './notice';
import { useRunStore } from './run';
import { useSelectionStore } from './selection';
import { useTakesStore } from './takes';

/**
 * How hard air presses on the cloth that is shown, on demand and at the station of air. Computed in a worker; of frames that come faster
 * than they are done, only the newest is done.
 */
export const usePressureStore = defineStore('pressure', () => {
  const [document, run, takes] = [useDocumentStore(), useRunStore(), useTakesStore()];
  const [selection, notice] = [useSelectionStore(), useNoticeStore()];
  const on = ref(false);
  /** Pa at each point of each cloth, by its id. */
  const found = shallowRef<ReadonlyMap<string, Float32Array>>(new Map());
  const wanted = computed(() => on.value && selection.station === 'air' && document.shot !== null);
  let [busy, again] = [false, false];

  watch(
    [wanted, () => document.shot, () => run.shownFrame, () => run.arrived, () => run.pose, () => takes.version],
    () => void measure(),
  );

  async function measure(): Promise<void> {
    again = true;
    if (busy) return;
    busy = true;
    try {
      while (again) {
        again = false;
        found.value = wanted.value ? await ask() : new Map();
      }
    } catch (error) {
      on.value = false;
      notice.problem(`The pressure of the air cannot be shown: ${errorText(error)}`);
    } finally {
      busy = false;
    }
  }

  async function ask(): Promise<ReadonlyMap<string, Float32Array>> {
    const shot = document.shot!;
    const frame = run.shownFrame;
    const shown = run.shownPositions();
    // Of a pose outside the timeline, and while a frame is read and another one stays, nothing is known of the frame before.
    const earlier = run.pose || run.arrived !== frame ? undefined : takes.positionsAt(frame - 1);
    const cloths = activeCloths(shot).flatMap(({ id }, i): PressedCloth[] => {
      const positions = shown.get(id);
      return positions ? [{ id, positions, before: earlier?.[i] ?? null }] : [];
    });
    const sent = checksSender.pack(shot, document.currentAssets());
    return checksHost.call((api) => api.pressure(sent, frame, cloths));
  }

  /** The largest pressure anywhere on the cloth, in Pa, at least what is to be told from nothing. */
  const most = computed(() => {
    let largest = 0.01;
    for (const values of found.value.values()) for (const value of values) largest = Math.max(largest, value);
    return largest;
  });

  return { on, found, most };
});
