import {
  keyOwner,
  keyedNumbers,
  keyRange,
  moveKnots,
  trackOf,
  type Ease,
  type KeyedOwner,
  type KnotPlace,
} from '@lumbra/core';
import { computed, ref } from 'vue';
import { useDocumentStore } from '../session/document';
import { knotId, useSelectionStore } from '../stores/selection';

/** Knots of all numbers of what is selected at one frame. */
export interface KnotMark {
  frame: number;
  places: KnotPlace[];
  /** How it goes on; several when the numbers differ. */
  eases: Ease[];
}

/** The knots of the selected things, at the Air station of gravity and of selected air, and how they are moved. */
export function useKnots() {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  /** Frames by which the selected knots are being dragged. */
  const draggedBy = ref(0);

  const owners = computed<{ id: string | null; owner: KeyedOwner }[]>(() => {
    const shot = document.shot;
    if (!shot) return [];
    const all = selection.allSelected();
    const isAir = (id: string) => shot.things.find((thing) => thing.id === id)?.role === 'air';
    const ids = selection.station === 'air' ? [null, ...all.filter(isAir)] : all;
    return ids.flatMap((id) => {
      const owner = keyOwner(shot, id);
      return owner ? [{ id, owner }] : [];
    });
  });

  const marks = computed<KnotMark[]>(() => {
    const found = new Map<number, KnotMark>();
    for (const { id, owner } of owners.value) {
      for (const number of keyedNumbers(owner)) {
        for (const { frame, ease } of trackOf(owner, number)!.knots) {
          const mark = found.get(frame) ?? { frame, places: [], eases: [] };
          mark.places.push({ thing: id, number, frame });
          if (!mark.eases.includes(ease)) mark.eases.push(ease);
          found.set(frame, mark);
        }
      }
    }
    return [...found.values()].sort((a, b) => a.frame - b.frame);
  });

  const selectedIds = computed(() => new Set(selection.knots.map(knotId)));
  const isSelected = (place: KnotPlace) => selectedIds.value.has(knotId(place));

  function select(places: readonly KnotPlace[], add: boolean): void {
    if (!add) selection.knots = places;
    else if (places.every(isSelected)) {
      const leaving = new Set(places.map(knotId));
      selection.knots = selection.knots.filter((place) => !leaving.has(knotId(place)));
    } else selection.knots = [...selection.knots, ...places.filter((place) => !isSelected(place))];
  }

  /** So many frames that no selected knot leaves the shot. */
  function inRange(by: number): number {
    const { first, last } = keyRange(document.shot!);
    const frames = selection.knots.map(({ frame }) => frame);
    return Math.max(first - Math.min(...frames), Math.min(last - Math.max(...frames), Math.round(by)));
  }

  /** Moves the selected knots, or copies them; refused with the reason where they would land on others. */
  function move(by: number, copy: boolean): void {
    draggedBy.value = 0;
    if (by === 0) return;
    const places = selection.knots;
    const many = places.length > 1 ? `${places.length} keys` : 'a key';
    const done = document.edit(`${copy ? 'Copy' : 'Move'} ${many}`, (draft) => moveKnots(draft, places, by, copy));
    if (done) selection.knots = places.map((place) => ({ ...place, frame: place.frame + by }));
  }

  return { owners, marks, isSelected, select, inRange, move, draggedBy };
}
