import { boxTree, fabricShareAt, maskBytes, nearestPlace, rampValues, shapeMesh, type Ramp } from '@lumbra/core';
import { shallowRef } from 'vue';
import { useHoldActs } from '../../acts/useHoldActs';
import { followDrag } from '../../pointer/followDrag';
import { useDocumentStore } from '../../session/document';
import { useNoticeStore } from '../../stores/notice';
import { useSelectionStore } from '../../stores/selection';
import type { CanvasPlace, ViewContext } from '../viewPart';

/** A ramp while it is drawn: its ends on the canvas in CSS pixels, and for a round one how far they are apart. */
export interface RampLine {
  from: [number, number];
  to: [number, number];
  reach: number;
  round: boolean;
  /** It is 0 % at its beginning. */
  inverted: boolean;
}

/** Nearer ends than this, as shares of the fabric, are a slip of the hand and no ramp. */
const LEAST = 0.01;

/** Draws ramps on cloth from where the pointer is pressed to where it is let go. */
export function useRampTool({ stage, scene }: ViewContext) {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  const notice = useNoticeStore();
  const { addMask, setRamp } = useHoldActs();
  const line = shallowRef<RampLine | null>(null);

  function press(event: PointerEvent, place: (event: MouseEvent) => CanvasPlace): void {
    const { cloth } = selection;
    const positions = cloth && scene().positions.get(cloth.id);
    if (!cloth || !positions || !document.writable()) return;
    const mesh = shapeMesh(cloth.shape, document.assets);
    const surface = { ...mesh, positions };
    const tree = boxTree(surface);
    /** The place of the fabric under the pointer. */
    const shareAt = (at: CanvasPlace): [number, number] | null => {
      const found = stage.picking.placeOnCloth(cloth.id, at.x, at.y);
      const near = found && nearestPlace(surface, tree, found);
      return near ? fabricShareAt(mesh, near) : null;
    };
    const start = place(event);
    const from = shareAt(start);
    if (!from) return notice.remark(`Start the ramp on ${cloth.name}.`);
    const round = selection.tool === 'round ramp';
    const chosen = cloth.masks.find(({ id }) => id === selection.maskId)?.ramp;
    const kind = round ? ('round' as const) : ('straight' as const);
    let drawn: Ramp | null = null;

    const move = (at: PointerEvent) => {
      const now = place(at);
      const to = shareAt(now);
      if (!to) return;
      const reach = Math.hypot(now.x - start.x, now.y - start.y);
      const { waves = false, inverted = false, phase = 0 } = chosen ?? {};
      line.value = { from: [start.x, start.y], to: [now.x, now.y], reach, round, inverted };
      if (Math.hypot(to[0] - from[0], to[1] - from[1]) < LEAST) return;
      drawn = { kind, from, to, waves, inverted, phase };
      selection.maskDraft = maskBytes(rampValues(mesh, drawn, drawn.phase));
    };
    const cancel = () => {
      line.value = null;
      selection.maskDraft = null;
    };
    const end = () => {
      cancel();
      if (drawn) take(drawn, chosen !== undefined && chosen !== null);
    };
    followDrag(event, { from: 0, move: (_dx, _dy, at) => move(at), end, cancel });
  }

  /** A chosen ramp is drawn anew; else the drawn one is a new mask. */
  function take(drawn: Ramp, again: boolean): void {
    if (again) setRamp(selection.maskId!, 'Draw ramp', (ramp) => Object.assign(ramp, drawn));
    else addMask(drawn.kind === 'round' ? 'Round ramp' : 'Ramp', drawn);
  }

  return { press, line };
}
