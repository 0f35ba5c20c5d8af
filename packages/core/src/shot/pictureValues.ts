import { fabricPlaces } from '../mesh/fabricPlaces';
import type { Mesh } from '../mesh/mesh';

/** A picture in shades of grey. */
export interface GreyPicture {
  width: number;
  height: number;
  /** Row by row from the top, 0 black to 255 white. */
  values: Uint8Array | Uint8ClampedArray;
}

/**
 * The brightness of a picture that is laid on the fabric so that it covers it, 0 to 1 per point: its top on the far side, its left on
 * the left one, as the sheet is seen from above. Between pixels it is interpolated.
 * @throws RangeError for a picture without pixels
 */
export function pictureValues(mesh: Mesh, { width, height, values }: GreyPicture): Float32Array<ArrayBuffer> {
  if (width < 1 || height < 1 || values.length < width * height) throw new RangeError('The picture has no pixels.');
  const { places, width: wide, height: high } = fabricPlaces(mesh);
  return Float32Array.from({ length: places.length / 2 }, (_, point) => {
    const x = along(places[point * 2]!, wide, width);
    const y = along(places[point * 2 + 1]!, high, height);
    const at = (row: number, column: number) => values[row * width + column]!;
    const row = (r: number) => at(r, x.first) * (1 - x.share) + at(r, x.second) * x.share;
    return (row(y.first) * (1 - y.share) + row(y.second) * y.share) / 255;
  });
}

/** Between which two of so many pixels a place lies; pixels have their values in their middles. */
function along(place: number, size: number, pixels: number): { first: number; second: number; share: number } {
  const exact = Math.min(pixels - 1, Math.max(0, (size > 0 ? place / size : 0) * pixels - 0.5));
  const first = Math.floor(exact);
  return { first, second: Math.min(pixels - 1, first + 1), share: exact - first };
}
