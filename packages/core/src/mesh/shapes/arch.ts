import { cosine, sine } from '../../math/trigonometry';
import type { Mesh } from '../mesh';
import { sheet } from './sheet';

export interface ArchOptions {
  /** Along x, the warp, in metres. */
  length: number;
  /** Of the half round, in metres. */
  radius: number;
  /** How far it goes on straight down on either side, in metres. */
  skirt: number;
  /** Wanted distance between neighbouring points in metres. */
  spacing: number;
}

/** The way over an arch from hem to hem, in m. */
export function archGirth({ radius, skirt }: Pick<ArchOptions, 'radius' | 'skirt'>): number {
  return Math.PI * radius + 2 * skirt;
}

/**
 * A sheet bent over a half round whose axis is x, with straight skirts: as flat as a sheet in its material coordinates, so that bending is
 * all that it takes. The middle of its box is the origin.
 *
 * @example arch({ length: 2.4, radius: 0.6, skirt: 0.5, spacing: 0.03 }) // a hood: u along its length, v from hem to hem
 */
export function arch({ length, radius, skirt, spacing }: ArchOptions): Mesh {
  const girth = archGirth({ radius, skirt });
  const flat = sheet({ width: length, height: girth, spacing });
  const low = (radius + skirt) / 2;
  for (let at = 0; at < flat.positions.length; at += 3) {
    // From hem to hem; from the far hem over the top to the near one, so that it faces outwards as the sheet faces up.
    const way = flat.positions[at + 2]! + girth / 2;
    const [height, side] = overArch(way, radius, skirt, girth);
    flat.positions[at + 1] = height - low;
    flat.positions[at + 2] = side;
  }
  return flat;
}

/** Height over the hems and place across, after so much of the way over the arch. */
function overArch(way: number, radius: number, skirt: number, girth: number): [number, number] {
  if (way < skirt) return [way, -radius];
  if (way > girth - skirt) return [girth - way, radius];
  const angle = (way - skirt) / radius;
  return [skirt + radius * sine(angle), -radius * cosine(angle)];
}
