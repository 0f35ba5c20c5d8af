import { length } from '../math/vector';
import { meshBounds, size } from '../mesh/bounds';
import { formatQuantity } from '../quantity/units';
import { motionPoints } from '../run/motionPoints';
import { startFrame, substepsOf } from '../run/compile';
import { isMoved, poseAt } from '../shot/placement';
import type { Collider, Shot } from '../shot/schema';
import type { Assets } from '../shot/shapes';
import { hasSizeKeys, meshAt } from '../shot/shapes/sizeKeys';
import type { Check } from './check';

const MOST_SUBSTEPS = 2000;

/** A keyed collider moves farther than its own thickness in a substep: it may jump through cloth. */
export const fastCollider: Check = {
  id: 'fast-collider',
  look: ({ shot, assets }) => {
    const substeps = substepsOf(shot, assets);
    return shot.things.flatMap((thing) => {
      if (thing.role !== 'collider' || !thing.enabled || thing.shape.kind === 'ground') return [];
      if (thing.shape.kind === 'mesh' && !assets.has(thing.shape.asset)) return [];
      const moving = isMoved(shot, thing) || thing.motion !== null || hasSizeKeys(thing);
      if (!moving) return [];
      const thickness = Math.min(
        ...size(meshBounds(meshAt(thing, assets, startFrame(shot)))!).filter((side) => side > 1e-6),
      );
      const { distance, frame } = farthestStep(shot, thing, assets);
      if (distance / substeps <= Math.max(thickness, 0.002)) return [];
      const needed = Math.ceil(distance / Math.max(thickness, 0.002));
      return [
        {
          check: 'fast-collider',
          thing: thing.id,
          station: 'run' as const,
          grave: true,
          text: `At frame ${frame}, ${thing.name} moves ${formatQuantity(distance * shot.frameRate, 'm/s', 2)} m/s, farther than it is thick in one of ${substeps} substeps.`,
          remedy: needed <= MOST_SUBSTEPS ? `Use ${needed} substeps` : null,
          numbers: { substeps: needed },
        },
      ];
    });
  },
  mend: (finding) => ({
    apply: (draft) => {
      draft.run.substeps = finding.numbers!['substeps']!;
    },
  }),
};

/** The farthest that any place of a collider moves from one frame to the next, in m, and to which frame. */
function farthestStep(shot: Shot, thing: Collider, assets: Assets): { distance: number; frame: number } {
  const mesh = meshAt(thing, assets, startFrame(shot));
  let reach = 0;
  for (let i = 0; i < mesh.positions.length; i += 3) {
    reach = Math.max(reach, length([mesh.positions[i]!, mesh.positions[i + 1]!, mesh.positions[i + 2]!]));
  }
  let worst = { distance: 0, frame: startFrame(shot) };
  let [before, beforePoints] = [poseAt(shot, thing, startFrame(shot)), pointsOf(startFrame(shot))];
  for (let frame = startFrame(shot) + 1; frame <= shot.lastFrame; frame++) {
    const now = poseAt(shot, thing, frame);
    const shift = length(
      [0, 1, 2].map((axis) => now.center[axis]! - before.center[axis]!) as unknown as [number, number, number],
    );
    let turned = 0;
    for (let i = 0; i < 9; i++) turned += (now.rotation[i]! - before.rotation[i]!) ** 2;
    const points = pointsOf(frame);
    let bent = 0;
    for (let i = 0; i < points.length; i += 3) {
      const away = [0, 1, 2].reduce((sum, axis) => sum + (points[i + axis]! - beforePoints[i + axis]!) ** 2, 0);
      bent = Math.max(bent, away);
    }
    const distance = shift + Math.sqrt(turned / 2) * reach + Math.sqrt(bent);
    if (distance > worst.distance) worst = { distance, frame };
    [before, beforePoints] = [now, points];
  }
  return worst;

  /** A thousand points of an animated mesh are enough to say how fast it is; shapes whose sizes are keyed have fewer. */
  function pointsOf(frame: number): Float32Array {
    if (hasSizeKeys(thing)) return meshAt(thing, assets, frame).positions;
    if (!thing.motion || !mesh.motion) return new Float32Array();
    const all = motionPoints(mesh, thing.motion, shot.frameRate, frame);
    const every = Math.max(1, Math.floor(all.length / 3000));
    return all.filter((_, i) => Math.floor(i / 3) % every === 0);
  }
}
