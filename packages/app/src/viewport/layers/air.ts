import { activeAir, airArrows, cross, direction, length, type Vector3 } from '@lumbra/core';
import { Group } from 'three';
import { onScopeDispose, watchEffect } from 'vue';
import { useSelectionStore } from '../../stores/selection';
import { LineDrawing } from '../lineDrawing';
import type { ViewLayer } from '../viewPart';

/** Length in m of an arrow for each m/s, and the longest that is drawn. */
const PER_SPEED = 0.1;
const LONGEST = 0.7;
/** Size of an arrow's head as a share of its length. */
const HEAD = 0.2;

/** Where air blows and how hard: arrows in its reach, and stitches around that of the selected one. */
export const air: ViewLayer = ({ stage, scene }) => {
  const selection = useSelectionStore();
  const group = new Group();
  const [faint, strong] = [1.5, 2.5].map((width) => new LineDrawing({ width })) as [LineDrawing, LineDrawing];
  const [around, chosenAround] = [1, 2].map((width) => new LineDrawing({ width })) as [LineDrawing, LineDrawing];
  group.add(faint.group, strong.group, around.group, chosenAround.group);
  const remove = stage.add(group);

  watchEffect(() => {
    const { shot, frame, evening } = scene();
    // The theme is asked so that the colours are read anew with it.
    void evening;
    const style = getComputedStyle(document.documentElement);
    const [indigo, ink] = [style.getPropertyValue('--indigo').trim(), style.getPropertyValue('--ink-6').trim()];
    const lines: Record<'faint' | 'strong' | 'around' | 'chosenAround', number[]> = {
      faint: [],
      strong: [],
      around: [],
      chosenAround: [],
    };
    for (const thing of activeAir(shot)) {
      if (!thing.visible) continue;
      const chosen = thing.id === selection.thingId;
      const { arrows, outline } = airArrows(shot, thing, frame);
      for (const { place, along } of arrows) lines[chosen ? 'strong' : 'faint'].push(...arrowLines(place, along));
      lines[chosen ? 'chosenAround' : 'around'].push(...outline.flat());
    }
    faint.set(lines.faint, ink);
    strong.set(lines.strong, indigo);
    around.set(lines.around, ink);
    chosenAround.set(lines.chosenAround, indigo);
    stage.invalidate();
  });
  onScopeDispose(() => {
    for (const drawn of [faint, strong, around, chosenAround]) drawn.dispose();
    remove();
  });
};

/** An arrow through a place, as long as the air is fast: places two by two, x y z each. */
function arrowLines(place: Vector3, along: Vector3): number[] {
  const size = length(along);
  if (size < 0.02) return [];
  const long = Math.min(LONGEST, size * PER_SPEED);
  const way = along.map((value) => value / size) as unknown as Vector3;
  // Any direction square to the arrow will do for its head.
  const side = direction(cross(way, Math.abs(way[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0]))!;
  const at = (forward: number, aside: number): number[] =>
    [0, 1, 2].map((axis) => place[axis]! + long * (way[axis]! * forward + side[axis]! * aside));
  const tip = at(0.5, 0);
  return [at(-0.5, 0), tip, tip, at(0.5 - HEAD, HEAD / 2), tip, at(0.5 - HEAD, -HEAD / 2)].flat();
}
