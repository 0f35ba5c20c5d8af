import { onScopeDispose, shallowRef, watch, watchEffect } from 'vue';
import type { Shot } from '@lumbra/core';
import { useSelectionStore } from '../../stores/selection';
import { LineDrawing } from '../lineDrawing';
import type { ViewLayer } from '../viewPart';
import { tiedCloths, tieLines, type TiedCloth } from './tieLines';

/** A document never changes in place. */
const known = new WeakMap<Shot, readonly TiedCloth[]>();

/** Stitches from tied points to what they are tied to. */
export const ties: ViewLayer = ({ stage, scene }) => {
  const selection = useSelectionStore();
  const lines = new LineDrawing({ width: 2, stitch: { dash: 0.008, gap: 0.004 }, onTop: true });
  const remove = stage.add(lines.group);
  const tied = shallowRef<readonly TiedCloth[]>([]);
  let asked = 0;

  /** Finds what holds cloth, a tie in each turn of the page's thread; what was found before is shown until all is there. */
  async function find(): Promise<void> {
    const mine = ++asked;
    const { shot, assets } = scene();
    const found: TiedCloth[] = [];
    if (!known.has(shot)) {
      for (const one of tiedCloths(shot, assets)) {
        found.push(one);
        await new Promise((resolve) => setTimeout(resolve));
        if (mine !== asked) return;
      }
      known.set(shot, found);
    }
    tied.value = known.get(shot)!;
  }
  watch([() => scene().shot, () => scene().assets, () => selection.showTies], () => selection.showTies && void find(), {
    immediate: true,
  });

  watchEffect(() => {
    const { shot, positions, frame, evening } = scene();
    // The theme is asked so that the colour is read anew with it.
    void evening;
    const colour = getComputedStyle(document.documentElement).getPropertyValue('--madder').trim();
    lines.set(selection.showTies ? tieLines(tied.value, shot, positions, frame) : [], colour);
    stage.invalidate();
  });
  onScopeDispose(() => {
    asked++;
    lines.dispose();
    remove();
  });
};
