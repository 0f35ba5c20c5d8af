import { activeCloths, holdsOf, releaseOf, shapeMesh } from '@lumbra/core';
import { onScopeDispose, watchEffect } from 'vue';
import { useSelectionStore } from '../../stores/selection';
import { PinMarksDrawing, type PinMarks } from '../pinMarks';
import type { ViewLayer } from '../viewPart';

/** Pins at what is held, the chosen hold in colour, and dots at selected points. Over masks only the chosen hold is shown, so that they are seen. */
export const pins: ViewLayer = ({ stage, scene }) => {
  const selection = useSelectionStore();
  const drawing = new PinMarksDrawing();
  const remove = stage.add(drawing.group, (camera, height) => drawing.draw(camera, height));

  watchEffect(() => {
    const { shot, assets, frame, positions, evening } = scene();
    const marks: PinMarks[] = [];
    // The theme is asked so that the page’s colours are read anew with it.
    void evening;
    const colours = inkOf();
    for (const cloth of activeCloths(shot)) {
      const points = positions.get(cloth.id);
      if (!points?.length || !cloth.visible) continue;
      const placesOf = (of: readonly number[]) => of.flatMap((at) => [...points.subarray(at * 3, at * 3 + 3)]);
      for (const set of holdsOf(cloth)) {
        if (selection.holdWork === 'masks' && set.id !== selection.holdId) continue;
        const colour = set.id === selection.holdId ? colours.chosen : colours.held;
        // What was let go of is held no more.
        const free = set.release === null ? null : releaseOf(cloth, set, shapeMesh(cloth.shape, assets))?.(frame);
        const held = free ? set.points.filter((_, i) => !free[i]) : set.points;
        marks.push({ places: placesOf(held), colour, kind: 'pin' });
      }
      if (cloth.id === selection.cloth?.id && selection.points.length > 0)
        marks.push({ places: placesOf(selection.points), colour: colours.selected, kind: 'dot' });
    }
    drawing.set(marks);
    stage.invalidate();
  });
  onScopeDispose(() => {
    drawing.clear();
    remove();
  });
};

/** The page's own colours. */
function inkOf(): Record<'chosen' | 'held' | 'selected', string> {
  const css = getComputedStyle(document.documentElement);
  const colour = (name: string) => css.getPropertyValue(name).trim();
  return { chosen: colour('--indigo'), held: colour('--ink-9'), selected: colour('--weld') };
}
