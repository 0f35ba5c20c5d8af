import { controlsOf, isStraight, sidesOf, type BorderSide, type PatternNode } from '@lumbra/core';

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
