import { apart, minus, type Vector3 } from '../../math/vector';
import { evenly } from '../../mesh/centreLine';
import type { FlatPlace } from '../../mesh/outline/path';
import { newId } from '../../shot/create';
import { makePiece, newNode } from '../makePiece';
import type { PatternNode, Piece, Seam, Stretch } from '../schema';
import { orderRods, type Rod } from './orderRods';
import { unrollStrip } from './unrollStrip';

/** Panels of cloth between rods. */
export interface Skin<T extends Rod> {
  pieces: Piece[];
  seams: Seam[];
  /** What lies along each rod, in the order in which they lie beside each other. */
  borders: { rod: T; stretch: Stretch }[];
  /** Where the pieces are laid about, in m. */
  middle: Vector3;
  /** By what share of their length the panels end short of the ends of the rods. */
  short: number;
}

/** Rails have so many places; every so many of them is a node of the outline. */
const PLACES = 33;
const STEP = 4;
/** Its direction at a place is seen from so many places on. */
const LOOK = 2;
/** Rods are looked at in so many places to find where they come together. */
const LOOKS = 65;
/** Panels are nowhere narrower than this share of where they are widest, where nothing else is asked for. */
const NARROWEST = 0.25;
/** They end no shorter of the ends than this share of the length. */
const MOST_SHORT = 0.45;

/**
 * Cloth spread between rods: from each to the next a panel, cut so that it lies between them without being stretched, and sewn to the next one along
 * the rod that they share. It lies on the outer side of the rods, so many m off their surface.
 *
 * @param rods two at least
 * @param off distance of the cloth's middle from the surface of the rods, in m
 * @param short share of their length, 0 to 0.45, by which panels end short of both ends; null where the rods come together there
 */
export function skinBetween<T extends Rod>(rods: readonly T[], off: number, short: number | null = null): Skin<T> {
  const looked = orderRods(rods.map((rod) => ({ ...rod, places: smoothed(smoothed(evenly(rod.places, LOOKS))) })));
  const left = short ?? shortOf(looked.rods, looked.closed);
  const [from, to] = [left * (LOOKS - 1), (1 - left) * (LOOKS - 1)];
  const cut = looked.rods.map((rod) => ({ ...rod, places: evenly(between(rod.places, from, to), PLACES) }));
  const row = orderRods(cut);
  const rails = row.rods.map(({ places, radius }, k) =>
    places.map((place, i): Vector3 => {
      const out = row.outward[k]![i]!;
      return [0, 1, 2].map((axis) => place[axis]! + (radius + off) * out[axis]!) as unknown as Vector3;
    }),
  );
  const all = rails.flat();
  const middle = [0, 1, 2].map((k) =>
    all.reduce((sum, place) => sum + place[k]! / all.length, 0),
  ) as unknown as Vector3;
  const local = rails.map((rail) => rail.map((place) => minus(place, middle)));
  const count = row.closed ? rails.length : rails.length - 1;
  const panels = Array.from({ length: count }, (_, k) =>
    panel(`Panel ${k + 1}`, local[k]!, local[(k + 1) % rails.length]!),
  );
  const seams: Seam[] = panels.flatMap(({ right }, k) => {
    const next = panels[row.closed ? (k + 1) % count : k + 1];
    return next ? [{ id: newId(), a: right, b: next.left, turned: false }] : [];
  });
  const borders = row.rods.map((rod, k) => ({ rod, stretch: panels[k]?.left ?? panels.at(-1)!.right }));
  return { pieces: panels.map(({ piece }) => piece), seams, borders, middle, short: left };
}

/** How far from the ends of rods panels have to end so that they are wide enough there, as a share of their length. */
function shortOf(rods: readonly Rod[], closed: boolean): number {
  const pairs = rods.flatMap((rod, k) => {
    const next = rods[closed ? (k + 1) % rods.length : k + 1];
    return next ? [rod.places.map((place, i) => apart(place, next.places[i]!))] : [];
  });
  const wide = (i: number) => pairs.every((gaps) => gaps[i]! >= NARROWEST * Math.max(...gaps));
  let at = 0;
  while (at < MOST_SHORT * (LOOKS - 1) && !(wide(at) && wide(LOOKS - 1 - at))) at++;
  return Math.min(MOST_SHORT, Math.ceil((100 * at) / (LOOKS - 1)) / 100);
}

/** A line without the small waves that come of how its rod is divided; its ends stay. */
function smoothed(line: readonly Vector3[]): Vector3[] {
  return line.map((place, i) => {
    const [before, after] = [line[i - 1], line[i + 1]];
    if (!before || !after) return place;
    return [0, 1, 2].map((k) => (before[k]! + 2 * place[k]! + after[k]!) / 4) as unknown as Vector3;
  });
}

/** The places of a line from one share of its steps to another, both not always whole. */
function between(line: readonly Vector3[], from: number, to: number): Vector3[] {
  const at = (step: number): Vector3 => {
    const i = Math.min(line.length - 2, Math.floor(step));
    const [a, b] = [line[i]!, line[i + 1]!];
    return [0, 1, 2].map((k) => a[k]! + (step - i) * (b[k]! - a[k]!)) as unknown as Vector3;
  };
  const inner = line.filter((_, i) => i > from && i < to);
  return [at(from), ...inner, at(to)];
}

/** A panel between two rails, and its sides along them. */
function panel(
  name: string,
  leftRail: Vector3[],
  rightRail: Vector3[],
): { piece: Piece; left: Stretch; right: Stretch } {
  const { flat } = unrollStrip(leftRail, rightRail);
  const [left, right] = flat.map(nodesAlong) as [PatternNode[], PatternNode[]];
  // Counter-clockwise: up the right side, down the left one.
  const down = [...left].reverse().map((node) => ({ ...node, before: node.after, after: node.before }));
  const id = newId();
  const piece = makePiece({
    ...{ id, name, outline: [...right, ...down], lies: 'between rails' },
    rails: [leftRail, rightRail].map((rail) => rail.map((place) => [...place])) as NonNullable<Piece['rails']>,
  });
  const stretch = (nodes: PatternNode[]): Stretch => ({ piece: id, from: nodes[0]!.id, to: nodes.at(-1)!.id });
  return { piece, left: stretch(down), right: stretch(right) };
}

/** Nodes of a smooth line through places of a rail, with handles along it. */
function nodesAlong(rail: readonly FlatPlace[]): PatternNode[] {
  const last = rail.length - 1;
  const tangent = (i: number): FlatPlace => {
    const middle = Math.min(last - LOOK, Math.max(LOOK, i));
    const along = (k: 0 | 1) => {
      const [p, q, r] = [middle - LOOK, middle, middle + LOOK].map((at) => rail[at]![k]) as [number, number, number];
      if (i === 0) return (4 * q - 3 * p - r) / (2 * LOOK);
      return i === last ? (p - 4 * q + 3 * r) / (2 * LOOK) : (r - p) / (2 * LOOK);
    };
    return [along(0), along(1)];
  };
  return Array.from({ length: last / STEP + 1 }, (_, n) => {
    const i = n * STEP;
    // A node is so many places from the next; a third of that is where its handle is.
    const [u, v] = tangent(i).map((value) => (value * STEP) / 3) as [number, number];
    return newNode(rail[i]!, i === 0 ? null : [-u, -v], i === last ? null : [u, v]);
  });
}
