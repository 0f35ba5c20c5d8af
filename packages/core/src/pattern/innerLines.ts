import {
  distance,
  isStraight,
  openSidesOf,
  parameterAt,
  placeAt,
  samplesOf,
  sideLength,
  sidesOf,
  type BorderSide,
  type FlatPlace,
} from '../mesh/outline/path';
import { pleatRow } from './pleatRow';
import type { Piece } from './schema';
import { loopsOfPiece } from './stretches';

/** Lines that end as near to a border as this, in m, end on it. */
export const TOUCH = 1e-4;
/** A curve is looked at in so many pieces. */
const CHORDS = 128;

/** Where a line ends on a border: how far along a side, as a share of its length; 0 is the node that the side begins with. */
export interface BorderSpot {
  loop: number;
  side: number;
  share: number;
}

/** A line across a piece, along which its mesh has edges. */
export interface InnerLine {
  /** Its sides, from its beginning to its end. */
  sides: BorderSide[];
  /** Where it begins and ends on a border; null where it ends inside. */
  ends: [BorderSpot | null, BorderSpot | null];
  slit: boolean;
  /** By how much it is folded of itself, in radians; what pleats fold is known by how they lie. */
  fold: number;
}

/** The lines that are drawn on a piece, then the creases of its pleats. */
export function innerLines(piece: Piece): InnerLine[] {
  const drawn = piece.lines.map(({ nodes, kind, fold }): InnerLine => ({
    sides: openSidesOf(nodes),
    ends: [borderSpot(piece, nodes[0]!.at), borderSpot(piece, nodes.at(-1)!.at)],
    slit: kind === 'slit',
    fold: kind === 'crease' ? fold : 0,
  }));
  return [...drawn, ...pleatCreases(piece)];
}

/** Shares of each side at which lines end on it, in order, by loop and side; those at a node are left out, for it is there. */
export function lineStops(lines: readonly InnerLine[]): Map<string, number[]> {
  const stops = new Map<string, number[]>();
  for (const { ends } of lines) {
    for (const spot of ends) {
      if (!spot || spot.share === 0) continue;
      const key = `${spot.loop} ${spot.side}`;
      const known = stops.get(key) ?? [];
      if (!known.includes(spot.share))
        stops.set(
          key,
          [...known, spot.share].sort((a, b) => a - b),
        );
    }
  }
  return stops;
}

/** Places along a line at the spacing, in m, its ends among them. */
export function placesOnLine({ sides }: InnerLine, spacing: number): FlatPlace[] {
  const places = sides.flatMap((side) => samplesOf(side, Math.max(1, Math.round(sideLength(side) / spacing))));
  return [...places, sides.at(-1)!.to.at];
}

/** The place on the borders of a piece that is nearest to one, as near as so many m; a node where one is. Null where there is none. */
export function placeOnBorder(piece: Piece, at: FlatPlace, reach: number): FlatPlace | null {
  const spot = borderSpot(piece, at, reach);
  const side = spot && sidesOf(loopsOfPiece(piece)[spot.loop]!)[spot.side]!;
  return side && placeAt(side, parameterAt(side, spot.share));
}

/** The place of a border that is as near as `reach` m; null where there is none. */
export function borderSpot(piece: Piece, at: FlatPlace, reach = TOUCH): BorderSpot | null {
  let found: BorderSpot | null = null;
  let nearest = reach;
  loopsOfPiece(piece).forEach((nodes, loop) => {
    sidesOf(nodes).forEach((side, i) => {
      if (distance(side.from.at, at) < reach) [found, nearest] = [{ loop, side: i, share: 0 }, -1];
      const { share, away } = nearestShare(side, at);
      if (away >= nearest) return;
      // The end of a side is the beginning of the next.
      found = share < 1 ? { loop, side: i, share } : { loop, side: (i + 1) % nodes.length, share: 0 };
      nearest = away;
    });
  });
  return found;
}

/** The share of a side's length that is nearest to a place, and how far that is, in m. */
export function nearestShare(side: BorderSide, at: FlatPlace): { share: number; away: number } {
  const chords = isStraight(side) ? 1 : CHORDS;
  const ends = [...samplesOf(side, chords), side.to.at];
  let best = { share: 0, away: Infinity };
  for (let i = 0; i < chords; i++) {
    const [a, b] = [ends[i]!, ends[i + 1]!];
    const [du, dv] = [b[0] - a[0], b[1] - a[1]];
    const square = du * du + dv * dv;
    const t = square > 0 ? Math.min(1, Math.max(0, ((at[0] - a[0]) * du + (at[1] - a[1]) * dv) / square)) : 0;
    const away = distance(at, [a[0] + t * du, a[1] + t * dv]);
    if (away < best.away) best = { share: (i + t) / chords, away };
  }
  return best;
}

/** Where pleats fold: straight across the piece from border to border. */
function pleatCreases(piece: Piece): InnerLine[] {
  const row = pleatRow(piece);
  if (!row) return [];
  const { from, along, across, profile } = row;
  return profile.creases.flatMap((at) => {
    const start: FlatPlace = [from[0] + at * along[0], from[1] + at * along[1]];
    const passed = crossedBy(piece, start, along, across);
    return Array.from({ length: passed.length >> 1 }, (_, i): InnerLine => {
      const ends = [passed[i * 2]!, passed[i * 2 + 1]!] as const;
      const place = (t: number): FlatPlace => [start[0] + t * across[0], start[1] + t * across[1]];
      return {
        sides: [{ from: { at: place(ends[0].t) }, to: { at: place(ends[1].t) } }],
        ends: [ends[0].spot, ends[1].spot],
        slit: false,
        fold: 0,
      };
    });
  });
}

/** Where a straight line passes the borders of a piece, in order, by how far along it that is, in m. */
function crossedBy(
  piece: Piece,
  start: FlatPlace,
  along: FlatPlace,
  across: FlatPlace,
): { t: number; spot: BorderSpot }[] {
  const found: { t: number; spot: BorderSpot }[] = [];
  const off = ([u, v]: FlatPlace) => (u - start[0]) * along[0] + (v - start[1]) * along[1];
  const far = ([u, v]: FlatPlace) => (u - start[0]) * across[0] + (v - start[1]) * across[1];
  loopsOfPiece(piece).forEach((nodes, loop) => {
    sidesOf(nodes).forEach((side, i) => {
      const chords = isStraight(side) ? 1 : CHORDS;
      const ends = [...samplesOf(side, chords), side.to.at];
      for (let chord = 0; chord < chords; chord++) {
        const [a, b] = [off(ends[chord]!), off(ends[chord + 1]!)];
        if (a > 0 === b > 0) continue;
        const share = (chord + a / (a - b)) / chords;
        // By the length of the chords it is where the side itself is, to a ten thousandth of it.
        const at = isStraight(side) ? placeAt(side, share) : between(ends[chord]!, ends[chord + 1]!, a / (a - b));
        const length = sideLength(side);
        const spot: BorderSpot =
          share * length < TOUCH
            ? { loop, side: i, share: 0 }
            : (1 - share) * length < TOUCH
              ? { loop, side: (i + 1) % nodes.length, share: 0 }
              : { loop, side: i, share };
        found.push({ t: far(at), spot });
      }
    });
  });
  return found.sort((a, b) => a.t - b.t);
}

function between(a: FlatPlace, b: FlatPlace, share: number): FlatPlace {
  return [a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])];
}
