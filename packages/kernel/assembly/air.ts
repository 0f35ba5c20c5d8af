import * as AirTriangle from '../layouts/air/airTriangle';
import * as Point from '../layouts/point';
import * as Pull from '../layouts/air/pull';

// Drag and lift of wind, per triangle. The relative wind is split into its normal and tangential
// parts; each meets a force 1/2 rho A c |u| u_part. The normal part gives both drag and lift on a slanted sheet.
// The force is taken implicitly, so that no interval, however long, reverses the relative motion.

/**
 * Adds the acceleration by air to `acceleration` (m/s^2).
 * windX, windY, windZ in m/s blow everywhere; `field`, where it is not 0, has what blows besides at each point, x y z in m/s in 16 bytes,
 * as `points` lie. Density in kg/m^3; `fullAcross` and `fullAlong` are drag coefficients of the sheet;
 * interval in s is how long the acceleration will act.
 */
export function addAir(
  points: usize,
  velocity: usize,
  acceleration: usize,
  triangles: usize,
  count: i32,
  windX: f32,
  windY: f32,
  windZ: f32,
  field: usize,
  density: f32,
  fullAcross: f32,
  fullAlong: f32,
  interval: f32,
): void {
  const third = f32x4.splat(<f32>(1.0 / 3.0));
  const wind = f32x4(windX, windY, windZ, 0);
  let g = triangles;
  for (let n = 0; n < count; n++, g += AirTriangle.BYTES) {
    const i0 = <usize>load<u32>(g, AirTriangle.CORNER_0),
      i1 = <usize>load<u32>(g, AirTriangle.CORNER_1),
      i2 = <usize>load<u32>(g, AirTriangle.CORNER_2);
    const mass = load<f32>(g, AirTriangle.MASS);
    const across = fullAcross * load<f32>(g, AirTriangle.DRAG_ACROSS),
      along = fullAlong * load<f32>(g, AirTriangle.DRAG_ALONG);
    let u = f32x4.sub(f32x4.mul(sumOf(velocity, i0, i1, i2), third), wind);
    if (field != 0) u = f32x4.sub(u, f32x4.mul(sumOf(field, i0, i1, i2), third));
    const p0 = v128.load(points + i0);
    const a = f32x4.sub(v128.load(points + i1), p0),
      b = f32x4.sub(v128.load(points + i2), p0);
    const ax = f32x4.extract_lane(a, 0),
      ay = f32x4.extract_lane(a, 1),
      az = f32x4.extract_lane(a, 2);
    const bx = f32x4.extract_lane(b, 0),
      by = f32x4.extract_lane(b, 1),
      bz = f32x4.extract_lane(b, 2);
    const nx = ay * bz - az * by,
      ny = az * bx - ax * bz,
      nz = ax * by - ay * bx;
    const doubleArea = Mathf.sqrt(nx * nx + ny * ny + nz * nz);
    if (!(doubleArea > 1e-14)) continue;
    const ux = f32x4.extract_lane(u, 0),
      uy = f32x4.extract_lane(u, 1),
      uz = f32x4.extract_lane(u, 2);
    const speed = Mathf.sqrt(ux * ux + uy * uy + uz * uz);
    const through = (ux * nx + uy * ny + uz * nz) / (doubleArea * doubleArea);
    const pressure = <f32>0.25 * density * doubleArea * speed;
    const perMass = interval / mass;
    // Accelerations per unit of the normal and of the tangential relative speed.
    const normalRate = (pressure * across) / (mass * (<f32>1 + pressure * across * perMass));
    const tangentRate = (pressure * along) / (mass * (<f32>1 + pressure * along * perMass));
    const normalPart = (normalRate - tangentRate) * through;
    const force = f32x4(
      -(normalPart * nx + tangentRate * ux),
      -(normalPart * ny + tangentRate * uy),
      -(normalPart * nz + tangentRate * uz),
      0,
    );
    // A third of the triangle's force on each corner, times the corner's inverse mass.
    const share = mass * <f32>(1.0 / 3.0);
    addTo(acceleration + i0, force, share * load<f32>(points + i0, Point.INVERSE_MASS));
    addTo(acceleration + i1, force, share * load<f32>(points + i1, Point.INVERSE_MASS));
    addTo(acceleration + i2, force, share * load<f32>(points + i2, Point.INVERSE_MASS));
  }
}

