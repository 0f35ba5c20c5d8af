import {
  anglesOf,
  applyPose,
  composePoses,
  holdContext,
  holdNumber,
  invertPose,
  pinSetPose,
  startFrame,
  type Cloth,
  type PinSet,
  type PinSetPose,
  type Pose,
} from '@lumbra/core';
import { useDocumentStore } from '../../session/document';
import { useKeyingStore } from '../../stores/keying';
import { useSelectionStore } from '../../stores/selection';

/** The handles of the chosen pin set: move and turn it as one, and gather it. */
export function usePinHandles(frame: () => number) {
  const document = useDocumentStore();
  const selection = useSelectionStore();
  const keying = useKeyingStore();

  function chosen(): { cloth: Cloth; set: PinSet } | null {
    const { cloth } = selection;
    const set = cloth?.pinSets.find(({ id, points }) => id === selection.holdId && points.length > 0);
    return cloth && set ? { cloth, set } : null;
  }

  /** Where the chosen pin set is; null when none is chosen, or it cannot be known. */
  function poseNow(): PinSetPose | null {
    const [found, shot] = [chosen(), document.shot];
    if (!found || !shot) return null;
    const first = startFrame(shot);
    const frameAt = (time: number) => first + time * shot.frameRate;
    try {
      const at = pinSetPose(found.cloth, found.set, holdContext(shot, document.assets, first, frameAt));
      return at((frame() - first) / shot.frameRate);
    } catch {
      return null;
    }
  }

  function change(what: 'move' | 'turn' | 'gather', values: readonly number[], label: string, live: boolean): void {
    const { cloth, set } = chosen()!;
    const numbers = Object.fromEntries(
      ['x', 'y', 'z'].map((axis, i) => [holdNumber(set.id, `${what}.${axis}`), Math.round(values[i]! * 1e6) / 1e6]),
    );
    for (const [number, value] of Object.entries(numbers)) {
      if (Math.abs(value - keying.shown(cloth.id, number)) < 1e-7) delete numbers[number];
    }
    if (Object.keys(numbers).length > 0) {
      keying.change(cloth.id, numbers, { label: `${label} ${set.name}`, live, merge: `${set.id}.${what}` });
    }
  }

  /** Takes the chosen pin set to a pose of the world. */
  function placed(pose: Pose, mode: 'move' | 'turn'): void {
    const [found, now] = [chosen(), poseNow()];
    if (!found || !now) return;
    const own = composePoses(invertPose(now.carried), pose);
    if (mode === 'move') {
      const center = applyPose(invertPose(now.carried), pose.center);
      change(
        'move',
        center.map((value, axis) => value - now.middle[axis]!),
        'Move',
        true,
      );
    } else {
      const near = ['x', 'y', 'z'].map((axis) =>
        keying.shown(found.cloth.id, holdNumber(found.set.id, `turn.${axis}`)),
      );
      change('turn', anglesOf(own.rotation, near as unknown as [number, number, number]), 'Turn', true);
    }
  }

  /** Makes the chosen pin set so many times as wide. */
  function gathered(by: readonly number[]): void {
    const found = chosen();
    if (!found) return;
    const wide = ['x', 'y', 'z'].map((axis, i) => {
      const now = keying.shown(found.cloth.id, holdNumber(found.set.id, `gather.${axis}`));
      return Math.min(5, Math.max(0.02, now * by[i]!));
    });
    change('gather', wide, 'Gather', false);
  }

  return { chosen, poseNow, placed, gathered };
}
