import { newId } from '../shot/create';
import {
  asPolygon,
  distance,
  isStraight,
  openSidesOf,
  parameterAt,
  reversed,
  sideLength,
  sidesOf,
  signedArea,
  splitSide,
  type FlatPlace,
} from '../mesh/outline/path';
import { SLIT } from './cutSlits';
import type { EditedPattern } from './editPattern';
import { borderSpot, type BorderSpot } from './innerLines';
import { newNode } from './makePiece';
import type { PatternLine, PatternNode, Piece } from './schema';
import { findStretch, loopsOfPiece } from './stretches';

// A slit has no sides that a seam could name: it is a line. As part of the border each of its lips has them, and they are sewn like any other: to each
// other, as a dart, or to a gusset that is let in between.

/** A side whose curve is drawn aside by its handles is so much less drawn aside in its middle. */
const MIDDLE = 0.75;

/** Why the slit of a piece cannot become part of its border: a sentence for the artist; undefined where it can. */
export function slitProblem({ seams, pieces }: EditedPattern, piece: Piece, line: PatternLine): string | undefined {
  const [first, last] = endsOf(piece, line);
  if (first && last) return 'it cuts the piece in two. Cut two pieces instead';
  const end = first ?? last;
  if (!end) return undefined;
  const runs = seams
    .flatMap(({ a, b }) => [a, b])
    .map((stretch) => findStretch(pieces, stretch))
    .filter((place) => place?.piece.id === piece.id && place.loop === end.loop);
  if (runs.some((place) => runsOver(place!.sides, end, place!.whole)))
    return 'a seam runs across its open end. Take it off, and sew what is left on either side';
  if (piece.pleats && end.loop === 0) {
    const { side, to } = piece.pleats;
    const after = piece.outline[(piece.outline.findIndex(({ id }) => id === side) + 1) % piece.outline.length]!.id;
    const row = findStretch([piece], { piece: piece.id, from: side, to: to ?? after });
    if (row && runsOver(row.sides, end, false)) return 'pleats lie across its open end';
  }
  return undefined;
}

/**
 * Makes a slit of a piece part of its border: a hole where it lies inside, a notch where it begins or ends on a border. It stays as wide as a slit is cut,
 * {@link SLIT}. Seams and pleats beside it stay. Nothing is done where {@link slitProblem} has something to say.
 *
 * @returns ids of the nodes at which its lips begin and end, or null where nothing was done
 */
export function slitToBorder(
  pattern: EditedPattern,
  piece: Piece,
  id: string,
): { from: string; tip: string; to: string } | null {
  const line = piece.lines.find((one) => one.id === id);
  if (!line || line.kind !== 'slit' || slitProblem(pattern, piece, line)) return null;
  piece.lines = piece.lines.filter((one) => one.id !== id);
  const [first, last] = endsOf(piece, line);
  if (!first && !last) return intoHole(piece, line.nodes);
  const nodes = first ? line.nodes : reversed(line.nodes);
  return intoNotch(pattern, piece, nodes, (first ?? last)!);
}

function endsOf(piece: Piece, { nodes }: PatternLine): [BorderSpot | null, BorderSpot | null] {
  return [borderSpot(piece, nodes[0]!.at), borderSpot(piece, nodes.at(-1)!.at)];
}

/** Whether sides of a border run over a place of it, not only up to it; all around they have no end that could stay there. */
function runsOver(sides: readonly number[], { side, share }: BorderSpot, whole: boolean): boolean {
  return sides.includes(side) && (share > 0 || whole || sides.indexOf(side) > 0);
}

function intoHole(piece: Piece, nodes: readonly PatternNode[]): { from: string; tip: string; to: string } {
  const [first, last] = [nodes[0]!, nodes.at(-1)!];
  const lip = (side: 1 | -1) => {
    const aside = besideOf(nodes, side);
    // A slit of one side has no node inside that could be drawn aside: its curve is.
    return nodes.length > 2 ? aside : bulged(nodes, side);
  };
  const [there, back] = [lip(1), reversed(lip(-1))];
  const loop = [
    { ...first, before: back.at(-1)!.before, after: there[0]!.after },
    ...there.slice(1, -1),
    { ...last, before: there.at(-1)!.before, after: back[0]!.after },
    ...back.slice(1, -1),
  ];
  // Holes run clockwise.
  piece.holes.push(signedArea(asPolygon(loop)) > 0 ? reversed(loop) : loop);
  return { from: first.id, tip: last.id, to: first.id };
}

