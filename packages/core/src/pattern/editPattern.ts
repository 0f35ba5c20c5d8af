import { newId } from '../shot/create';
import { asPolygon, isStraight, reversed, sidesOf, signedArea, splitSide, type FlatPlace } from '../mesh/outline/path';
import { newNode } from './makePiece';
import type { PatternLine, PatternNode, Piece, Seam } from './schema';
import { TOUCH } from './innerLines';
import { sewnLength } from './sewnRuns';
import { findStretch, loopsOfPiece, sideKeys } from './stretches';

// What is done to pieces and seams, in recipes of `edit`. A seam holds on to nodes by their ids, so it stays whatever happens to its sides.

/** Pieces and seams that are changed in place. */
export interface EditedPattern {
  pieces: Piece[];
  seams: Seam[];
}

/** The nodes of the line of a piece that has a node. */
export function lineWith(piece: Piece, node: string): PatternLine | undefined {
  return piece.lines.find(({ nodes }) => nodes.some(({ id }) => id === node));
}

/** A node of a piece, on its borders or its lines. */
export function nodeWith(piece: Piece, id: string): PatternNode | undefined {
  return (lineWith(piece, id)?.nodes ?? loopWith(piece, id))?.find((node) => node.id === id);
}

/** All nodes of a piece: of its borders, then of its lines. */
export function nodesOfPiece(piece: Piece): PatternNode[] {
  return [...loopsOfPiece(piece), ...piece.lines.map(({ nodes }) => nodes)].flat();
}

/** The loop of a piece that has a node. */
export function loopWith(piece: Piece, node: string): PatternNode[] | undefined {
  return loopsOfPiece(piece).find((nodes) => nodes.some(({ id }) => id === node)) as PatternNode[] | undefined;
}

/** Adds a node on a side that begins with this node, at a parameter; the border or line stays as it is, and so do its seams. Returns its id. */
export function addNode(piece: Piece, from: string, t: number): string | null {
  const line = lineWith(piece, from);
  if (line) {
    const own = newId();
    line.nodes = splitSide(
      line.nodes,
      line.nodes.findIndex((node) => node.id === from),
      t,
      { id: own },
    );
    return own;
  }
  const loop = loopWith(piece, from);
  if (!loop) return null;
  const id = newId();
  const side = loop.findIndex((node) => node.id === from);
  // Pleats go on to where they ended.
  const { pleats } = piece;
  if (pleats?.side === from && !pleats.to) pleats.to = endOfSide(piece, from);
  const next = splitSide(loop, side, t, { id });
  loop.splice(0, loop.length, ...next);
  return id;
}

/** Takes nodes away, and seams and pleats that begin or end there. A border keeps at least two; a line that has only one left goes. */
export function removeNodes(pattern: EditedPattern, piece: string, nodes: readonly string[]): void {
  const own = pattern.pieces.find(({ id }) => id === piece);
  if (!own) return;
  const gone = new Set(nodes);
  if (own.pleats?.to && gone.has(own.pleats.to)) {
    const start = own.outline.findIndex(({ id }) => id === own.pleats!.to);
    const after = own.outline.map((_, i) => own.outline[(start + i) % own.outline.length]!);
    own.pleats.to = after.find(({ id }) => !gone.has(id))?.id;
  }
  own.outline = own.outline.filter(({ id }) => !gone.has(id));
  own.holes = own.holes.map((hole) => hole.filter(({ id }) => !gone.has(id))).filter((hole) => hole.length > 1);
  own.lines = own.lines
    .map((line) => ({ ...line, nodes: line.nodes.filter(({ id }) => !gone.has(id)) }))
    .filter(({ nodes: left }) => left.length > 1);
  if (own.pleats && gone.has(own.pleats.side)) own.pleats = null;
  pattern.seams = pattern.seams.filter(({ a, b }) => findStretch(pattern.pieces, a) && findStretch(pattern.pieces, b));
}

export function removePiece(pattern: EditedPattern, piece: string): void {
  pattern.pieces = pattern.pieces.filter(({ id }) => id !== piece);
  pattern.seams = pattern.seams.filter(({ a, b }) => a.piece !== piece && b.piece !== piece);
}

