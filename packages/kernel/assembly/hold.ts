import { dot, squareOf } from './vectors';
import * as Hold from '../layouts/holds/hold';
import * as Point from '../layouts/point';
import * as Tie from '../layouts/holds/tie';

// Holds: points that are drawn to places in space (pins, ties to things, leashes), and ties between points and faces of cloth.

// @ts-ignore: decorator
@inline
function placeAt(hold: usize, share: f32): v128 {
  const from = v128.load(hold, Hold.FROM);
  return f32x4.add(from, f32x4.mul(f32x4.sub(v128.load(hold, Hold.TO), from), f32x4.splat(share)));
}

/**
 * Takes carried points to a share of their way through the frame, and gives them the velocity of that, so that contact sees them
 * coming. Called right after `predict`; carried points have no inverse mass, so that nothing else moves them. `rate` is 1 / h.
 */
export function carryPoints(
  points: usize,
  displacement: usize,
  residual: usize,
  velocity: usize,
  holds: usize,
  count: i32,
  share: f32,
  rate: f32,
): void {
  for (let n = 0; n < count; n++) {
    const hold = holds + <usize>n * Hold.BYTES;
    const i = <usize>load<u32>(hold, Hold.POINT);
    const d = f32x4.replace_lane(f32x4.sub(placeAt(hold, share), v128.load(points + i)), 3, 0);
    v128.store(displacement + i, d);
    v128.store(
      velocity + i,
      f32x4.mul(f32x4.sub(d, v128.load(residual + i)), f32x4.splat(rate)),
    );
  }
}

/** Draws points to their places, as far as they have strayed beyond their slack, or behind them where they may not. */
export function solveHolds(points: usize, displacement: usize, holds: usize, count: i32, share: f32): void {
  for (let n = 0; n < count; n++) {
    const hold = holds + <usize>n * Hold.BYTES;
    const i = <usize>load<u32>(hold, Hold.POINT);
    if (load<f32>(points + i, Point.INVERSE_MASS) == 0) continue;
    const d = v128.load(displacement + i);
    const back = f32x4.replace_lane(
      f32x4.sub(f32x4.sub(placeAt(hold, share), v128.load(points + i)), d),
      3,
      0,
    );
    const slack = load<f32>(hold, Hold.SLACK);
    let give = load<f32>(hold, Hold.GIVE);
    if (slack > 0) {
      const away = Mathf.sqrt(squareOf(back));
      give = away <= slack ? 0 : (give * (away - slack)) / away;
    }
    let moved = f32x4.mul(back, f32x4.splat(give));
    const normal = f32x4(load<f32>(hold, Hold.NORMAL_X), load<f32>(hold, Hold.NORMAL_Y), load<f32>(hold, Hold.NORMAL_Z), 0);
    const behind = dot(normal, f32x4.sub(back, moved));
    if (behind > 0) moved = f32x4.add(moved, f32x4.mul(normal, f32x4.splat(behind)));
    v128.store(displacement + i, f32x4.add(d, moved));
  }
}

/**
 * Draws points and faces of cloth together, or apart, to the length of their ties; both give way by their masses. `firmOnly` leaves
 * those out that give, which may be drawn only once in a substep.
 */
export function solveTies(points: usize, displacement: usize, ties: usize, count: i32, firmOnly: bool): void {
  for (let n = 0; n < count; n++) {
    const tie = ties + <usize>n * Tie.BYTES;
    if (firmOnly && load<f32>(tie, Tie.GIVE) < 1) continue;
    const i = <usize>load<u32>(tie, Tie.POINT),
      a = <usize>load<u32>(tie, Tie.CORNER_0),
      b = <usize>load<u32>(tie, Tie.CORNER_1),
      c = <usize>load<u32>(tie, Tie.CORNER_2);
    const u = load<f32>(tie, Tie.WEIGHT_0),
      v = load<f32>(tie, Tie.WEIGHT_1),
      w = load<f32>(tie, Tie.WEIGHT_2);
    const wi = load<f32>(points + i, Point.INVERSE_MASS),
      wa = load<f32>(points + a, Point.INVERSE_MASS) * u,
      wb = load<f32>(points + b, Point.INVERSE_MASS) * v,
      wc = load<f32>(points + c, Point.INVERSE_MASS) * w;
    const all = wi + wa * u + wb * v + wc * w;
    if (all == 0) continue;
    const place = f32x4.add(
      f32x4.add(
        f32x4.mul(f32x4.add(v128.load(points + a), v128.load(displacement + a)), f32x4.splat(u)),
        f32x4.mul(f32x4.add(v128.load(points + b), v128.load(displacement + b)), f32x4.splat(v)),
      ),
      f32x4.mul(f32x4.add(v128.load(points + c), v128.load(displacement + c)), f32x4.splat(w)),
    );
    const away = f32x4.replace_lane(
      f32x4.sub(f32x4.add(v128.load(points + i), v128.load(displacement + i)), place),
      3,
      0,
    );
    const length = Mathf.sqrt(squareOf(away));
    if (length < 1e-9) continue;
    const share = ((length - load<f32>(tie, Tie.LENGTH)) / length / all) * load<f32>(tie, Tie.GIVE);
    const pull = f32x4.mul(away, f32x4.splat(share));
    add(displacement + i, pull, -wi);
    add(displacement + a, pull, wa);
    add(displacement + b, pull, wb);
    add(displacement + c, pull, wc);
  }
}

// @ts-ignore: decorator
@inline
function add(to: usize, v: v128, scale: f32): void {
  v128.store(to, f32x4.add(v128.load(to), f32x4.mul(v, f32x4.splat(scale))));
}
