import { pointCount, shapeMesh, simulatedCloths } from '@lumbra/core';
import { useLocalStorage } from '@vueuse/core';
import { computed, watch, type ComputedRef } from 'vue';
import { useDocumentStore } from '../session/document';
import { useRunStore } from './run';
import { useTakesStore } from './takes';

/** Milliseconds a point and substep, measured on an ordinary machine; replaced by this machine's own after its first bake. */
const FIRST_GUESS = 5e-4;

/** How long a frame of the open shot is likely to take, in words; learnt from the bakes that this machine has done. */
export function useExpectedTime(substeps: ComputedRef<number>): ComputedRef<string> {
  const document = useDocumentStore();
  const run = useRunStore();
  const takes = useTakesStore();
  const cost = useLocalStorage('lumbra.cost', FIRST_GUESS);
  /** Cloth whose motion is given costs little. */
  const points = computed(() =>
    document.shot
      ? simulatedCloths(document.shot).reduce(
          (sum, { shape }) => sum + pointCount(shapeMesh(shape, document.assets)),
          0,
        )
      : 0,
  );
  watch(
    () => run.progress?.done,
    (done) => {
      if (!done || done < 4 || !run.progress || points.value === 0) return;
      const frame = run.progress.perFrame;
      cost.value = frame / (points.value * (run.currentStats?.substeps ?? takes.lastSpan?.substeps ?? substeps.value));
    },
  );
  return computed(() => {
    const seconds = (cost.value * points.value * substeps.value) / 1000;
    return seconds < 1
      ? `${Math.max(10, Math.round(seconds * 100) * 10)} ms a frame`
      : `${seconds.toFixed(1)} s a frame`;
  });
}