/** Makes the sides at a node curves, or straight again. */
export function setCurved(piece: Piece, node: string, curved: boolean): void {
  const line = lineWith(piece, node)?.nodes;
  const loop = line ?? loopWith(piece, node);
  if (!loop) return;
  const at = loop.findIndex(({ id }) => id === node);
  const own = loop[at]!;
  // At the end of a line there is nothing before, or after.
  const before = line ? loop[Math.max(0, at - 1)]! : loop.at(at - 1)!;
  const after = line ? loop[Math.min(loop.length - 1, at + 1)]! : loop[(at + 1) % loop.length]!;
  if (!curved) {
    own.before = own.after = null;
    return;
  }
  // Along the line between its neighbours, a third of the way to each.
  const [du, dv] = [after.at[0] - before.at[0], after.at[1] - before.at[1]];
  const size = Math.sqrt(du * du + dv * dv) || 1;
  const reach = (to: FlatPlace) => Math.sqrt((to[0] - own.at[0]) ** 2 + (to[1] - own.at[1]) ** 2) / 3;
  const along = (by: number): [number, number] => [(du / size) * by, (dv / size) * by];
  own.before = along(-reach(before.at));
  own.after = along(reach(after.at));
}

/** Makes a straight side so long, in m, by moving its end along it. */
export function setSideLength(piece: Piece, from: string, length: number): void {
  const loop = loopWith(piece, from);
  const side = loop && sidesOf(loop)[loop.findIndex(({ id }) => id === from)];
  if (!loop || !side || !isStraight(side)) return;
  const [a, b] = [side.from.at, side.to.at];
  const size = Math.sqrt((b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2);
  if (size === 0) return;
  const end = loop[(loop.findIndex(({ id }) => id === from) + 1) % loop.length]!;
  end.at = [a[0] + ((b[0] - a[0]) * length) / size, a[1] + ((b[1] - a[1]) * length) / size];
}

/** A piece seen in a mirror, beside it: the other sleeve. */
export function mirroredPiece(piece: Piece, name: string): Piece {
  const ids = new Map<string, string>();
  const own = (id: string) => ids.get(id) ?? ids.set(id, newId()).get(id)!;
  const flip = (place: FlatPlace): [number, number] => [-place[0], place[1]];
  const loop = (nodes: readonly PatternNode[]) =>
    reversed(
      nodes.map((node) => ({
        id: own(node.id),
        at: flip(node.at),
        before: node.before && flip(node.before),
        after: node.after && flip(node.after),
      })),
    ).map((node) => ({ ...node, before: node.before ?? null, after: node.after ?? null }));
  const [x, y, z] = piece.position;
  const [rx, ry, rz] = piece.rotation;
  return {
    ...flatPiece(piece),
    ...{ id: newId(), name, outline: loop(piece.outline), holes: piece.holes.map(loop) },
    // Seen in a mirror the face is the same, so folds are.
    lines: piece.lines.map((line) => ({ ...line, id: newId(), nodes: loop(line.nodes) })),
    // The loop runs the other way: the side begins with what was its end.
    pleats: piece.pleats && {
      ...piece.pleats,
      side: own(piece.pleats.to ?? endOfSide(piece, piece.pleats.side)),
      ...(piece.pleats.to && { to: own(piece.pleats.side) }),
    },
    grain: piece.grain >= 0 ? Math.PI - piece.grain : -Math.PI - piece.grain,
    position: [-x, y, z],
    rotation: [rx, -ry, -rz],
  };
}

/** The node with which a side of the outline ends. */
function endOfSide({ outline }: Piece, from: string): string {
  return outline[(outline.findIndex(({ id }) => id === from) + 1) % outline.length]!.id;
}

/** Opens a piece that is half of a whole along a straight side: its other half is the same, seen in a mirror on that side. */
export function unfoldPiece(pattern: EditedPattern, piece: string, from: string): void {
  const own = pattern.pieces.find(({ id }) => id === piece);
  const start = own?.outline.findIndex(({ id }) => id === from) ?? -1;
  if (!own || start < 0) return;
  // From the end of the side all around to its beginning.
  const nodes = own.outline.map((_, i) => own.outline[(start + 1 + i) % own.outline.length]!);
  const [a, b] = [nodes.at(-1)!.at, nodes[0]!.at];
  const [du, dv] = [b[0] - a[0], b[1] - a[1]];
  const square = du * du + dv * dv;
  if (square === 0) return;
  const turned = ([u, v]: FlatPlace): [number, number] => {
    const across = (2 * (u * dv - v * du)) / square;
    return [u - across * dv, v + across * du];
  };
  const mirror = ([u, v]: FlatPlace): [number, number] => {
    const [x, y] = turned([u - a[0], v - a[1]]);
    return [x + a[0], y + a[1]];
  };
  const mirrorNode = (node: PatternNode): PatternNode =>
    newNode(mirror(node.at), node.after && turned(node.after), node.before && turned(node.before));
  const inner = nodes.slice(1, -1).reverse().map(mirrorNode);
  const [first, last] = [nodes[0]!, nodes.at(-1)!];
  const open = [
    { ...first, before: first.after && turned(first.after) },
    ...nodes.slice(1, -1),
    { ...last, after: last.before && turned(last.before) },
    ...inner,
  ];
  Object.assign(own, flatPiece(own));
  own.outline = signedArea(asPolygon(open)) > 0 ? open : reversed(open).map((node) => ({ ...node }));
  own.holes = [...own.holes, ...own.holes.map((hole) => hole.map(mirrorNode).reverse())];
  const offFold = ([u, v]: FlatPlace) => Math.abs((u - a[0]) * dv - (v - a[1]) * du) / Math.sqrt(square);
  own.lines = own.lines.flatMap((line) => {
    const other = line.nodes.map(mirrorNode).reverse();
    // A line that ends where the piece is opened goes on there.
    if (offFold(line.nodes.at(-1)!.at) < TOUCH) return [{ ...line, nodes: joined(line.nodes, other) }];
    if (offFold(line.nodes[0]!.at) < TOUCH) return [{ ...line, nodes: joined(other, line.nodes) }];
    return [line, { ...line, id: newId(), nodes: other }];
  });
  if (own.pleats && !own.outline.some(({ id }) => id === own.pleats?.side)) own.pleats = null;
  pattern.seams = pattern.seams.filter(
    ({ a: one, b: other }) => findStretch(pattern.pieces, one) && findStretch(pattern.pieces, other),
  );
}

/** Two lines as one, the second of which begins where the first ends. */
function joined(first: readonly PatternNode[], second: readonly PatternNode[]): PatternNode[] {
  const [at, next] = [first.at(-1)!, second[0]!];
  return [...first.slice(0, -1), { ...at, after: next.after }, ...second.slice(1)];
}

/** Sews two stretches together. */
export function sew(pattern: EditedPattern, a: Seam['a'], b: Seam['b'], turned = false): string {
  const id = newId();
  pattern.seams.push({ id, a, b, turned });
  return id;
}

/** How much longer the longer side of a seam is than the other, as they are sewn, as a share; 0 where they are alike. */
export function easeOf(pieces: readonly Piece[], { a, b }: Pick<Seam, 'a' | 'b'>): number {
  const [one, other] = [a, b].map((stretch) => {
    const place = findStretch(pieces, stretch);
    return place ? sewnLength(place) : 0;
  }) as [number, number];
  const least = Math.min(one, other);
  return least > 0 ? Math.max(one, other) / least - 1 : 0;
}

/** Sides that no seam has, by the node with which they begin. */
export function freeSides({
  pieces,
  seams,
}: {
  pieces: readonly Piece[];
  seams: readonly Seam[];
}): { piece: string; from: string; to: string }[] {
  const taken = new Set(
    seams.flatMap(({ a, b }) =>
      [a, b].flatMap((stretch) => {
        const found = findStretch(pieces, stretch);
        return found ? sideKeys(found) : [];
      }),
    ),
  );
  return pieces.flatMap((piece) =>
    loopsOfPiece(piece).flatMap((nodes, loop) =>
      nodes.flatMap((node, side) =>
        taken.has(`${piece.id} ${loop} ${side}`)
          ? []
          : [{ piece: piece.id, from: node.id, to: nodes[(side + 1) % nodes.length]!.id }],
      ),
    ),
  );
}

/** The piece as it lies without its rails, which fit its outline as it was cut and no other. */
function flatPiece(piece: Piece): Piece {
  return piece.lies === 'between rails' ? { ...piece, lies: 'flat', rails: undefined } : piece;
}
