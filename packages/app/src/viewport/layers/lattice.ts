import { controlIndex, controlPlaces, type Counts, type Vector3 } from '@lumbra/core';
import { Group } from 'three';
import { onScopeDispose, watchEffect } from 'vue';
import { useFinishingStore } from '../../stores/finishing';
import { useLatticeNow } from '../../stores/latticeNow';
import { useSelectionStore } from '../../stores/selection';
import { LineDrawing } from '../lineDrawing';
import { PinMarksDrawing } from '../pinMarks';
import type { ViewLayer } from '../viewPart';

/** The open lattice: its points, and lines from each to the next along every axis. */
export const lattice: ViewLayer = ({ stage, scene }) => {
  const selection = useSelectionStore();
  const finishing = useFinishingStore();
  const { controls } = useLatticeNow();
  const lines = new LineDrawing({ width: 1.25, onTop: true });
  const dots = new PinMarksDrawing();
  const group = new Group();
  group.add(lines.group, dots.group);
  const remove = stage.add(group, (camera, height) => dots.draw(camera, height));

  watchEffect(() => {
    const { shot, frame, evening } = scene();
    // The theme is asked so that the colours are read anew with it.
    void evening;
    const style = getComputedStyle(document.documentElement);
    const colour = (name: string) => style.getPropertyValue(name).trim();
    const open = finishing.lattice;
    // As it is shown: with what waits to be keyed.
    const cloth = shot.things.find(({ id }) => id === selection.cloth?.id);
    const placed = open?.on && cloth?.role === 'cloth' ? controls(cloth, open.id, frame) : null;
    const chosen = new Set(finishing.controls);
    const of = (wanted: boolean) => (placed?.moved ?? []).filter((_, i) => chosen.has(i) === wanted).flat();
    lines.set(placed ? along(placed.counts, placed.moved) : [], colour('--ink-6'));
    dots.set([
      { places: of(false), colour: colour('--ink-9'), kind: 'control' },
      { places: of(true), colour: colour('--madder'), kind: 'control' },
    ]);
    stage.invalidate();
  });
  onScopeDispose(() => {
    lines.dispose();
    dots.clear();
    remove();
  });
};

/** Lines from each point to the next along every axis, two places each. */
function along(counts: Counts, places: readonly Vector3[]): number[] {
  return controlPlaces(counts).flatMap((at) =>
    [0, 1, 2].flatMap((axis) => {
      if (at[axis]! + 1 >= counts[axis]!) return [];
      const next = at.map((i, other) => (other === axis ? i + 1 : i)) as unknown as Counts;
      return [...places[controlIndex(counts, at)]!, ...places[controlIndex(counts, next)]!];
    }),
  );
}
