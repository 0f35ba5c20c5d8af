/** A place of a flat piece: along u and v, in metres. */
export type FlatPlace = readonly [u: number, v: number];

/** A place that an outline goes through, and the handles by which it arrives and leaves: away from it, in m; none where it goes straight. */
export interface PathNode {
  readonly at: FlatPlace;
  readonly before?: FlatPlace | null;
  readonly after?: FlatPlace | null;
}

/** From one node to the next: a straight line, or a cubic Bézier curve. */
export interface BorderSide {
  readonly from: PathNode;
  readonly to: PathNode;
}

/** The sides of a closed path; the last one leads back to its first node. */
export function sidesOf(nodes: readonly PathNode[]): BorderSide[] {
  return nodes.map((from, i) => ({ from, to: nodes[(i + 1) % nodes.length]! }));
}

/** The sides of an open path, one fewer than it has nodes. */
export function openSidesOf(nodes: readonly PathNode[]): BorderSide[] {
  return nodes.slice(1).map((to, i) => ({ from: nodes[i]!, to }));
}

export function isStraight({ from, to }: BorderSide): boolean {
  return !isHandle(from.after) && !isHandle(to.before);
}

function isHandle(handle: FlatPlace | null | undefined): handle is FlatPlace {
  return !!handle && (handle[0] !== 0 || handle[1] !== 0);
}

/** The four control places of a side. */
export function controlsOf({ from, to }: BorderSide): [FlatPlace, FlatPlace, FlatPlace, FlatPlace] {
  const [a, d] = [from.at, to.at];
  const off = (place: FlatPlace, handle: FlatPlace | null | undefined): FlatPlace =>
    handle ? [place[0] + handle[0], place[1] + handle[1]] : place;
  return [a, off(a, from.after), off(d, to.before), d];
}

