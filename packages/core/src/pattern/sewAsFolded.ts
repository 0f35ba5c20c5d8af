import { parameterAt, sidesOf, splitSide } from '../mesh/outline/path';
import { pleatRow } from './pleatRow';
import type { Pattern, PatternNode, Piece, Seam, Stretch } from './schema';
import { sewnRuns, type SewnRun } from './sewnRuns';
import { findStretch, loopsOfPiece, sideKey, type StretchPlace } from './stretches';

/** Shares of a side that are nearer to each other than this are one. */
const SAME = 1e-6;

/** A stretch as a seam takes it: its runs, and where each ends, as a share of their length altogether. */
interface SewnPath {
  place: StretchPlace;
  runs: readonly SewnRun[];
  ends: readonly number[];
  length: number;
}

/** A node that is to be on a side, at a share of its length. */
interface WantedNode {
  share: number;
  id: string;
}

/**
 * A pattern whose pleated borders are sewn as they lie: where a seam takes a border with creased pleats, it is made one seam for each run of cloth that is
 * seen from its face, to as much of the other border; the layers under it, which are stitched down, hang from the folds. All seams of one keep its id.
 * The pattern itself where no pleats are sewn.
 */
export function sewnAsFolded<Given extends Pattern>(pattern: Given): Given {
  const pleated = new Set(
    pattern.pieces.filter(({ pleats }) => pleats && pleats.kind !== 'rolled').map(({ id }) => id),
  );
  if (!pattern.seams.some(({ a, b }) => pleated.has(a.piece) || pleated.has(b.piece))) return pattern;
  const wanted = new Map<string, WantedNode[]>();
  const seams = pattern.seams.flatMap((seam) => dividedSeam(seam, pattern, wanted));
  if (wanted.size === 0) return pattern;
  return { ...pattern, pieces: pattern.pieces.map((piece) => withNodes(piece, wanted)), seams };
}

/** A seam as its parts, and the nodes that they need. */
function dividedSeam(seam: Seam, { pieces, spacing }: Pattern, wanted: Map<string, WantedNode[]>): Seam[] {
  const [a, b] = [sewnPath(pieces, seam.a), sewnPath(pieces, seam.b)];
  if (!a || !b) return [seam];
  const mirrored = (share: number) => (seam.turned ? share : 1 - share);
  const own = foldsOf(a);
  const gaps = [...own, 1].map((at, i) => at - (own[i - 1] ?? 0));
  /** What is nearer than this on both sides is divided at one place: no edge is much shorter than the spacing, and no fold is taken for another. */
  const near = Math.min(spacing / 2 / Math.min(a.length, b.length), ...gaps.map((gap) => gap / 4));
  const others = foldsOf(b).map(mirrored);
  const places = [...own, ...others.filter((share) => !own.some((at) => Math.abs(at - share) < near))];
  if (places.length === 0) return [seam];
  places.sort((p, q) => p - q);
  const partsOf = (path: SewnPath, at: readonly number[]): Stretch[] => {
    const cuts = at.map((share, i) => {
      // A node that is there is taken rather than one beside it, but none twice.
      const room = Math.min(share - (at[i - 1] ?? 0), (at[i + 1] ?? 1) - share) * path.length;
      return cutAt(path, share, near, Math.min(spacing / 2, room / 4), wanted);
    });
    const [first, last] = [path.runs[0]!, path.runs.at(-1)!];
    const starts = [nodeOn(path.place, first.side, first.from, 0, wanted), ...cuts.map(({ start }) => start)];
    const ends = [...cuts.map(({ end }) => end), nodeOn(path.place, last.side, last.to, 0, wanted)];
    return starts.map((from, i) => ({ piece: path.place.piece.id, from, to: ends[i]! }));
  };
  const parts = partsOf(a, places);
  const facing = partsOf(b, seam.turned ? places : places.map(mirrored).reverse());
  if (!seam.turned) facing.reverse();
  return parts.map((part, i) => ({ ...seam, a: part, b: facing[i]! }));
}

