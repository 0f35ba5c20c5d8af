import { borderStretch, maskBytes, maskValues, nearestBorderPoint, shapeMesh } from '@lumbra/core';
import { ref, shallowRef } from 'vue';
import { useHoldActs } from '../stations/hold/useHoldActs';
import { useDocumentStore } from '../stores/document';
import { useNoticeStore } from '../stores/notice';
import { POINT_TOOLS, useSelectionStore } from '../stores/selection';
import { PaintStroke } from './paintStroke';
import type { StageView } from './stageView';
import { useRampTool } from './useRampTool';

/** A click takes the point within so many CSS pixels. */
const REACH = 14;

/** The tools that select and paint points of the selected cloth in the viewport. */
export function usePointTools(
  view: () => StageView | null,
  shown: () => ReadonlyMap<string, Float32Array>,
  frame: () => number,
) {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  const notice = useNoticeStore();
  const { setMask } = useHoldActs();
  /** What is drawn around points, as corners in CSS pixels. */
  const outline = shallowRef<readonly (readonly [number, number])[]>([]);
  /** Where the brush is, and its size in CSS pixels. */
  const brushAt = shallowRef<{ x: number; y: number; pixels: number } | null>(null);
  /** The first end of a stretch of border, until the second is clicked. */
  const stretchFrom = ref(-1);

  const ramps = useRampTool(view, shown);

  const active = () => selection.station === 'hold' && POINT_TOOLS.includes(selection.tool) && selection.cloth !== null;
  const meshOf = () => shapeMesh(selection.cloth!.shape, document.assets);

  /** Selects found points as the modifiers say: instead, besides, or not any more. */
  function take(found: readonly number[], event: { shiftKey: boolean; altKey: boolean }): void {
    if (event.altKey) {
      const leaving = new Set(found);
      selection.setPoints(selection.points.filter((point) => !leaving.has(point)));
    } else selection.setPoints(event.shiftKey ? [...selection.points, ...found] : found);
  }

  /** Starts a tool where the pointer was pressed. `place` gives a pointer's place on the canvas. */
  function press(event: PointerEvent, place: (event: PointerEvent) => { x: number; y: number }): void {
    const [stage, cloth] = [view(), selection.cloth];
    if (!stage || !cloth) return;
    if (selection.tool === 'straight ramp' || selection.tool === 'round ramp') return ramps.press(event, place);
    const target = event.currentTarget as HTMLElement;
    const start = place(event);
    const path: [number, number][] = [[start.x, start.y]];
    target.setPointerCapture(event.pointerId);
    const stroke = selection.tool === 'brush' ? beginStroke() : null;
    if (stroke) paint(stroke, start);
    const move = (at: PointerEvent) => {
      // All places since the last frame, not only the newest: strokes stay true to the hand.
      for (const one of at.getCoalescedEvents?.() ?? [at]) {
        const now = place(one);
        if (selection.tool === 'lasso') path.push([now.x, now.y]);
        else if (stroke) paint(stroke, now);
      }
      const now = place(at);
      if (selection.tool === 'box') {
        outline.value = [
          [start.x, start.y],
          [now.x, start.y],
          [now.x, now.y],
          [start.x, now.y],
        ];
      } else if (selection.tool === 'lasso') outline.value = [...path];
      if (stroke) selection.maskDraft = stroke.values.slice();
    };
    const end = (at: PointerEvent) => {
      target.removeEventListener('pointermove', move);
      const corners = outline.value;
      outline.value = [];
      if (stroke) endStroke(stroke);
      else if (selection.tool === 'point') takeNearest(stage, cloth.id, place(at), at);
      else if (selection.tool === 'stretch') takeStretch(stage, cloth.id, place(at), at);
      else if (corners.length > 2) {
        take(
          stage.picking.pointsWhere(cloth.id, (x, y) => isInside(corners, x, y), selection.takesHidden),
          at,
        );
      }
    };
    target.addEventListener('pointermove', move);
    target.addEventListener('pointerup', end, { once: true });
  }

  function takeNearest(stage: StageView, cloth: string, at: { x: number; y: number }, event: PointerEvent): void {
    const found = stage.picking.nearestPoint(cloth, at.x, at.y, REACH, selection.takesHidden);
    if (found >= 0) take([found], event);
  }

  function takeStretch(stage: StageView, cloth: string, at: { x: number; y: number }, event: PointerEvent): void {
    const positions = shown().get(cloth);
    const near = stage.picking.nearestPoint(cloth, at.x, at.y, REACH * 3, selection.takesHidden);
    if (near < 0 || !positions) return;
    const found = nearestBorderPoint(meshOf(), positions, near);
    if (stretchFrom.value < 0) {
      stretchFrom.value = found;
      if (!event.shiftKey) selection.setPoints([found]);
      return;
    }
    take(borderStretch(meshOf(), stretchFrom.value, found), event);
    stretchFrom.value = -1;
  }

  function beginStroke(): PaintStroke | null {
    const cloth = selection.cloth!;
    const mask = cloth.masks.find(({ id }) => id === selection.maskId);
    if (!mask || !document.writable()) return null;
    if (mask.ramp) {
      notice.say(`${mask.name} is a ramp. Make it a painted mask first, or draw it anew.`);
      return null;
    }
    const values = maskBytes(maskValues(cloth, mask, meshOf(), frame()));
    return new PaintStroke(meshOf(), values, selection.brush);
  }

  function paint(stroke: PaintStroke, at: { x: number; y: number }): void {
    const cloth = selection.cloth!;
    const place = view()!.picking.placeOnCloth(cloth.id, at.x, at.y);
    const positions = shown().get(cloth.id);
    if (!place || !positions) return;
    stroke.to(place, positions, radiusAt(place));
    selection.maskDraft = stroke.values.slice();
  }

  function endStroke(stroke: PaintStroke): void {
    if (selection.maskId !== null) setMask(selection.maskId, 'Paint mask', stroke.values);
    selection.maskDraft = null;
  }

  /** The radius of the brush at a place on the cloth, in m. */
  function radiusAt(place: readonly [number, number, number]): number {
    const { unit, radius, pixels } = selection.brush;
    return unit === 'mm' ? radius : pixels / view()!.picking.pixelsAt(place);
  }

  /** Lets the ring of the brush follow the pointer. */
  function hover(at: { x: number; y: number }): void {
    const [stage, cloth] = [view(), selection.cloth];
    const place =
      stage && cloth && selection.tool === 'brush' ? stage.picking.placeOnCloth(cloth.id, at.x, at.y) : null;
    brushAt.value = place && { ...at, pixels: stage!.picking.pixelsAt(place) * radiusAt(place) };
  }

  function forgetStretch(): void {
    stretchFrom.value = -1;
    brushAt.value = null;
  }

  return { active, press, hover, outline, brushAt, rampLine: ramps.line, forgetStretch };
}

/** Whether a place is inside a closed line, by how often a ray from it crosses the line. */
function isInside(corners: readonly (readonly [number, number])[], x: number, y: number): boolean {
  let inside = false;
  corners.forEach(([ax, ay], i) => {
    const [bx, by] = corners[(i + 1) % corners.length]!;
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  });
  return inside;
}