/** The place of a side at a parameter from 0 to 1. */
export function placeAt(side: BorderSide, t: number): FlatPlace {
  if (isStraight(side)) {
    const [a, b] = [side.from.at, side.to.at];
    return [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
  }
  const [a, b, c, d] = controlsOf(side);
  const s = 1 - t;
  const [wa, wb, wc, wd] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
  return [wa * a[0] + wb * b[0] + wc * c[0] + wd * d[0], wa * a[1] + wb * b[1] + wc * c[1] + wd * d[1]];
}

/** A curve is measured along so many chords. */
const CHORDS = 96;

/** Lengths in m from the beginning of a side to each of its chords' ends. */
function lengthsAlong(side: BorderSide): Float64Array {
  const chords = isStraight(side) ? 1 : CHORDS;
  const lengths = new Float64Array(chords + 1);
  let before = placeAt(side, 0);
  for (let i = 1; i <= chords; i++) {
    const at = placeAt(side, i / chords);
    lengths[i] = lengths[i - 1]! + distance(before, at);
    before = at;
  }
  return lengths;
}

export function sideLength(side: BorderSide): number {
  return lengthsAlong(side).at(-1)!;
}

/** The parameter of a side at a share of its length. */
export function parameterAt(side: BorderSide, share: number): number {
  if (isStraight(side)) return share;
  const lengths = lengthsAlong(side);
  return parameterIn(lengths, share * lengths.at(-1)!);
}

function parameterIn(lengths: Float64Array, wanted: number): number {
  const chords = lengths.length - 1;
  let i = 1;
  while (i < chords && lengths[i]! < wanted) i++;
  const size = lengths[i]! - lengths[i - 1]!;
  return (i - 1 + (size > 0 ? (wanted - lengths[i - 1]!) / size : 0)) / chords;
}

/** Places along a side at even distances, `count` pieces: from its beginning, without its end. */
export function samplesOf(side: BorderSide, count: number): FlatPlace[] {
  const lengths = isStraight(side) ? null : lengthsAlong(side);
  return Array.from({ length: count }, (_, i) => {
    if (i === 0) return side.from.at;
    const share = i / count;
    return placeAt(side, lengths ? parameterIn(lengths, share * lengths.at(-1)!) : share);
  });
}

/** Places along a side, `count` pieces from its beginning without its end, as even as goes with one at each of some shares of its length, in order. */
export function samplesThrough(side: BorderSide, count: number, stops: readonly number[]): FlatPlace[] {
  if (stops.length === 0) return samplesOf(side, count);
  const at = [0, ...stops, 1];
  // Pieces are given one by one to the part that would have the longest.
  const pieces = at.slice(1).map(() => 1);
  for (let left = count - pieces.length; left > 0; left--) {
    const sizes = pieces.map((own, i) => (at[i + 1]! - at[i]!) / own);
    pieces[sizes.indexOf(Math.max(...sizes))]!++;
  }
  const lengths = isStraight(side) ? null : lengthsAlong(side);
  return pieces.flatMap((own, i) =>
    Array.from({ length: own }, (_, n) => {
      const share = at[i]! + ((at[i + 1]! - at[i]!) * n) / own;
      if (share === 0) return side.from.at;
      return placeAt(side, lengths ? parameterIn(lengths, share * lengths.at(-1)!) : share);
    }),
  );
}

/** A closed path as a polygon: straight sides as they are, curves in so many chords. */
export function asPolygon(nodes: readonly PathNode[], chords = 24): FlatPlace[] {
  return sidesOf(nodes).flatMap((side) => samplesOf(side, isStraight(side) ? 1 : chords));
}

/** Twice the area of a polygon is the sum of these; positive counter-clockwise, in m². */
export function signedArea(polygon: readonly FlatPlace[]): number {
  let sum = 0;
  polygon.forEach(([u, v], i) => {
    const [p, q] = polygon[(i + 1) % polygon.length]!;
    sum += u * q - p * v;
  });
  return sum / 2;
}

/** Whether a place is inside a polygon (even-odd). */
export function isInside(polygon: readonly FlatPlace[], [u, v]: FlatPlace): boolean {
  let inside = false;
  for (let i = 0, j = polygon.length - 1; i < polygon.length; j = i++) {
    const [a, b] = [polygon[i]!, polygon[j]!];
    if (a[1] > v !== b[1] > v && u < ((b[0] - a[0]) * (v - a[1])) / (b[1] - a[1]) + a[0]) inside = !inside;
  }
  return inside;
}

export function distance(a: FlatPlace, b: FlatPlace): number {
  const [u, v] = [a[0] - b[0], a[1] - b[1]];
  return Math.sqrt(u * u + v * v);
}

/** The same path the other way round. */
export function reversed<N extends PathNode>(nodes: readonly N[]): N[] {
  return [...nodes].reverse().map((node) => ({ ...node, before: node.after ?? null, after: node.before ?? null }));
}

/** The nodes of a path with one more on one of its sides, at a parameter; its course stays as it is (de Casteljau). */
export function splitSide<N extends PathNode>(
  nodes: readonly N[],
  side: number,
  t: number,
  added: Omit<N, keyof PathNode>,
): N[] {
  const [from, to] = [nodes[side]!, nodes[(side + 1) % nodes.length]!];
  const middle = placeAt({ from, to }, t);
  const all = [...nodes];
  if (isStraight({ from, to })) {
    all.splice(side + 1, 0, { ...added, at: middle, before: null, after: null } as unknown as N);
    return all;
  }
  const [a, b, c, d] = controlsOf({ from, to });
  const between = (p: FlatPlace, q: FlatPlace): FlatPlace => [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t];
  const [ab, bc, cd] = [between(a, b), between(b, c), between(c, d)];
  const [abc, bcd] = [between(ab, bc), between(bc, cd)];
  const off = (place: FlatPlace, of: FlatPlace): FlatPlace => [place[0] - of[0], place[1] - of[1]];
  all[side] = { ...from, after: off(ab, a) };
  all[(side + 1) % nodes.length] = { ...to, before: off(cd, d) };
  all.splice(side + 1, 0, { ...added, at: middle, before: off(abc, middle), after: off(bcd, middle) } as unknown as N);
  return all;
}
