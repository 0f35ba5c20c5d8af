import { blurMask, type Mesh } from '@lumbra/core';
import type { Brush } from '../../stores/selection';

/** One stroke of the brush over a mask: each place that it passes changes the points around it. */
export class PaintStroke {
  readonly values: Uint8Array<ArrayBuffer>;
  readonly #brush: Brush;
  readonly #mesh: Mesh;
  /** What the values are drawn towards when blurring: computed once a stroke. */
  readonly #blurred: Uint8Array | null;
  #last: readonly [number, number, number] | null = null;
  #pressure = 0;

  constructor(mesh: Mesh, values: Uint8Array<ArrayBuffer>, brush: Brush) {
    this.#mesh = mesh;
    this.#brush = brush;
    this.values = values.slice();
    this.#blurred = brush.mode === 'blur' ? blurMask(mesh, values, 4) : null;
  }

  /**
   * Goes on to a place on the cloth, in m, with a brush of a radius in m, pressed from 0 to 1; positions are those of its
   * points as they are shown.
   */
  to(place: readonly [number, number, number], positions: ArrayLike<number>, radius: number, pressure = 1): void {
    // A fast pointer leaves no gaps: dabs are at most a third of the radius apart.
    const from = this.#last ?? place;
    const way = Math.hypot(place[0] - from[0], place[1] - from[1], place[2] - from[2]);
    const steps = this.#last ? Math.max(1, Math.ceil(way / (radius / 3))) : 1;
    for (let step = 1; step <= steps; step++) {
      const share = this.#last ? step / steps : 1;
      this.#dab(
        [0, 1, 2].map((axis) => from[axis]! + (place[axis]! - from[axis]!) * share),
        positions,
        radius,
        this.#pressure + (pressure - this.#pressure) * share,
      );
    }
    this.#last = place;
    this.#pressure = pressure;
  }

  #dab(middle: number[], positions: ArrayLike<number>, radius: number, pressure: number): void {
    const { falloff, value, mode } = this.#brush;
    const strength = this.#brush.strength * pressure;
    const [x, y, z] = middle as [number, number, number];
    const full = radius * (1 - falloff);
    for (let point = 0; point < this.#mesh.positions.length / 3; point++) {
      const [dx, dy, dz] = [positions[point * 3]! - x, positions[point * 3 + 1]! - y, positions[point * 3 + 2]! - z];
      const square = dx * dx + dy * dy + dz * dz;
      if (square > radius * radius) continue;
      const away = Math.sqrt(square);
      const edge = away <= full ? 1 : 1 - (away - full) / Math.max(1e-9, radius - full);
      const amount = strength * edge * edge * (3 - 2 * edge);
      const now = this.values[point]!;
      const wanted =
        mode === 'add' ? 255 : mode === 'take away' ? 0 : mode === 'set' ? value * 255 : this.#blurred![point]!;
      // A passing brush goes at least one step, or it would never arrive.
      const step = (wanted - now) * amount;
      this.values[point] = Math.round(now + (Math.abs(step) < 1 && amount > 0.02 ? Math.sign(wanted - now) : step));
    }
  }
}
