import { z } from 'zod';
import { patternMesh } from '../../pattern/patternMesh';
import { patternProblem } from '../../pattern/patternProblem';
import { mesherSchema, MOST_PIECES, MOST_SEAMS, pieceSchema, seamSchema, type PatternNode } from '../../pattern/schema';
import { quantity } from '../../quantity/quantity';
import { shapeKind, spacingNumber, tidySize } from './shapeKind';

/** Flat pieces of any outline, and the seams between them. */
export const pattern = shapeKind({
  label: 'Pattern',
  words: [],
  sizes: [],
  start: null,
  isCloth: true,
  schema: z
    .strictObject({
      kind: z.literal('pattern'),
      spacing: spacingNumber(),
      weave: z
        .enum(['all directions', 'along the grain'])
        .default('all directions')
        .describe('Even in all directions, or a grid along the grain.'),
      pieces: z.array(pieceSchema).min(1).max(MOST_PIECES),
      seams: z.array(seamSchema).max(MOST_SEAMS).default([]),
      mesher: mesherSchema.optional(),
      closing: quantity({
        label: 'Frames to close',
        help: 'Seams that start open are closed so many frames after a run or a settle begins. More is gentler.',
        unit: '',
        min: 2,
        max: 1000,
        default: 24,
        step: 1,
        whole: true,
      }),
      falls: z
        .literal(true)
        .optional()
        .describe(
          'Gravity, wind, pressure and what draws act on it while its seams are drawn together; left out, none of them does until they are closed, and it stays where its pieces are placed.',
        ),
    })
    .superRefine((shape, context) => {
      const problem = patternProblem(shape);
      if (problem) context.addIssue({ code: 'custom', ...problem });
    }),
  mesh: (shape) => patternMesh(shape),
  resize: (shape, [x, y]) => ({
    ...shape,
    pieces: shape.pieces.map((piece) => {
      const scaled = (place: PatternNode['at']): PatternNode['at'] => [place[0] * x, place[1] * y];
      const loop = (nodes: PatternNode[]) =>
        nodes.map((node) => ({
          ...node,
          at: scaled(node.at),
          before: node.before && scaled(node.before),
          after: node.after && scaled(node.after),
        }));
      return {
        ...piece,
        // Rails fit the cut at one size.
        ...(piece.lies === 'between rails' && { lies: 'flat' as const, rails: undefined }),
        outline: loop(piece.outline),
        holes: piece.holes.map(loop),
        lines: piece.lines.map((line) => ({ ...line, nodes: loop(line.nodes) })),
        pleats: piece.pleats && { ...piece.pleats, depth: tidySize(piece.pleats.depth * Math.min(x, y)) },
        position: [piece.position[0] * x, piece.position[1] * y, piece.position[2]] as typeof piece.position,
        radius: tidySize(Math.abs(piece.radius) * x) * (piece.radius < 0 ? -1 : 1),
      };
    }),
  }),
});

export type PatternShape = z.infer<(typeof pattern)['schema']>;
