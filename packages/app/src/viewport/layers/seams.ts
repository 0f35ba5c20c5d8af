import { applyPose, pairsOfSeams, placesAlong, poseAt, type Stretch, type Vector3 } from '@lumbra/core';
import { Group } from 'three';
import { onScopeDispose, watchEffect } from 'vue';
import { usePatternStore } from '../../stores/pattern';
import { LineDrawing } from '../lineDrawing';
import type { ViewLayer } from '../viewPart';

/** No more stitches than this are drawn of a seam. */
const MOST = 60;
/** Borders are drawn in so many pieces, and of an offered seam every so many of them has a stitch. */
const CHORDS = 48;
const STITCHED = 6;

/** Seams as stitches from border to border, those that are offered, and the selected sides. */
export const seams: ViewLayer = ({ stage, scene }) => {
  const pattern = usePatternStore();
  const group = new Group();
  const look = (width: number) => new LineDrawing({ width, onTop: true });
  const [all, chosen, offered, sides] = [look(1.5), look(3), look(2), look(4)] as [
    ...[LineDrawing, LineDrawing, LineDrawing, LineDrawing],
  ];
  group.add(all.group, chosen.group, offered.group, sides.group);
  const remove = stage.add(group);

  watchEffect(() => {
    const { shot, positions, frame, evening } = scene();
    // The theme is asked so that the colours are read anew with it.
    void evening;
    const style = getComputedStyle(document.documentElement);
    const colour = (name: string) => style.getPropertyValue(name).trim();
    const { cloth, shape } = pattern;
    const lines: Record<'all' | 'chosen' | 'offered' | 'sides', number[]> = {
      ...{ all: [], chosen: [], offered: [], sides: [] },
    };
    if (cloth && shape && shot.things.some(({ id }) => id === cloth.id)) {
      const places = positions.get(cloth.id);
      if (places) {
        pairsOfSeams(shape).forEach((pairs, i) => {
          const step = Math.max(1, Math.ceil(pairs.length / MOST));
          const into = shape.seams[i]!.id === pattern.seamId ? lines.chosen : lines.all;
          pairs.forEach(([a, b], n) => {
            if (n % step === 0) into.push(...places.subarray(a * 3, a * 3 + 3), ...places.subarray(b * 3, b * 3 + 3));
          });
        });
      }
      const pose = poseAt(shot, cloth, frame);
      const along = (stretch: Stretch) =>
        placesAlong(shape.pieces, stretch, { count: CHORDS + 1 }).map((place) => applyPose(pose, place));
      for (const stretch of pattern.stretches) lines.sides.push(...chain(along(stretch)));
      for (const { a, b, turned } of pattern.offered) {
        const [one, other] = [along(a), along(b)];
        const facing = turned ? other : [...other].reverse();
        one.forEach((place, n) => {
          if (n % STITCHED === 0) lines.offered.push(...place, ...facing[n]!);
        });
        lines.offered.push(...chain(one), ...chain(other));
      }
      for (const { stretch } of pattern.offeredTies) lines.offered.push(...chain(along(stretch)));
    }
    all.set(lines.all, colour('--ink-6'));
    chosen.set(lines.chosen, colour('--madder'));
    offered.set(lines.offered, colour('--weld'));
    sides.set(lines.sides, colour('--indigo'));
    stage.invalidate();
  });
  onScopeDispose(() => {
    for (const drawn of [all, chosen, offered, sides]) drawn.dispose();
    remove();
  });
};

/** From each place to the next, two by two. */
function chain(places: readonly Vector3[]): number[] {
  return places.slice(1).flatMap((place, i) => [...places[i]!, ...place]);
}
