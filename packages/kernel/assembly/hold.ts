import { dot, squareOf } from './vectors';

// Holds: points that are drawn to places in space (pins, ties to things, leashes), and ties between points and faces of cloth.
//
// A hold takes 48 bytes: byte offset of the point; f32 give, the share of its way back that the point goes in a substep, 1 for a
// point that is carried; f32 slack in m, by which it may stray; f32 normal x; f32 x 3 where it is drawn to when the frame begins, f32
// normal y; f32 x 3 where when it ends, f32 normal z. A point with a normal may not go behind its place; without one all three
// are 0.
//
// A tie takes 48 bytes: byte offsets of the point and of the three corners; f32 x 3 how the corners weigh in; f32 give;
// f32 length in m that the tie keeps; three unused.
const HOLD: usize = 48;
const TIE: usize = 48;

// @ts-ignore: decorator
@inline
function placeAt(hold: usize, share: f32): v128 {
  const from = v128.load(hold, 16);
  return f32x4.add(from, f32x4.mul(f32x4.sub(v128.load(hold, 32), from), f32x4.splat(share)));
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
    const hold = holds + <usize>n * HOLD;
    const i = <usize>load<u32>(hold);
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
    const hold = holds + <usize>n * HOLD;
    const i = <usize>load<u32>(hold);
    if (load<f32>(points + i, 12) == 0) continue;
    const d = v128.load(displacement + i);
    const back = f32x4.replace_lane(
      f32x4.sub(f32x4.sub(placeAt(hold, share), v128.load(points + i)), d),
      3,
      0,
    );
    const slack = load<f32>(hold, 8);
    let give = load<f32>(hold, 4);
    if (slack > 0) {
      const away = Mathf.sqrt(squareOf(back));
      give = away <= slack ? 0 : (give * (away - slack)) / away;
    }
    let moved = f32x4.mul(back, f32x4.splat(give));
    const normal = f32x4(load<f32>(hold, 12), load<f32>(hold, 28), load<f32>(hold, 44), 0);
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
    const tie = ties + <usize>n * TIE;
    if (firmOnly && load<f32>(tie, 28) < 1) continue;
    const i = <usize>load<u32>(tie),
      a = <usize>load<u32>(tie, 4),
      b = <usize>load<u32>(tie, 8),
      c = <usize>load<u32>(tie, 12);
    const u = load<f32>(tie, 16),
      v = load<f32>(tie, 20),
      w = load<f32>(tie, 24);
    const wi = load<f32>(points + i, 12),
      wa = load<f32>(points + a, 12) * u,
      wb = load<f32>(points + b, 12) * v,
      wc = load<f32>(points + c, 12) * w;
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
    const share = ((length - load<f32>(tie, 32)) / length / all) * load<f32>(tie, 28);
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
