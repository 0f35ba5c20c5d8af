import svgpath from 'svgpath';
import { asPolygon, signedArea } from '../../../mesh/outline/path';
import { LEAST_AREA } from '../../../mesh/outline/outlineProblem';
import { newNode } from '../../../pattern/makePiece';
import { MOST_NODES, type PatternNode } from '../../../pattern/schema';

/** Nodes nearer to each other than this, in m, are one. */
const SAME = 1e-6;
/** A path whose ends are as near as this, in m, is closed. */
const CLOSES = 1e-4;

/** An outline has more nodes than one may have. */
export class TooLargeError extends Error {}

/**
 * The closed paths of a path's data after transforms, in m, v up; and those that are open. Arcs and quadratic curves become cubic ones.
 * @throws Error when the data cannot be read, TooLargeError when there is too much of it
 */
export function closedPaths(
  d: string,
  transforms: readonly string[],
  scale: readonly [number, number],
): { closed: PatternNode[][]; open: PatternNode[][] } {
  const path = svgpath(d);
  // svgpath keeps what it could not read here.
  const { err } = path as unknown as { err: string };
  if (err) throw new Error(err);
  for (const transform of [...transforms].reverse()) path.transform(transform);
  path.abs().unshort().unarc();
  const rows: { nodes: PatternNode[]; closed: boolean }[] = [];
  let row: PatternNode[] = [];
  const finish = (closed: boolean) => {
    if (row.length > 0) rows.push({ nodes: row, closed });
    row = [];
  };
  const place = (x: number, y: number): [number, number] => {
    const at: [number, number] = [x * scale[0], -y * scale[1]];
    if (!at.every((value) => Math.abs(value) < 500)) throw new Error('a place that is not a number, or far out');
    return at;
  };
  path.iterate((segment, _, x, y) => {
    const [command, ...numbers] = segment as unknown as [string, ...number[]];
    const n = numbers as [number, number, number, number, number, number];
    const from = place(x, y);
    const lineTo = (to: [number, number]) => {
      if (row.length === 0) row.push(newNode(from));
      row.push(newNode(to));
      if (row.length > MOST_NODES + 1) throw new TooLargeError(`an outline of more than ${MOST_NODES} nodes`);
    };
    const curveTo = (first: [number, number], second: [number, number], to: [number, number]) => {
      lineTo(to);
      row.at(-2)!.after = [first[0] - from[0], first[1] - from[1]];
      row.at(-1)!.before = [second[0] - to[0], second[1] - to[1]];
    };
    if (command === 'M') {
      finish(false);
      row.push(newNode(place(n[0], n[1])));
    } else if (command === 'L') lineTo(place(n[0], n[1]));
    else if (command === 'H') lineTo(place(n[0], y));
    else if (command === 'V') lineTo(place(x, n[0]));
    else if (command === 'C') curveTo(place(n[0], n[1]), place(n[2], n[3]), place(n[4], n[5]));
    else if (command === 'Q') {
      const [control, to] = [place(n[0], n[1]), place(n[2], n[3])];
      const near = (end: [number, number]): [number, number] => [
        end[0] + ((control[0] - end[0]) * 2) / 3,
        end[1] + ((control[1] - end[1]) * 2) / 3,
      ];
      curveTo(near(from), near(to), to);
    } else if (command === 'Z' || command === 'z') finish(true);
    return undefined;
  });
  finish(false);
  const closed: PatternNode[][] = [];
  const open: PatternNode[][] = [];
  for (const { nodes, closed: said } of rows) {
    if (nodes.length < 2) continue;
    const [first, last] = [nodes[0]!, nodes.at(-1)!];
    const gap = apart(first, last);
    if (!said && gap > CLOSES) {
      open.push(nodes);
      continue;
    }
    const own = closedRow(nodes, gap < CLOSES);
    if (own.length >= 2 && Math.abs(signedArea(asPolygon(own))) > LEAST_AREA) closed.push(own);
  }
  return { closed, open };
}

function apart(a: PatternNode, b: PatternNode): number {
  return Math.hypot(a.at[0] - b.at[0], a.at[1] - b.at[1]);
}

/** Nodes of a closed path: its end is its beginning, and none stands twice in a row. */
function closedRow(nodes: PatternNode[], meets: boolean): PatternNode[] {
  const all = [...nodes];
  if (meets && all.length > 2) all[0]!.before = all.pop()!.before;
  return all.filter((node, i) => {
    const before = all[(i + all.length - 1) % all.length]!;
    if (all.length < 3 || apart(node, before) > SAME || node.before || before.after) return true;
    before.after = node.after;
    return false;
  });
}
