import { distance, type FlatPlace } from '../mesh/outline/path';
import { deepestPleats, pleatProfile, type PleatProfile } from './pleatProfile';
import { pleatsSchema, type Piece, type Pleats } from './schema';

/** The row of pleats of a piece: where it begins, which way it goes and which way it runs across the piece, and how its cloth lies. */
export interface PleatRow {
  from: FlatPlace;
  along: FlatPlace;
  across: FlatPlace;
  length: number;
  profile: PleatProfile;
  /** The sides of the outline that it goes along, in order. */
  sides: number[];
}

/** The row of pleats of a piece; null where it has none. They lie along the straight line from one end of their side to the other. */
export function pleatRow({ pleats, outline }: Piece): PleatRow | null {
  const side = pleats && sideOf(outline, pleats);
  if (!side || !(side.length > 0)) return null;
  const { from, to, length, sides } = side;
  const along: FlatPlace = [(to[0] - from[0]) / length, (to[1] - from[1]) / length];
  // Outlines run counter-clockwise: the piece is to the left of its sides.
  return { from, along, across: [-along[1], along[0]], length, profile: pleatProfile(pleats, length), sides };
}

/** Pleats of a kind along a side of a piece, as many and as deep as suit it: about a third of the cloth goes into them. */
export function suitablePleats({ outline }: Piece, side: string, kind: Pleats['kind']): Pleats {
  const length = sideOf(outline, { side })?.length ?? 0;
  const count = Math.max(1, Math.min(60, Math.round(length / (kind === 'box' ? 0.24 : 0.12))));
  const depth = Math.max(0.001, Number((deepestPleats({ kind, count }, length) * 0.75).toPrecision(2)));
  const room = Math.min(0.004, Math.max(0.0005, depth / 4));
  return pleatsSchema.parse({ side, kind, count, depth, room });
}

/** The longest side of the outline, by the node that it begins with; of equal ones the uppermost. */
export function longestSide({ outline }: Piece): string {
  const sides = outline.map(({ id, at }, i) => {
    const to = outline[(i + 1) % outline.length]!.at;
    return { id, length: Math.round(distance(at, to) * 1e6), height: at[1] + to[1] };
  });
  return sides.reduce((best, side) =>
    side.length > best.length || (side.length === best.length && side.height > best.height) ? side : best,
  ).id;
}

/** Why a piece cannot be pleated: a sentence for the artist; undefined where it can be, or has no pleats. */
export function pleatsProblem({ pleats, outline }: Piece): string | undefined {
  if (!pleats) return undefined;
  const side = sideOf(outline, pleats);
  if (!side) return 'the side that its pleats lie along is not there';
  const deepest = deepestPleats(pleats, side.length);
  if (pleats.depth > deepest * (1 + 1e-9)) {
    const count = Math.floor((pleats.count * deepest) / pleats.depth);
    const cm = (value: number) => Math.floor(value * 1000) / 10;
    const fewer = count > 0 ? `, or take ${count}` : '';
    return `its ${pleats.count} pleats need more cloth than it has: make them at most ${cm(deepest)} cm deep${fewer}`;
  }
  if (pleats.kind !== 'rolled' && pleats.room > pleats.depth / 2)
    return 'the room in its pleats is more than half of their depth';
  return undefined;
}

/** Where a place of a piece lies once it is pleated: on its plane, and out of it towards its face; the row stays around the middle of its side. */
export function pleatedPlace(piece: Piece): (u: number, v: number) => [u: number, v: number, out: number] {
  const row = pleatRow(piece);
  if (!row) return (u, v) => [u, v, 0];
  const { from, along, across, length, profile } = row;
  const aside = (length - profile.width) / 2;
  return (u, v) => {
    const [du, dv] = [u - from[0], v - from[1]];
    const [s, t] = [du * along[0] + dv * along[1], du * across[0] + dv * across[1]];
    const [x, out] = profile.placeAt(s);
    return [from[0] + (x + aside) * along[0] + t * across[0], from[1] + (x + aside) * along[1] + t * across[1], out];
  };
}

function sideOf(
  outline: Piece['outline'],
  { side, to: end }: Pick<Pleats, 'side' | 'to'>,
): { from: FlatPlace; to: FlatPlace; length: number; sides: number[] } | null {
  const at = outline.findIndex((node) => node.id === side);
  if (at < 0) return null;
  const last = outline.findIndex((node) => node.id === end);
  const count = last < 0 || last === at ? 1 : (last - at + outline.length) % outline.length;
  const [from, to] = [outline[at]!.at, outline[(at + count) % outline.length]!.at];
  const sides = Array.from({ length: count }, (_, i) => (at + i) % outline.length);
  return { from, to, length: Math.sqrt((to[0] - from[0]) ** 2 + (to[1] - from[1]) ** 2), sides };
}
