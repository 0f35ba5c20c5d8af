import type { Solver } from '../solver/solver';

/**
 * Runs until nothing moves any more, taking motion out whenever kinetic energy has begun to fall (kinetic damping as
 * in dynamic relaxation; Barnes 1999). Tests of fabrics ask where cloth rests, not how it gets there.
 * @param step seconds a step, in `substeps` substeps
 * @returns whether the fastest point fell below `restSpeed` m/s before `mostSteps`
 */
export function runToRest(
  solver: Solver,
  { step, substeps, mostSteps, restSpeed }: { step: number; substeps: number; mostSteps: number; restSpeed: number },
): boolean {
  let energy = 0;
  let resting = 0;
  for (let n = 0; n < mostSteps; n++) {
    solver.advance(step, substeps);
    const { kineticEnergy, fastest } = solver.measure();
    // What was slowed down starts a new rise, or it would be slowed down in every step and never arrive.
    const falling = kineticEnergy < energy;
    if (falling) solver.calm(0.1);
    energy = falling ? 0 : kineticEnergy;
    resting = n > 4 && fastest < restSpeed ? resting + 1 : 0;
    if (resting >= 3) return true;
  }
  return false;
}
