import { multiplyAdd, xyzMask } from '../lanes';
import {
  centre,
  cloths,
  clothCount,
  dataBlock,
  displacement,
  escaped,
  plan,
  pointCount,
  points,
  residual,
  rings,
  scratch,
  setLayerData,
} from './data';
import { beginList, endList, listInRange } from '../threads/lists';
import { pass, passed } from '../threads/pool';
import { endOf, firstOf, inRange } from '../threads/ranges';
import * as Cloth from '../../layouts/layers/layerCloth';
import * as Point from '../../layouts/point';

// What a query trusts: over the next substeps each point stays in a ball around its planned place. The plan is
// its motion of this substep, averaged over its ring, so that cloth that moves together has no relative motion and
// lists no pairs. Where a point leaves its ball, extend.ts enlarges the ball and lists what it may now meet.

/** No query looks farther ahead than this many substeps. */
const MOST_SUBSTEPS: f32 = 64;
/** Share of the spacing that planned motion may differ by over the horizon. */
const PLAN_SPREAD: f32 = 0.35;

/** Points that a thread takes at a time. */
const CHUNK: i32 = 512;

function averageRings(from: usize, to: usize): void {
  pass<usize>(0, from);
  pass<usize>(1, to);
  pass<usize>(2, dataBlock);
  inRange(averageChunk.index, 0, pointCount, CHUNK);
}

function averageChunk(chunk: i32): void {
  setLayerData(passed<usize>(2));
  const from = passed<usize>(0),
    to = passed<usize>(1);
  const entries = rings + ((<usize>pointCount + 1) << 2);
  for (let i = firstOf(chunk), last = endOf(chunk); i < last; i++) {
    const start = load<u32>(rings + (<usize>i << 2)),
      end = load<u32>(rings + (<usize>i << 2), 4);
    let sum = f32x4.splat(0);
    for (let n = start; n < end; n++) {
      sum = f32x4.add(sum, v128.load(from + <usize>load<u32>(entries + (<usize>n << 2))));
    }
    v128.store(to + (<usize>i << 4), f32x4.div(sum, f32x4.splat(<f32>(end - start))));
  }
}

// @ts-ignore: decorator
@inline
function length(v: v128): f32 {
  const s = f32x4.mul(v, v);
  return Mathf.sqrt(
    f32x4.extract_lane(s, 0) + f32x4.extract_lane(s, 1) + f32x4.extract_lane(s, 2),
  );
}

/**
 * Makes the plan from this substep's motion, chooses the horizon in substeps, and sets centres and trust radii.
 * The horizon is at least `least`, whatever the plan says, and at most `most`. Returns it.
 */
export function makePlan(least: f32, most: f32): f32 {
  const mask = xyzMask();
  const end = <usize>pointCount << 4;
  for (let at: usize = 0; at < end; at += 16) {
    v128.store(
      centre + at,
      f32x4.sub(v128.load(displacement + at), v128.load(residual + at)),
    );
  }
  averageRings(centre, scratch);
  averageRings(scratch, plan);
  // The horizon: how far apart the plan itself moves parts of one cloth.
  let horizon = Mathf.min(MOST_SUBSTEPS, most);
  for (let c = 0; c < clothCount; c++) {
    const cloth = cloths + <usize>c * Cloth.BYTES;
    const first = <usize>load<u32>(cloth, Cloth.FIRST_POINT) << 4,
      last = first + (<usize>load<u32>(cloth, Cloth.POINT_COUNT) << 4);
    const count = f32x4.splat(<f32>load<u32>(cloth, Cloth.POINT_COUNT));
    let sum = f32x4.splat(0);
    for (let at = first; at < last; at += 16) sum = f32x4.add(sum, v128.load(plan + at));
    const mean = v128.and(f32x4.div(sum, count), mask);
    let square: f32 = 0;
    for (let at = first; at < last; at += 16) {
      const away = length(f32x4.sub(v128.load(plan + at), mean));
      store<f32>(scratch + at, away);
      square += away * away;
    }
    const rms = Mathf.sqrt(square / <f32>load<u32>(cloth, Cloth.POINT_COUNT));
    const spread = PLAN_SPREAD * load<f32>(cloth, Cloth.SPACING);
    if (rms * horizon > spread) horizon = Mathf.max(least, Mathf.floor(spread / rms));
  }
  for (let c = 0; c < clothCount; c++) {
    const cloth = cloths + <usize>c * Cloth.BYTES;
    const first = <usize>load<u32>(cloth, Cloth.FIRST_POINT) << 4,
      last = first + (<usize>load<u32>(cloth, Cloth.POINT_COUNT) << 4);
    const base = <f32>0.6 * load<f32>(cloth, Cloth.FARTHEST),
      most = base + <f32>0.5 * load<f32>(cloth, Cloth.SPACING);
    for (let at = first; at < last; at += 16) {
      const off = length(f32x4.sub(v128.load(centre + at), v128.load(plan + at)));
      const radius = Mathf.max(
        Mathf.min(
          base + <f32>0.3 * horizon * off + <f32>0.05 * horizon * load<f32>(scratch + at),
          most,
        ),
        <f32>1.2 * off,
      );
      v128.store(centre + at, f32x4.replace_lane(v128.load(points + at), 3, radius));
      v128.store(plan + at, f32x4.replace_lane(v128.load(plan + at), 3, radius));
    }
  }
  return horizon;
}

/** Lists the byte offsets of points outside their balls at substep `step` of the horizon; returns their number. */
export function listEscaped(step: f32): i32 {
  pass<f32>(0, step);
  pass<usize>(2, dataBlock);
  return <i32>((listInRange(listEscapedChunk.index, pointCount, CHUNK, escaped, 4) - escaped) >> 2);
}

function listEscapedChunk(chunk: i32): void {
  setLayerData(passed<usize>(2));
  const end = <usize>endOf(chunk) << 4;
  const minus = f32x4.splat(-passed<f32>(0));
  let to = beginList(chunk);
  for (let at = <usize>firstOf(chunk) << 4; at < end; at += 16) {
    const away = f32x4.add(
      f32x4.sub(v128.load(points + at), v128.load(centre + at)),
      multiplyAdd(v128.load(plan + at), minus, v128.load(displacement + at)),
    );
    const radius = load<f32>(centre + at, Point.TRUST);
    if (length(away) > radius) {
      store<u32>(to, <u32>at);
      to += 4;
    }
  }
  endList(chunk, to);
}

/** Enlarges an escaped point's ball, looking some substeps ahead. The old radius stays in the plan's w. */
export function enlarge(at: usize, step: f32): void {
  const minus = f32x4.splat(-step);
  const d = v128.load(displacement + at);
  const away = length(
    f32x4.add(
      f32x4.sub(v128.load(points + at), v128.load(centre + at)),
      multiplyAdd(v128.load(plan + at), minus, d),
    ),
  );
  const off = length(f32x4.sub(f32x4.sub(d, v128.load(residual + at)), v128.load(plan + at)));
  const old = load<f32>(centre + at, Point.TRUST);
  store<f32>(centre + at, Mathf.max(<f32>1.3 * old, away + <f32>4 * off), Point.TRUST);
}

/** Afterwards the enlarged radius is what the listed pairs hold for. */
export function settleRadius(at: usize): void {
  store<f32>(plan + at, load<f32>(centre + at, Point.TRUST), Point.TRUST);
}
