import { finishNumber, STILL, type Vector3 } from '@lumbra/core';
import { onScopeDispose, watch } from 'vue';
import { useDocumentStore } from '../../session/document';
import { useFinishingStore } from '../../stores/finishing';
import { useKeyingStore } from '../../stores/keying';
import { useLatticeNow } from '../../stores/latticeNow';
import { useSelectionStore } from '../../stores/selection';
import type { UseViewTool } from '../viewPart';

/** A press takes the control point within so many CSS pixels. */
const REACH = 12;
/** Control points are moved in steps of so many m. */
const STEP = 1e-5;

/** Chooses points of the open lattice, and moves those that are chosen as one. */
export const latticeHandles: UseViewTool = ({ stage, scene }) => {
  const document = useDocumentStore();
  const finishing = useFinishingStore();
  const keying = useKeyingStore();
  const selection = useSelectionStore();
  const { controls } = useLatticeNow();

  /** Where the points of the open lattice are; null where there is none to be worked on. */
  function places(): Vector3[] | null {
    const open = finishing.lattice;
    const cloth = scene().shot.things.find(({ id }) => id === selection.cloth?.id);
    if (!open?.on || cloth?.role !== 'cloth' || document.readOnly) return null;
    return controls(cloth, open.id, scene().frame)?.moved ?? null;
  }

  /** The middle of the chosen points. */
  function middle(): Vector3 | null {
    const all = places();
    const chosen = finishing.controls.flatMap((i) => (all?.[i] ? [all[i]] : []));
    if (chosen.length === 0) return null;
    return [0, 1, 2].map(
      (axis) => chosen.reduce((sum, at) => sum + at[axis]!, 0) / chosen.length,
    ) as unknown as Vector3;
  }

  function moveTo(to: Vector3): void {
    const [from, open, cloth] = [middle(), finishing.lattice, selection.cloth];
    if (!from || !open || !cloth) return;
    const numbers: Record<string, number> = {};
    for (const control of finishing.controls) {
      for (const axis of [0, 1, 2] as const) {
        const number = finishNumber(open.id, `points.${control * 3 + axis}`);
        const now = keying.shown(cloth.id, number);
        const value = Math.round((now + to[axis] - from[axis]) / STEP) * STEP;
        if (Math.abs(value - now) > STEP / 2) numbers[number] = value;
      }
    }
    if (Object.keys(numbers).length === 0) return;
    const label = `${cloth.name}, move lattice point${finishing.controls.length > 1 ? 's' : ''}`;
    keying.change(cloth.id, numbers, { label, live: true, merge: `${open.id}.points` });
  }

  const release = stage.handles.serve({
    dragging: (on) => {
      if (!on) document.endMerge();
    },
    placed: ({ center }) => moveTo(center),
    sized: () => undefined,
  });
  watch(
    [scene, () => finishing.controls, () => finishing.lattice] as const,
    () => {
      const at = middle();
      stage.showHandles(at ? 'move' : null, at && { ...STILL, center: at });
    },
    { immediate: true },
  );
  onScopeDispose(() => {
    stage.showHandles(null, null);
    release();
  });

  return {
    press: (event, place) => {
      if (stage.handles.engaged) return true;
      const { x, y } = place(event);
      const near = (places() ?? []).flatMap((at, i) => {
        const seen = stage.picking.project([...at]);
        const away = seen ? Math.hypot(seen.x - x, seen.y - y) : Infinity;
        return away <= REACH ? [{ i, away }] : [];
      });
      const nearest = near.sort((a, b) => a.away - b.away)[0];
      if (!nearest) return false;
      finishing.choose(nearest.i, event.shiftKey || event.ctrlKey || event.metaKey);
      return true;
    },
  };
};
