import { asPolygon, isInside, openSidesOf, placeAt, signedArea, type FlatPlace } from '../../../mesh/outline/path';
import type { PatternNode } from '../../../pattern/schema';

/** An outline with its holes, around its middle, and where that lies in the drawing, in m. */
export interface Outline {
  name: string;
  outline: PatternNode[];
  holes: PatternNode[][];
  /** Open paths within, along which it is creased. */
  lines: PatternNode[][];
  middle: [number, number];
}

/** What lies inside of an odd number of other outlines is a hole of the smallest of them; what lies in an even number is cut by itself. */
export function nest(paths: readonly { name: string; nodes: PatternNode[] }[]): Outline[] {
  const all = paths.map(({ name, nodes }) => {
    const polygon = asPolygon(nodes);
    return { name, nodes, polygon, area: Math.abs(signedArea(polygon)), around: [] as number[] };
  });
  all.forEach((one, i) => {
    const within = all.flatMap((other, j) =>
      i !== j && other.area > one.area && liesIn(one.polygon, other.polygon) ? [j] : [],
    );
    one.around = within.sort((a, b) => all[a]!.area - all[b]!.area);
  });
  const outlines: Outline[] = [];
  const of = new Map<number, Outline>();
  all.forEach(({ name, nodes, polygon, around }, i) => {
    if (around.length % 2 === 1) return;
    const [us, vs] = [polygon.map(([u]) => u), polygon.map(([, v]) => v)];
    const middle: [number, number] = [(Math.min(...us) + Math.max(...us)) / 2, (Math.min(...vs) + Math.max(...vs)) / 2];
    const outline = {
      name: name || `Outline ${outlines.length + 1}`,
      outline: shifted(nodes, middle),
      holes: [],
      lines: [],
      middle,
    };
    outlines.push(outline);
    of.set(i, outline);
  });
  all.forEach(({ nodes, around }) => {
    if (around.length % 2 === 0) return;
    const outer = of.get(around[0]!);
    if (outer) outer.holes.push(shifted(nodes, outer.middle));
  });
  return outlines;
}

/** Gives a line to the smallest outline around its middle; false where there is none. */
export function placeLine(nodes: readonly PatternNode[], outlines: readonly Outline[]): boolean {
  const sides = openSidesOf(nodes);
  const middle = placeAt(sides[sides.length >> 1]!, 0.5);
  const around = outlines
    .map((outline) => ({ outline, polygon: asPolygon(outline.outline) }))
    .filter(({ outline, polygon }) => isInside(polygon, [middle[0] - outline.middle[0], middle[1] - outline.middle[1]]))
    .sort((a, b) => Math.abs(signedArea(a.polygon)) - Math.abs(signedArea(b.polygon)));
  const own = around[0]?.outline;
  own?.lines.push(shifted(nodes, own.middle));
  return own !== undefined;
}

/** Most of its corners, so that one that touches does not decide. */
function liesIn(polygon: readonly FlatPlace[], outer: readonly FlatPlace[]): boolean {
  return polygon.filter((place) => isInside(outer, place)).length * 2 > polygon.length;
}

function shifted(nodes: readonly PatternNode[], [u, v]: readonly [number, number]): PatternNode[] {
  return nodes.map((node) => ({ ...node, at: [node.at[0] - u, node.at[1] - v] }));
}
