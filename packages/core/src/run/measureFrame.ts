import type { Shot } from '../shot/schema';
import type { Model } from '../solver/model';
import type { BakedFrame, FrameStats } from './frame';
import { activeCloths } from './compile';
import { frameFingerprint } from './fingerprint';
import type { Measured, PacedSolver } from './pacedSolver';

/** The cloth of a run as it is now, with the numbers of a baked frame. */
export function measureFrame(shot: Shot, model: Model, solver: PacedSolver, frame: number): BakedFrame {
  const positions = activeCloths(shot).map((_, i) => solver.solver.positions(i));
  const measured = solver.measured();
  const { measures } = measured;
  const cues = solver.cueCounts();
  return {
    frame,
    positions,
    stats: {
      seconds: (frame - shot.firstFrame) / shot.frameRate,
      kineticEnergy: measures.kineticEnergy,
      meanStretch: measures.stretch.mean,
      maxStretch: measures.stretch.largest,
      fastest: measures.fastest,
      contacts: measures.contacts,
      falseStretch: measures.stretch.largestFalse,
      stretchIn: measures.stretch.falseCloth,
      stretchAt: measures.stretch.falsePlace ?? measures.stretch.place,
      ...problems(model, measured),
      ...solver.last,
      ...(cues && { cues }),
      fingerprint: frameFingerprint(positions),
    },
  };
}

type ProblemNumbers =
  | `crossing${'s' | 'At'}`
  | `deepest${'' | 'In' | 'At'}`
  | `pierced${'' | 'In' | 'At'}`
  | `squeezed${'' | 'Between' | 'At'}`;

/** What the problem finder measures besides: crossings, how deep cloth is in colliders, and where they leave it no room. */
function problems(
  model: Model,
  { crossings: { count, places }, depths, deepest, pierced, squeezed }: Measured,
): Pick<FrameStats, ProblemNumbers> {
  const which = deepest > 0 ? depths.findIndex(({ depth }) => depth === deepest) : -1;
  const most = pierced.reduce((largest, one, i) => (one.count > (pierced[largest]?.count ?? 0) ? i : largest), -1);
  return {
    pierced: pierced.reduce((sum, one) => sum + one.count, 0),
    squeezed: squeezed?.missing ?? 0,
    squeezedBetween: squeezed && [model.colliders[squeezed.between[0]]!.id, model.colliders[squeezed.between[1]]!.id],
    squeezedAt: squeezed?.place ?? null,
    piercedIn: most < 0 ? null : model.colliders[most]!.id,
    piercedAt: most < 0 ? null : pierced[most]!.place,
    crossings: count,
    crossingAt: count > 0 ? [places[0]!, places[1]!, places[2]!] : null,
    deepest,
    deepestIn: which < 0 ? null : model.colliders[which]!.id,
    deepestAt: which < 0 ? null : depths[which]!.place,
  };
}
