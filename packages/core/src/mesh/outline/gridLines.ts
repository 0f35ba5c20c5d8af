import type { FixedLines } from './allDirections';
import type { Borders } from './borders';
import type { FlatPlace } from './path';

/** What lies as near to each other as this share of the spacing is at the same place of the axis. */
const SAME = 1e-3;

/**
 * Where the lines of a grid stand along an axis: evenly from one end of the piece to the other. Where creases run across the axis from border to
 * border, as those of pleats do, they stand where the border has its points, which lie evenly between the creases: so these are lines of the grid,
 * and what is between them is as regular as a sheet.
 *
 * @param loops borders, sampled at the spacing
 * @param lines within, whose points count from 0 through the loops
 * @param axis 0 for the columns, 1 for the rows
 * @returns in order, in m, the ends of the piece among them
 */
export function gridLines(
  loops: readonly (readonly FlatPlace[])[],
  lines: FixedLines,
  { low, high }: Pick<Borders, 'low' | 'high'>,
  spacing: number,
  axis: 0 | 1,
): Float64Array {
  const [from, to] = [low[axis], high[axis]];
  const stops = stopsAlong(loops, lines, spacing, axis);
  for (const { loop, at } of stops) {
    const along = walk(loops[loop]!, at, axis, SAME * spacing);
    const isAt = (value: number) => along.some((own) => Math.abs(own - value) < SAME * spacing);
    if (isAt(from) && isAt(to) && stops.every(({ value }) => isAt(value))) return Float64Array.from(along);
  }
  const cells = Math.max(1, Math.round((to - from) / spacing));
  const step = (to - from) / cells;
  return Float64Array.from({ length: cells + 1 }, (_, i) => from + i * step);
}

interface Stop {
  /** Where a line ends on a border: which loop, and which of its points. */
  loop: number;
  at: number;
  /** Where along the axis. */
  value: number;
}

/** The ends of all lines that go straight across the axis, from border to border. */
function stopsAlong(
  loops: readonly (readonly FlatPlace[])[],
  { places, rows }: FixedLines,
  spacing: number,
  axis: 0 | 1,
): Stop[] {
  const rim = loops.flatMap((loop, i) => loop.map((place, at) => ({ loop: i, at, value: place[axis] })));
  const valueOf = (point: number) => rim[point]?.value ?? places[point - rim.length]![axis];
  return rows.flatMap((row) => {
    const [first, last] = [rim[row[0]!], rim[row.at(-1)!]];
    if (!first || !last) return [];
    const across = row.every((point) => Math.abs(valueOf(point) - first.value) < SAME * spacing);
    return across ? [first, last] : [];
  });
}

/** The places along an axis of the points of a border, from one of them both ways for as long as they go on along it; in order. */
function walk(loop: readonly FlatPlace[], from: number, axis: 0 | 1, least: number): number[] {
  const to = (step: 1 | -1, way: 1 | -1) => {
    const found: number[] = [];
    for (let i = 1; i < loop.length; i++) {
      const at = (place: number) => loop[(((from + step * place) % loop.length) + loop.length) % loop.length]![axis];
      if (!(way * (at(i) - at(i - 1)) > least)) break;
      found.push(at(i));
    }
    return found;
  };
  const down = to(1, -1);
  const [before, after] = down.length > 0 ? [down, to(-1, 1)] : [to(-1, -1), to(1, 1)];
  return [...before.reverse(), loop[from]![axis], ...after];
}
