import { apart, cross, direction, dot, length, minus, type Vector3 } from '../../math/vector';

/** A rod that cloth is spread between: places along its middle, and how thick it is, in m. */
export interface Rod {
  places: readonly Vector3[];
  radius: number;
}

/** Rods beside each other, all running the same way, and where their outer sides are. */
export interface RodRow<T extends Rod> {
  rods: T[];
  /** Per rod and place the direction out of the cloth. */
  outward: Vector3[][];
  /** The last one lies beside the first again. */
  closed: boolean;
}

/** A row is closed where its ends are no farther apart than this many times the mean step. */
const CLOSES = 1.5;

/**
 * Puts rods in the order in which they lie beside each other: from one of the two that are farthest apart always to the nearest. All run the same way,
 * so that what lies between them faces outwards: away from the middle of them all, upwards where they lie in one level plane, else forward.
 *
 * @param rods at least two, of as many places each
 */
export function orderRods<T extends Rod>(rods: readonly T[]): RodRow<T> {
  const middles = rods.map(({ places }) => places[places.length >> 1]!);
  const order = chain(middles);
  let row = order.map((i) => rods[i]!);
  row = aligned(row);
  const steps = order.slice(1).map((at, i) => apart(middles[order[i]!]!, middles[at]!));
  const mean = steps.reduce((sum, step) => sum + step, 0) / steps.length;
  const closed = rods.length > 2 && apart(middles[order[0]!]!, middles[order.at(-1)!]!) <= CLOSES * mean;
  const outward = outwards(row, closed);
  if (facesOutward(row, outward)) return { rods: row, outward, closed };
  const turned = row.map((rod) => ({ ...rod, places: [...rod.places].reverse() }));
  return { rods: turned, outward: outwards(turned, closed), closed };
}

/** Indices of places from one of the two that are farthest apart, each followed by the nearest that is left. */
function chain(places: readonly Vector3[]): number[] {
  let [first, most] = [0, -1];
  places.forEach((place, i) =>
    places.forEach((other, j) => {
      const distance = apart(place, other);
      if (j > i && distance > most) [first, most] = [i, distance];
    }),
  );
  const order = [first];
  const left = new Set(places.keys());
  left.delete(first);
  while (left.size > 0) {
    const from = places[order.at(-1)!]!;
    const next = [...left].reduce((best, i) => (apart(from, places[i]!) < apart(from, places[best]!) ? i : best));
    order.push(next);
    left.delete(next);
  }
  return order;
}

function aligned<T extends Rod>(rods: readonly T[]): T[] {
  const row: T[] = [rods[0]!];
  for (const rod of rods.slice(1)) {
    const before = row.at(-1)!.places;
    const ends = (places: readonly Vector3[]) => apart(before[0]!, places[0]!) + apart(before.at(-1)!, places.at(-1)!);
    const reversed = [...rod.places].reverse();
    row.push(ends(reversed) < ends(rod.places) ? { ...rod, places: reversed } : rod);
  }
  return row;
}

/** Across from rod to rod, and along: what stands on both. */
function outwards(rods: readonly Rod[], closed: boolean): Vector3[][] {
  const count = rods.length;
  return rods.map(({ places }, k) => {
    const before = rods[closed ? (k + count - 1) % count : Math.max(0, k - 1)]!.places;
    const after = rods[closed ? (k + 1) % count : Math.min(count - 1, k + 1)]!.places;
    return places.map((_, i) => {
      const along = minus(places[Math.min(places.length - 1, i + 1)]!, places[Math.max(0, i - 1)]!);
      return direction(cross(minus(after[i]!, before[i]!), along)) ?? [0, 0, 0];
    });
  });
}

function facesOutward(rods: readonly Rod[], outward: readonly Vector3[][]): boolean {
  const all = rods.flatMap(({ places }) => places);
  const middle = [0, 1, 2].map((k) =>
    all.reduce((sum, place) => sum + place[k]! / all.length, 0),
  ) as unknown as Vector3;
  const off = all.map((place) => minus(place, middle));
  const normals = outward.flat();
  const size = off.reduce((sum, way) => sum + length(way), 0);
  const away = off.reduce((sum, way, i) => sum + dot(way, normals[i]!), 0);
  if (Math.abs(away) > 0.02 * size) return away > 0;
  const [up, forward] = [1, 2].map((k) => normals.reduce((sum, normal) => sum + normal[k]!, 0)) as [number, number];
  return Math.abs(up) > 0.05 * normals.length ? up > 0 : forward >= 0;
}
