import type { Fabric } from '../fabric/fabric';
import { place } from '../mesh/place';
import { sheet } from '../mesh/shapes/sheet';
import { Solver } from '../solver/solver';

export interface StretchTest {
  /** Mean load in N per m of width. */
  load: number;
  /** How much longer the strip became, as a share; and what load / stiffness says. */
  extension: number;
  predicted: number;
}

/** The load under which extensions are usually given, in N/m. */
export const STRETCH_LOAD = 98;
const LENGTH = 0.2;
const WIDTH = 0.05;
const SPACING = 0.025;
/** One sweep a substep stretches falsely by about this share of the true give. */
const FALSE_SHARE = 0.01;
const LOOK_SUBSTEPS = 40;
const MOST_LOOKS = 600;

/**
 * Stretch test: a strip of 20 by 5 cm hangs by its end and is drawn down along its whole length, as by a gravity that gives
 * the load on average. Takes well under a second.
 */
export function stretchTest(fabric: Fabric, direction: 'warp' | 'weft'): StretchTest {
  const flat = sheet({ width: LENGTH, height: WIDTH, spacing: SPACING });
  const turned =
    direction === 'warp' ? flat.material! : flat.material!.map((_, i, m) => (i % 2 ? -m[i - 1]! : m[i + 1]!));
  const rest = place({ ...flat, material: turned }, { position: [0, 0, 0], rotation: [0, 0, -Math.PI / 2] });
  const held: number[] = [];
  for (let i = 0; i < rest.positions.length / 3; i++) if (rest.positions[i * 3 + 1]! > LENGTH / 2 - 1e-5) held.push(i);
  const stiffness = direction === 'warp' ? fabric.stretchWarp : fabric.stretchWeft;
  // Half the cloth hangs below the middle: its weight there is the mean load.
  const gravity = (2 * STRETCH_LOAD) / (fabric.weight * LENGTH);
  const solver = new Solver({
    cloths: [
      {
        id: 'strip',
        rest,
        positions: rest.positions,
        // Only the give along the load is asked for.
        fabric: { ...fabric, restWarp: 1, restWeft: 1, bendWarp: 0, bendWeft: 0 },
        held,
      },
    ],
    colliders: [],
    air: { gravity: [0, -gravity, 0], density: 0, windAt: () => [0, 0, 0] },
    layers: 'off',
  });
  const h = Math.sqrt((FALSE_SHARE * SPACING * SPACING * fabric.weight) / stiffness);
  // Slowed at every look: the strip is stiff, swings fast, and only its end state is asked for.
  for (let n = 0; n < MOST_LOOKS; n++) {
    solver.advance(LOOK_SUBSTEPS * h, LOOK_SUBSTEPS);
    solver.calm(0.8);
    if (n > 20 && solver.measure().fastest * LOOK_SUBSTEPS * h < 1e-6 * LENGTH) break;
  }
  const low = (positions: Float32Array) =>
    positions.reduce((least, y, i) => (i % 3 === 1 ? Math.min(least, y) : least), 1);
  const extension = (low(rest.positions) - low(solver.positions(0))) / LENGTH;
  return { load: STRETCH_LOAD, extension, predicted: STRETCH_LOAD / stiffness };
}
