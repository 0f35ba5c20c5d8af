import type { Tie } from '../../shot/holdSchemas';
import type { Cloth } from '../../shot/schema';
import { openShare } from '../sewing';
import type { HoldContext } from './context';
import { maskScale, numberAt } from './numbers';

/** Per point of a tie, the distance in m that it keeps at a time in s where it does not keep the one that it starts with. */
export function standOffs(cloth: Cloth, tie: Tie, context: HoldContext): (time: number) => Float32Array {
  const standOffAt = numberAt(cloth, tie.id, 'standOff', context);
  const scale = maskScale(cloth, tie.standOffMask, tie.points, context);
  return (time) => {
    const standOff = standOffAt(time);
    return scale.at(time).map((value) => value * standOff);
  };
}

/** How far a tie that is drawn in is still open at a time in s: from 1 to 0; 0 where it is not drawn in. */
export function openOf({ drawnIn }: Tie, { shot }: HoldContext): (time: number) => number {
  return (time) => (drawnIn > 0 ? openShare((time * shot.frameRate) / drawnIn) : 0);
}
