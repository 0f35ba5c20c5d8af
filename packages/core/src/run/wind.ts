import { cosine, sine } from '../math/trigonometry';
import type { Vector3 } from '../math/vector';
import { valueAt } from '../shot/keys';
import type { Shot, Wind } from '../shot/schema';

/** The wind at a frame, keyed or not: its steady velocity in m/s, x y z, and the depth of its gusts. */
export function windAtFrame(shot: Shot, frame: number): { velocity: Vector3; gustDepth: number } {
  const [speed, heading, rise, gustDepth] = (['speed', 'heading', 'rise', 'gustDepth'] as const).map((name) =>
    valueAt(shot, `wind.${name}`, frame),
  ) as [number, number, number, number];
  return { velocity: windVelocity({ ...shot.wind, speed, heading, rise }), gustDepth };
}

/** The steady wind's velocity in m/s, x y z. */
export function windVelocity(wind: Wind): Vector3 {
  if (!wind.enabled) return [0, 0, 0];
  const level = wind.speed * cosine(wind.rise);
  return [level * sine(wind.heading), wind.speed * sine(wind.rise), level * cosine(wind.heading)];
}

/**
 * How gusts scale the wind at a time in s: two slow waves whose periods do not divide each other, so that no
 * two gusts are alike. The mean is 1; with a depth of 1 the wind falls to nothing and doubles.
 */
export function gustFactor(wind: Wind, time: number): number {
  if (wind.gustDepth === 0) return 1;
  const turn = (2 * Math.PI * time) / wind.gustPeriod;
  return 1 + wind.gustDepth * (0.65 * sine(turn) + 0.35 * sine(turn * 2.37 + 1.1));
}
