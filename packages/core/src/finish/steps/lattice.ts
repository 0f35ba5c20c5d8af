import { z } from 'zod';
import { areaMiddle } from '../../mesh/areaMiddle';
import { bounds } from '../../mesh/bounds';
import { quantity, type Quantity } from '../../quantity/quantity';
import { finishStep, masked, sameFaces } from '../finishStep';
import { controlName, controlPlaces, MOST_CONTROLS, movesOf, type LatticeBox } from '../lattice/controlPoints';

const AXES = ['x', 'y', 'z'] as const;
/** A new box is larger than the cloth by so much, in m, so that nothing flat lies in a box without a height. */
const ROOM = 0.02;

const middle = (axis: string) =>
  quantity({
    label: `Middle ${axis}`,
    help: `Where the middle of the box is along ${axis}, from the middle of the cloth, with which it goes along.`,
    ...{ unit: 'm' as const, min: -100, max: 100, default: 0, step: 0.005, keyable: true },
    group: 'Box',
  });
const side = (label: string) =>
  quantity({
    label,
    help: 'Of the box. What lies outside of it moves with its nearest side.',
    ...{ unit: 'm' as const, min: 0.001, max: 100, default: 1, step: 'ratio' as const, keyable: true },
    group: 'Box',
  });
const count = z.number().int().min(2).max(MOST_CONTROLS);

/** Free-form deformation: Sederberg and Parry 1986, “Free-form deformation of solid geometric models”. */
export const lattice = finishStep({
  label: 'Lattice',
  help: 'Bends cloth with a grid of points around it: drag them in the view, or type how far they move.',
  masked: true,
  schema: z.strictObject({
    kind: z.literal('lattice'),
    strength: quantity({
      label: 'Strength',
      help: 'How much of the bend the cloth takes.',
      ...{ unit: '%', min: 0, max: 1, default: 1, step: 0.01, keyable: true },
    }),
    x: middle('x'),
    y: middle('y'),
    z: middle('z'),
    width: side('Width'),
    height: side('Height'),
    depth: side('Depth'),
    counts: z.tuple([count, count, count]).default([3, 3, 3]).describe('How many points there are along x, y and z.'),
    points: z
      .array(z.number().min(-100).max(100))
      .max(MOST_CONTROLS ** 3 * 3)
      .default(() => new Array<number>(81).fill(0))
      .describe('How far each point is moved, x y z in m; x goes fastest, then y.'),
  }),
  numbersOf: pointNumbers,
  begin: (positions, triangles) => {
    const box = bounds(positions);
    if (!box) return {};
    const [from, sizes] = [
      areaMiddle(positions, triangles),
      box.high.map((high, axis) => high - box.low[axis]! + ROOM),
    ];
    const [x, y, z] = box.low.map((low, axis) => (low + box.high[axis]!) / 2 - from[axis]!);
    return { x, y, z, width: sizes[0], height: sizes[1], depth: sizes[2] };
  },
  build: (mesh) =>
    sameFaces(mesh, (positions, step, mask) => {
      const moves = movesOf(step);
      if (step.strength === 0 || moves.every((value) => value === 0)) return positions;
      return masked(positions, bent(positions, areaMiddle(positions, mesh.triangles), step, moves), mask);
    }),
});

/** The numbers of the points of a lattice that are moved by hand: “points.0” is how far the first is moved along x. */
function pointNumbers({ counts }: Pick<LatticeBox, 'counts'>): Record<string, Quantity> {
  return Object.fromEntries(
    controlPlaces(counts).flatMap((at, i) =>
      AXES.map((axis, part) => [
        `points.${i * 3 + part}`,
        {
          label: `Point ${controlName(at)} along ${axis}`,
          help: `How far the point is moved along ${axis}.`,
          ...{ unit: 'm' as const, min: -100, max: 100, default: 0, step: 0.005 },
        },
      ]),
    ),
  );
}

function bent(
  positions: Float32Array,
  middle: readonly number[],
  step: LatticeBox & { strength: number },
  moves: readonly number[],
): Float32Array {
  const { counts } = step;
  const size = [step.width, step.height, step.depth];
  const low = [step.x, step.y, step.z].map((own, axis) => own + middle[axis]! - size[axis]! / 2);
  const out = positions.slice();
  const shares = counts.map((all) => new Float64Array(all));
  for (let at = 0; at < out.length; at += 3) {
    for (let axis = 0; axis < 3; axis++) bernstein((positions[at + axis]! - low[axis]!) / size[axis]!, shares[axis]!);
    let i = 0;
    for (const c of shares[2]!) {
      for (const b of shares[1]!) {
        for (const a of shares[0]!) {
          const share = a * b * c * step.strength;
          out[at]! += share * moves[i]!;
          out[at + 1]! += share * moves[i + 1]!;
          out[at + 2]! += share * moves[i + 2]!;
          i += 3;
        }
      }
    }
  }
  return out;
}

/** The Bernstein polynomials at a place from 0 to 1, as many as there is room for: by de Casteljau's steps. */
function bernstein(t: number, out: Float64Array): void {
  const at = Math.min(1, Math.max(0, t));
  out.fill(0);
  out[0] = 1;
  for (let degree = 1; degree < out.length; degree++) {
    for (let i = degree; i >= 0; i--) out[i] = (i > 0 ? at * out[i - 1]! : 0) + (1 - at) * out[i]!;
  }
}
