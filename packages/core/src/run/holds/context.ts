import type { Cloth, Shot, Thing } from '../../shot/schema';
import type { Assets } from '../../shot/shapes';
import type { FrameAt } from '../colliderModel';
import { CompileError } from '../sound';

export interface HoldContext {
  shot: Shot;
  assets: Assets;
  /** The frame at which the run starts, and how frames go with its time; null where nothing moves. */
  frame: number;
  frameAt: FrameAt | null;
  /** Where the points of a cloth start, x y z in m. */
  startOf: (cloth: Cloth) => Float32Array;
  /** Where the animation that came with a cloth, and what it rides, put its points at a frame. */
  incomingOf: (cloth: Cloth, frame: number) => Float32Array;
}

/** @throws CompileError when it is gone */
export function thingOf({ shot }: HoldContext, id: string, cloth: Cloth): Thing {
  const thing = shot.things.find((candidate) => candidate.id === id);
  if (thing) return thing;
  throw new CompileError(
    `“${cloth.name}” is held by a thing that is no longer in the shot. Choose another one at Hold, or delete that hold.`,
  );
}