function intoNotch(
  pattern: EditedPattern,
  piece: Piece,
  nodes: readonly PatternNode[],
  { loop: index, side, share }: BorderSpot,
): { from: string; tip: string; to: string } {
  const loop = loopsOfPiece(piece)[index] as PatternNode[];
  const corner = loop[side]!.id;
  const [before, after] = [newId(), newId()];
  const at = nodes[0]!.at;
  // Half a slit's width along the border to either side; a node in between goes.
  let open = [...loop];
  const cut = (start: string, far: number, id: string) => {
    const own = open.findIndex((node) => node.id === start);
    open = splitSide(open, own, parameterAt(sidesOf(open)[own]!, far / sideLength(sidesOf(open)[own]!)), { id });
  };
  const length = (start: string) => sideLength(sidesOf(open)[open.findIndex((node) => node.id === start)]!);
  if (share > 0) {
    cut(corner, Math.max(share * length(corner) - SLIT / 2, 0.1 * SLIT), before);
    cut(before, Math.min(SLIT, 0.9 * length(before)), after);
  } else {
    const previous = loop[(side + loop.length - 1) % loop.length]!.id;
    cut(corner, Math.min(SLIT / 2, length(corner) / 2), after);
    cut(previous, Math.max(length(previous) - SLIT / 2, length(previous) / 2), before);
    open = open.filter(({ id }) => id !== corner);
    // The two follow each other also where the corner was the first of all.
    if (open[0]!.id === after) open.push(open.shift()!);
    const moved = (id: string | undefined, to: string) => (id === corner ? to : id!);
    for (const { a, b } of pattern.seams) {
      for (const stretch of [a, b].filter((one) => one.piece === piece.id)) {
        [stretch.from, stretch.to] = [moved(stretch.from, after), moved(stretch.to, before)];
      }
    }
    if (piece.pleats && index === 0) {
      piece.pleats.side = moved(piece.pleats.side, after);
      if (piece.pleats.to) piece.pleats.to = moved(piece.pleats.to, before);
    }
  }
  const [one, other] = [before, after].map((id) => open.find((node) => node.id === id)!) as [PatternNode, PatternNode];
  // The lip that is met first runs on that side of the slit on which its beginning lies.
  const [next] = directionsOf(nodes);
  const left = next![0] * (one.at[1] - at[1]) - next![1] * (one.at[0] - at[0]) > 0;
  const there = besideOf(nodes, left ? 1 : -1);
  const back = reversed(besideOf(nodes, left ? -1 : 1));
  const tip = { ...nodes.at(-1)!, before: there.at(-1)!.before, after: back[0]!.after };
  open.splice(
    open.indexOf(one),
    2,
    { ...one, after: there[0]!.after },
    ...there.slice(1, -1),
    tip,
    ...back.slice(1, -1),
    { ...other, before: back.at(-1)!.before },
  );
  loop.splice(0, loop.length, ...open);
  return { from: before, tip: tip.id, to: after };
}

/** The nodes of a line half a slit's width to its left (1) or right (-1), with ids of their own; its ends stay. */
function besideOf(nodes: readonly PatternNode[], side: 1 | -1): PatternNode[] {
  const along = directionsOf(nodes);
  return nodes.map((node, i) => {
    if (i === 0 || i === nodes.length - 1) return { ...node };
    const [u, v] = along[i]!;
    const half = (side * SLIT) / 2;
    return newNode([node.at[0] - v * half, node.at[1] + u * half], node.before, node.after);
  });
}

/** A line of one side whose middle lies half a slit's width to its left (1) or right (-1). */
function bulged([first, last]: readonly PatternNode[], side: 1 | -1): PatternNode[] {
  const { from, to } = openSidesOf([first!, last!])[0]!;
  const third = (share: number): FlatPlace => [(to.at[0] - from.at[0]) * share, (to.at[1] - from.at[1]) * share];
  const straight = isStraight({ from, to });
  const [u, v] = directionsOf([first!, last!])[0]!;
  const by = (side * SLIT) / 2 / MIDDLE;
  const aside = ([p, q]: FlatPlace): [number, number] => [p - v * by, q + u * by];
  const [leaves, arrives] = [
    straight ? third(1 / 3) : (first!.after ?? ([0, 0] as const)),
    straight ? third(-1 / 3) : (last!.before ?? ([0, 0] as const)),
  ];
  return [
    { ...first!, after: aside(leaves) },
    { ...last!, before: aside(arrives) },
  ];
}

/** The direction of a line at each of its nodes, of length 1. */
function directionsOf(nodes: readonly PatternNode[]): FlatPlace[] {
  return nodes.map((_, i) => {
    const [a, b] = [nodes[Math.max(0, i - 1)]!.at, nodes[Math.min(nodes.length - 1, i + 1)]!.at];
    const size = distance(a, b) || 1;
    return [(b[0] - a[0]) / size, (b[1] - a[1]) / size];
  });
}
