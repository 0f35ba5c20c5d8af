import { AIR_KINDS } from '../air/kinds';
import { arcTangent } from '../math/trigonometry';
import { applyPose, invertPose } from '../math/pose';
import { length, type Vector3 } from '../math/vector';
import { bounds } from '../mesh/bounds';
import { activeCloths, startPositions } from '../run/compile';
import { activeAir, airNumbersAt } from '../shot/airThings';
import { isMoved, poseAt } from '../shot/placement';
import type { AirThing, Shot } from '../shot/schema';
import type { Assets } from '../shot/shapes';
import type { Check } from './check';

/** Frames at which air that moves is looked at, and points of a cloth, evenly: whether it is met is seen with few. */
const LOOKS = 9;
const POINTS = 400;
/** A beam is brought so near that cloth is at this share of its length. */
const NEAR = 0.5;

/** Air that reaches no cloth: a beam that blows past it, an attractor too far away. */
export const airMisses: Check = {
  id: 'air-misses',
  look: ({ shot, assets }) => {
    const cloths = activeCloths(shot);
    if (cloths.length === 0) return [];
    const starts = cloths.map((cloth) => startPositions(shot, cloth, assets));
    return activeAir(shot)
      .filter((thing) => AIR_KINDS[thing.air.kind].even !== true && !meets(shot, thing, starts))
      .map((thing) => ({
        check: 'air-misses',
        thing: thing.id,
        station: 'air' as const,
        grave: false,
        text: AIR_KINDS[thing.air.kind].pull
          ? `${thing.name} is too far from all cloth, where that starts, to draw it.`
          : `${thing.name} blows past all cloth, where that starts.`,
        remedy: isMoved(shot, thing) || thing.parent !== null ? null : 'Bring it to the cloth',
      }));
  },
  mend: (finding, shot, assets) => ({
    apply: (draft) => {
      const thing = draft.things.find(({ id }) => id === finding.thing);
      if (thing?.role === 'air') bringTo(thing, middleOfCloth(shot, assets));
    },
  }),
};

/** Whether air moves or draws any point of cloth where it starts, at any frame. */
function meets(shot: Shot, thing: AirThing, starts: readonly Float32Array[]): boolean {
  const kind = AIR_KINDS[thing.air.kind];
  const out = new Float64Array(4);
  const last = thing.keys.length > 0 || isMoved(shot, thing) ? LOOKS : 1;
  for (let look = 0; look < last; look++) {
    const frame = shot.firstFrame + ((shot.lastFrame - shot.firstFrame) * look) / (LOOKS - 1);
    const numbers = airNumbersAt(thing, frame);
    const [flow, pull, eddies] = [kind.flow?.(numbers), kind.pull?.(numbers), kind.eddies?.(numbers)];
    const home = invertPose(poseAt(shot, thing, frame));
    for (const positions of starts) {
      const step = Math.max(1, Math.floor(positions.length / 3 / POINTS));
      for (let i = 0; i < positions.length / 3; i += step) {
        const [x, y, z] = applyPose(home, [positions[i * 3]!, positions[i * 3 + 1]!, positions[i * 3 + 2]!]);
        out.fill(0);
        flow?.(x, y, z, out);
        pull?.(x, y, z, 1, out);
        if (eddies) out[0] = eddies(x, y, z);
        if (out.some((value) => value !== 0)) return true;
      }
    }
  }
  // Switched off by its own numbers it misses nothing.
  const numbers = airNumbersAt(thing, shot.firstFrame);
  return !['speed', 'strength', 'pull', 'acceleration', 'grip'].some((name) => (numbers[name] ?? 0) !== 0);
}

function middleOfCloth(shot: Shot, assets: Assets): Vector3 {
  const box = bounds(activeCloths(shot).flatMap((cloth) => [...startPositions(shot, cloth, assets)]))!;
  return [0, 1, 2].map((axis) => (box.low[axis]! + box.high[axis]!) / 2) as unknown as Vector3;
}

/** What blows is turned to a place and brought as near as it reaches; all else is put there. */
function bringTo(thing: AirThing, place: Vector3): void {
  const numbers = airNumbersAt(thing, 0);
  if (AIR_KINDS[thing.air.kind].aims !== true) {
    // A swirl goes up from its place.
    thing.position = [place[0], place[1] - (numbers['height'] ?? 0) / 2, place[2]];
    return;
  }
  const away = [0, 1, 2].map((axis) => place[axis]! - thing.position[axis]!) as unknown as Vector3;
  const far = length(away);
  const along: Vector3 = far > 1e-6 ? [away[0] / far, away[1] / far, away[2] / far] : [1, 0, 0];
  const level = Math.sqrt(along[0] ** 2 + along[2] ** 2);
  thing.rotation = [0 - arcTangent(along[1], level), level > 1e-9 ? arcTangent(along[0], along[2]) : 0, 0];
  const reach = NEAR * (numbers['length'] ?? Infinity);
  if (far > reach) {
    thing.position = [0, 1, 2].map((axis) => place[axis]! - along[axis]! * reach) as [number, number, number];
  }
}