function sewnPath(pieces: readonly Piece[], stretch: Stretch): SewnPath | null {
  const place = findStretch(pieces, stretch);
  const runs = place && sewnRuns(place);
  if (!runs || runs.length === 0) return null;
  const length = runs.reduce((sum, run) => sum + run.length, 0);
  let before = 0;
  const ends = runs.map((run) => (before += run.length) / length);
  return { place, runs, ends, length };
}

/** Where cloth goes under: between runs of which one does not begin where the other ends. */
function foldsOf({ runs, ends }: SewnPath): number[] {
  return runs.slice(1).flatMap(({ side, from }, i) => {
    const goesOn = side === runs[i]!.side ? from - runs[i]!.to < SAME : from < SAME && runs[i]!.to > 1 - SAME;
    return goesOn ? [] : [ends[i]!];
  });
}

/** The nodes at which a path is divided, `reach` m beside it at most: where cloth goes under there, the end of one run and the beginning of the next. */
function cutAt(
  path: SewnPath,
  share: number,
  near: number,
  reach: number,
  wanted: Map<string, WantedNode[]>,
): { end: string; start: string } {
  const { place, runs, ends, length } = path;
  const off = (at: number) => Math.abs(at - share);
  const fold = foldsOf(path).reduce((best, at) => (off(at) < off(best) ? at : best), Infinity);
  if (off(fold) < near) {
    const i = ends.indexOf(fold);
    const [run, next] = [runs[i]!, runs[i + 1]!];
    return { end: nodeOn(place, run.side, run.to, 0, wanted), start: nodeOn(place, next.side, next.from, 0, wanted) };
  }
  const i = Math.max(
    0,
    ends.findIndex((end) => end >= share),
  );
  const run = runs[i]!;
  const into = (share * length - (i > 0 ? ends[i - 1]! * length : 0)) / run.length;
  const perMetre = (run.to - run.from) / run.length;
  const node = nodeOn(place, run.side, run.from + into * (run.to - run.from), reach * perMetre, wanted);
  return { end: node, start: node };
}

/** The node of a side at a share of its length: the one that it begins or ends with, where that is as near as so much of it, or a new one. */
function nodeOn(
  { piece, loop }: StretchPlace,
  side: number,
  share: number,
  near: number,
  wanted: Map<string, WantedNode[]>,
): string {
  const nodes = loopsOfPiece(piece)[loop]!;
  if (share < Math.max(near, SAME)) return nodes[side]!.id;
  if (share > 1 - Math.max(near, SAME)) return nodes[(side + 1) % nodes.length]!.id;
  const key = sideKey(piece.id, loop, side);
  const known = wanted.get(key) ?? [];
  const there = known.find((node) => Math.abs(node.share - share) < SAME);
  if (there) return there.id;
  const id = `${nodes[side]!.id} ${known.length + 1}`;
  wanted.set(key, [...known, { share, id }]);
  return id;
}

/** A piece with nodes added to its borders, whose course stays as it is; its pleats go on to where they ended. */
function withNodes(piece: Piece, wanted: ReadonlyMap<string, readonly WantedNode[]>): Piece {
  const loops = loopsOfPiece(piece).map((nodes, loop) => {
    let all: PatternNode[] = [...nodes];
    for (let side = nodes.length - 1; side >= 0; side--) {
      const own = sidesOf(nodes)[side]!;
      let before = 1;
      // The last first: what is left of the side begins with the same node.
      const added = [...(wanted.get(sideKey(piece.id, loop, side)) ?? [])].sort((p, q) => q.share - p.share);
      for (const { share, id } of added) {
        const t = parameterAt(own, share);
        all = splitSide(all, side, t / before, { id });
        before = t;
      }
    }
    return all;
  });
  if (loops.every((nodes, loop) => nodes.length === loopsOfPiece(piece)[loop]!.length)) return piece;
  const [outline, ...holes] = loops as [PatternNode[], ...PatternNode[][]];
  const last = piece.pleats && pleatRow(piece)?.sides.at(-1);
  const to = last === null || last === undefined ? undefined : piece.outline[(last + 1) % piece.outline.length]!.id;
  return { ...piece, outline, holes, pleats: piece.pleats && { ...piece.pleats, ...(to && { to }) } };
}
