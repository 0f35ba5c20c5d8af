import { controlsOf, isStraight, openSidesOf, sidesOf, type BorderSide, type PatternNode } from '@lumbra/core';

/** How the flat view is looked at: pixels a metre, and the place in its middle. */
export interface FlatLook {
  scale: number;
  middle: [u: number, v: number];
}

const number = (value: number) => value.toFixed(5);

/** A side as the data of an SVG path; v points down there. */
export function sidePath(side: BorderSide, begin = true): string {
  const [a, b, c, d] = controlsOf(side).map(([u, v]) => `${number(u)} ${number(-v)}`) as [
    string,
    string,
    string,
    string,
  ];
  const start = begin ? `M${a}` : '';
  return isStraight(side) ? `${start}L${d}` : `${start}C${b} ${c} ${d}`;
}

export function loopPath(nodes: readonly PatternNode[]): string {
  return (
    sidesOf(nodes)
      .map((side, i) => sidePath(side, i === 0))
      .join('') + 'Z'
  );
}

/** An open path. */
export function openPath(nodes: readonly PatternNode[]): string {
  return openSidesOf(nodes)
    .map((side, i) => sidePath(side, i === 0))
    .join('');
}

/** Distance of the lines of the grid in m, so that they are 24 to 120 pixels apart. */
export function gridStep(scale: number): number {
  return [0.001, 0.005, 0.01, 0.05, 0.1, 0.5, 1, 5, 10].find((step) => step * scale >= 24) ?? 10;
}

/** What a dragged node keeps to: whole mm, and the u and v of other nodes that are as near as this, in pixels. */
const NEAR = 6;

export interface Snapped {
  at: [number, number];
  /** The u and v that it has in common with another node. */
  guides: { u: number | null; v: number | null };
}

export function snapped(
  at: readonly [number, number],
  others: readonly (readonly [number, number])[],
  scale: number,
  free: boolean,
): Snapped {
  if (free) return { at: [at[0], at[1]], guides: { u: null, v: null } };
  const near = (axis: 0 | 1): number | null => {
    let best: number | null = null;
    for (const other of others) {
      const off = Math.abs(other[axis] - at[axis]);
      if (off * scale < NEAR && (best === null || off < Math.abs(best - at[axis]))) best = other[axis];
    }
    return best;
  };
  const guides = { u: near(0), v: near(1) };
  const whole = (value: number) => Math.round(value * 1000) / 1000;
  return { at: [guides.u ?? whole(at[0]), guides.v ?? whole(at[1])], guides };
}

/** What of a node is dragged. */
export type NodePart = 'at' | 'before' | 'after';

/** A node that was dragged, or one of its handles, to a place in m. The other handle of a smooth node turns along and keeps its length, unless it is dragged alone. */
export function draggedNode(
  node: PatternNode,
  part: NodePart,
  to: readonly [number, number],
  alone: boolean,
): Partial<PatternNode> {
  if (part === 'at') return { at: [to[0], to[1]] };
  const handle: [number, number] = [to[0] - node.at[0], to[1] - node.at[1]];
  const other = part === 'before' ? 'after' : 'before';
  const size = Math.hypot(...handle);
  const length = node[other] ? Math.hypot(...node[other]) : 0;
  if (alone || !isSmooth(node) || length === 0 || size === 0) return { [part]: handle };
  return { [part]: handle, [other]: [(-handle[0] / size) * length, (-handle[1] / size) * length] };
}

/** Whether a curve goes on without a corner. */
function isSmooth({ before, after }: PatternNode): boolean {
  if (!before || !after) return false;
  const turn = before[0] * after[1] - before[1] * after[0];
  return Math.abs(turn) < 0.02 * Math.hypot(...before) * Math.hypot(...after);
}
