import { asPolygon, signedArea } from '../mesh/outline/path';
import { outlineProblem } from '../mesh/outline/outlineProblem';
import { MOST_SHEET_POINTS } from './limits';
import { linesProblem } from './linesProblem';
import { pleatsProblem } from './pleatRow';
import { findStretch, loopsOfPiece, sideKeys } from './stretches';
import { MOST_HOLES, MOST_LINES, MOST_NODES, MOST_PIECES, MOST_SEAMS, type Pattern, type Piece } from './schema';

/** What cannot be cut or sewn, and where in the document. */
export interface PatternProblem {
  path: (string | number)[];
  message: string;
}

/** Outlines that were found sound, which no change of something else makes unsound. */
const sound = new WeakMap<object, { holes: unknown; problem: string | undefined }>();

/** The first thing that makes a pattern impossible: a sentence for the artist; undefined where all can be cut and sewn. */
export function patternProblem({ pieces, seams, spacing }: Pattern): PatternProblem | undefined {
  if (pieces.length > MOST_PIECES)
    return { path: ['pieces'], message: `a pattern has at most ${MOST_PIECES} pieces, not ${pieces.length}` };
  if (seams.length > MOST_SEAMS)
    return { path: ['seams'], message: `a pattern has at most ${MOST_SEAMS} seams, not ${seams.length}` };
  const ids = new Set<string>();
  let area = 0;
  for (const [i, piece] of pieces.entries()) {
    const refused = (message: string) => ({
      path: ['pieces', i],
      message: `“${piece.name}” cannot be cut: ${message}`,
    });
    if (ids.has(piece.id)) return refused('another piece has the same id');
    ids.add(piece.id);
    const crowded = crowdedProblem(piece);
    if (crowded) return refused(crowded);
    const nodes = [...loopsOfPiece(piece), ...piece.lines.map(({ nodes: own }) => own)].flat();
    if (new Set(nodes.map(({ id }) => id)).size < nodes.length) return refused('two of its nodes have the same id');
    if (piece.rails && piece.rails[0].length !== piece.rails[1].length)
      return refused('its rails have not as many places');
    const problem = problemOf(piece);
    if (problem) return refused(problem);
    const unpleated = pleatsProblem(piece);
    if (unpleated) return { path: ['pieces', i, 'pleats'], message: `“${piece.name}” cannot be pleated: ${unpleated}` };
    const unlined = linesProblem(piece);
    if (unlined) return { path: ['pieces', i, 'lines'], message: `“${piece.name}” cannot be cut: ${unlined}` };
    area += areaOf(piece);
  }
  if (area / (spacing * spacing) > MOST_SHEET_POINTS)
    return { path: ['spacing'], message: `this spacing would make more than ${MOST_SHEET_POINTS} points` };
  return seamProblem(pieces, seams);
}

/** Whether a piece has more of something than a document may hold. */
function crowdedProblem(piece: Piece): string | undefined {
  if (piece.holes.length > MOST_HOLES) return `it has more than ${MOST_HOLES} holes`;
  if (piece.lines.length > MOST_LINES) return `it has more than ${MOST_LINES} lines`;
  const paths = [...loopsOfPiece(piece), ...piece.lines.map(({ nodes }) => nodes)];
  return paths.some((nodes) => nodes.length > MOST_NODES)
    ? `a path of it has more than ${MOST_NODES} nodes`
    : undefined;
}

function problemOf({ outline, holes }: Piece): string | undefined {
  const known = sound.get(outline);
  if (known && known.holes === holes) return known.problem;
  const problem = outlineProblem(outline, holes);
  if (Object.isFrozen(outline)) sound.set(outline, { holes, problem });
  return problem;
}

/** Area of a piece without its holes, in m². */
export function areaOf(piece: Piece): number {
  const [outline, ...holes] = loopsOfPiece(piece).map((nodes) => Math.abs(signedArea(asPolygon(nodes, 64))));
  return holes.reduce((left, hole) => left - hole, outline!);
}

function seamProblem(pieces: readonly Piece[], seams: Pattern['seams']): PatternProblem | undefined {
  const taken = new Set<string>();
  for (const [i, { a, b }] of seams.entries()) {
    const refused = (message: string) => ({ path: ['seams', i], message: `seam ${i + 1} ${message}` });
    const [one, other] = [findStretch(pieces, a), findStretch(pieces, b)];
    if (!one || !other) return refused('names a piece or a node that is not there');
    const keys = [...sideKeys(one), ...sideKeys(other)];
    if (new Set(keys).size < keys.length) return refused('would sew a border to itself');
    if (keys.some((key) => taken.has(key))) return refused('takes a side that another seam has already');
    for (const key of keys) taken.add(key);
  }
  return undefined;
}
