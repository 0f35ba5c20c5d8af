import { useElementSize } from '@vueuse/core';
import { computed, ref, watch, type Ref } from 'vue';
import { followDrag } from '../../pointer/followDrag';
import { gridStep, type FlatLook } from './flatSpace';

/** How far in and out one can look, in pixels a metre. */
const SCALES = { least: 5, most: 20_000 };
/** Room around what is fitted in, in pixels: on top for the way back and for the name of the topmost piece below it. */
const AROUND = { across: 120, top: 92, bottom: 56 };

/**
 * From where the pieces laid out flat are looked at: all of them at first, and again when their number changes. The wheel zooms about the pointer,
 * dragging moves.
 *
 * @param holder the drawing
 * @param laid how wide and high all is, in m, around 0, and how many pieces there are
 */
export function useFlatLook(
  holder: Ref<SVGSVGElement | null>,
  laid: () => { width: number; height: number; count: number },
) {
  const { width, height } = useElementSize(holder);
  const look = ref<FlatLook>({ scale: 400, middle: [0, 0] });
  /** Until its size is known, what is drawn lies anywhere. */
  const measured = computed(() => width.value > 0 && height.value > 0);
  /** One pixel in m. */
  const px = computed(() => 1 / look.value.scale);
  const grid = computed(() => gridStep(look.value.scale));
  /** What is seen, in m, v down. */
  const box = computed(() => {
    const { scale, middle } = look.value;
    const [w, h] = [Math.max(1, width.value) / scale, Math.max(1, height.value) / scale];
    return { u: middle[0] - w / 2, v: -middle[1] - h / 2, w, h };
  });

  const bounded = (scale: number) => Math.max(SCALES.least, Math.min(SCALES.most, scale));
  let fitted = 0;
  watch(
    [width, height, () => laid().count] as const,
    ([across, down, count]) => {
      if (!across || !down || count === fitted) return;
      fitted = count;
      const { width: w, height: h } = laid();
      if (w <= 0 || h <= 0) return;
      const scale = bounded(Math.min((across - AROUND.across) / w, (down - AROUND.top - AROUND.bottom) / h));
      look.value = { scale, middle: [0, (AROUND.top - AROUND.bottom) / 2 / scale] };
    },
    { immediate: true },
  );

  /** The place under the pointer, in m. */
  function placeOf(event: MouseEvent): [number, number] {
    const rect = holder.value!.getBoundingClientRect();
    const { scale, middle } = look.value;
    return [
      middle[0] + (event.clientX - rect.left - rect.width / 2) / scale,
      middle[1] - (event.clientY - rect.top - rect.height / 2) / scale,
    ];
  }

  function zoom(event: WheelEvent): void {
    const before = placeOf(event);
    const scale = bounded(look.value.scale * 1.0015 ** -event.deltaY);
    look.value = { ...look.value, scale };
    const after = placeOf(event);
    const { middle } = look.value;
    look.value = { scale, middle: [middle[0] + before[0] - after[0], middle[1] + before[1] - after[1]] };
  }

  /** Moves what is seen; `clicked` when it was only pressed. */
  function pan(event: PointerEvent, clicked: () => void): void {
    const { middle, scale } = look.value;
    followDrag(event, {
      move: (dx, dy) => (look.value = { scale, middle: [middle[0] - dx / scale, middle[1] + dy / scale] }),
      end: (moved) => moved || clicked(),
      cancel: () => (look.value = { scale, middle }),
      escapes: false,
    });
  }

  return { look, measured, px, grid, box, placeOf, zoom, pan };
}
