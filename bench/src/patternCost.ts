import {
  autoSeam,
  discNodes,
  makePiece,
  patternMesh,
  pointCount,
  polygonNodes,
  rectangleNodes,
  suitablePleats,
  type Mesh,
  type PatternShape,
  type Piece,
} from '@lumbra/core';
import { median, row } from './print';

const ROUNDS = 3;
const WEAVES = ['all directions', 'along the grain'] as const;

/** Pieces of about a square metre, each unlike the others. */
function pieces(): Record<string, Piece> {
  const rectangle = rectangleNodes(1, 1);
  return {
    rectangle: makePiece({ name: 'Rectangle', outline: rectangle }),
    disc: makePiece({ name: 'Disc', outline: discNodes(0.56) }),
    hexagon: makePiece({ name: 'Hexagon', outline: polygonNodes(6, 0.6) }),
    'plate with holes': makePiece({
      ...{ name: 'Plate', outline: rectangleNodes(1, 1) },
      holes: [discNodes(0.12, [0.2, 0.2]), discNodes(0.08, [-0.25, -0.1])],
    }),
    pleated: makePiece({
      ...{ name: 'Pleated', outline: rectangle },
      pleats: suitablePleats(makePiece({ name: 'x', outline: rectangle }), rectangle[2]!.id, 'knife'),
    }),
  };
}

/** Shares of angles between 35 and 95 degrees and of edges between 0.6 and 1.5 spacings, and the smallest angle in degrees, as it lies flat. */
function evenness({ triangles, material }: Mesh, spacing: number) {
  let [good, even, least] = [0, 0, 180];
  for (let i = 0; i < triangles.length; i++) {
    const face = i - (i % 3);
    const [a, b, c] = [0, 1, 2].map((n) => triangles[face + ((i + n) % 3)]! * 2) as [number, number, number];
    const to = (p: number) => [material![p]! - material![a]!, material![p + 1]! - material![a + 1]!] as const;
    const [u, v] = [to(b), to(c)];
    const angle = (Math.atan2(Math.abs(u[0] * v[1] - u[1] * v[0]), u[0] * v[0] + u[1] * v[1]) * 180) / Math.PI;
    const size = Math.hypot(...u) / spacing;
    if (angle > 35 && angle < 95) good++;
    if (size > 0.6 && size < 1.5) even++;
    least = Math.min(least, angle);
  }
  return { good: good / triangles.length, even: even / triangles.length, least };
}

/** How long a piece takes to be meshed, and how even it comes out; how long the borders of panels take to find each other. */
export function patternCost(): void {
  console.log(`Pieces of a square metre, medians of ${ROUNDS}`);
  row('piece, mesh', 'points', 'time', '35 to 95°', 'even edges', 'least angle');
  for (const [name, piece] of Object.entries(pieces())) {
    for (const weave of WEAVES) {
      let mesh: Mesh | null = null;
      let spacing = 0;
      const times = Array.from({ length: ROUNDS }, (_, round) => {
        // A little finer each time: what was cut is remembered.
        spacing = 0.0051 - round * 0.00001;
        const started = performance.now();
        mesh = patternMesh({ spacing, weave, pieces: [piece], seams: [] });
        return performance.now() - started;
      });
      const { good, even, least } = evenness(mesh!, spacing);
      row(
        `${name}, ${weave}`,
        ...[String(pointCount(mesh!)), `${(median(times) / 1000).toFixed(2)} s`],
        ...[`${(good * 100).toFixed(1)} %`, `${(even * 100).toFixed(1)} %`, `${least.toFixed(0)}°`],
      );
    }
  }
  const frame = panels(12);
  const started = performance.now();
  const found = autoSeam(frame, 0.02).length;
  console.log(
    `\nAuto seam of 12 panels side by side: ${found} seams in ${(performance.now() - started).toFixed(1)} ms`,
  );
}

/** Panels that stand beside each other, a centimetre apart. */
function panels(count: number): PatternShape {
  const all = Array.from({ length: count }, (_, i) =>
    makePiece({ name: `Panel ${i + 1}`, outline: rectangleNodes(0.4, 1), position: [i * 0.41, 0, 0] }),
  );
  return { kind: 'pattern', spacing: 0.02, weave: 'all directions', pieces: all, seams: [], closing: 24 };
}