/**
 * Adds what draws and holds points to `acceleration`. A point takes 32 bytes of `pulls`: acceleration x y z in m/s^2, by how many m/s^2 it is
 * braked, and against which velocity x y z in m/s; one unused. Braking never turns the motion round within `interval` s.
 */
export function addPull(
  points: usize,
  velocity: usize,
  acceleration: usize,
  pulls: usize,
  count: i32,
  interval: f32,
): void {
  let pull = pulls;
  const end = <usize>count << 4;
  for (let at: usize = 0; at < end; at += 16, pull += 32) {
    if (load<f32>(points + at, Point.INVERSE_MASS) == 0) continue;
    let a = f32x4.replace_lane(v128.load(pull, Pull.ACCELERATION), 3, 0);
    const grip = load<f32>(pull, Pull.GRIP);
    if (grip > 0) {
      // What else moves it counts too: held, it stays until more pulls than the grip.
      const would = f32x4.add(a, v128.load(acceleration + at));
      const relative = f32x4.sub(v128.load(velocity + at), v128.load(pull, Pull.VELOCITY));
      const wanted = f32x4.add(would, f32x4.mul(relative, f32x4.splat(<f32>1 / interval)));
      const x = f32x4.extract_lane(wanted, 0),
        y = f32x4.extract_lane(wanted, 1),
        z = f32x4.extract_lane(wanted, 2);
      const size = Mathf.sqrt(x * x + y * y + z * z);
      if (size > 0) {
        const share = size > grip ? grip / size : <f32>1;
        a = f32x4.sub(a, f32x4.replace_lane(f32x4.mul(wanted, f32x4.splat(share)), 3, 0));
      }
    }
    v128.store(acceleration + at, f32x4.add(v128.load(acceleration + at), a));
  }
}

/** Adds the acceleration by a pressure in Pa, which pushes every triangle along its normal, to `acceleration`. */
export function addPressure(
  points: usize,
  acceleration: usize,
  triangles: usize,
  count: i32,
  pressure: f32,
): void {
  let g = triangles;
  for (let n = 0; n < count; n++, g += AirTriangle.BYTES) {
    const i0 = <usize>load<u32>(g, AirTriangle.CORNER_0),
      i1 = <usize>load<u32>(g, AirTriangle.CORNER_1),
      i2 = <usize>load<u32>(g, AirTriangle.CORNER_2);
    const p0 = v128.load(points + i0);
    const a = f32x4.sub(v128.load(points + i1), p0),
      b = f32x4.sub(v128.load(points + i2), p0);
    // a x b is twice the area along the normal; a third of the force goes to each corner.
    const turned = f32x4.sub(
      f32x4.mul(v128.shuffle<f32>(a, a, 1, 2, 0, 3), v128.shuffle<f32>(b, b, 2, 0, 1, 3)),
      f32x4.mul(v128.shuffle<f32>(a, a, 2, 0, 1, 3), v128.shuffle<f32>(b, b, 1, 2, 0, 3)),
    );
    const force = f32x4.replace_lane(f32x4.mul(turned, f32x4.splat((pressure * load<f32>(g, AirTriangle.PRESSURE)) / 6)), 3, 0);
    addTo(acceleration + i0, force, load<f32>(points + i0, Point.INVERSE_MASS));
    addTo(acceleration + i1, force, load<f32>(points + i1, Point.INVERSE_MASS));
    addTo(acceleration + i2, force, load<f32>(points + i2, Point.INVERSE_MASS));
  }
}

// @ts-ignore: decorator
@inline
function sumOf(values: usize, i0: usize, i1: usize, i2: usize): v128 {
  return f32x4.add(f32x4.add(v128.load(values + i0), v128.load(values + i1)), v128.load(values + i2));
}

// @ts-ignore: decorator
@inline
function addTo(at: usize, force: v128, scale: f32): void {
  v128.store(at, f32x4.add(v128.load(at), f32x4.mul(force, f32x4.splat(scale))));
}
