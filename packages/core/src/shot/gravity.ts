import { cosine, sine } from '../math/trigonometry';
import type { Vector3 } from '../math/vector';
import { valueAt } from './keys';
import type { Shot } from './schema';

/** Gravity of a shot at a frame, x y z in m/s²: straight down, unless it leans. */
export function gravityAt(shot: Pick<Shot, 'gravity' | 'keys'>, frame: number): Vector3 {
  if (!shot.gravity.enabled) return [0, 0, 0];
  const [strength, lean, towards] = (['strength', 'lean', 'towards'] as const).map((name) =>
    valueAt(shot, `gravity.${name}`, frame),
  ) as [number, number, number];
  if (lean === 0) return [0, -strength, 0];
  const level = strength * sine(lean);
  return [level * sine(towards), -strength * cosine(lean), level * cosine(towards)];
}
