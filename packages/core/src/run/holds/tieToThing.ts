import { length, type Vector3 } from '../../math/vector';
import { placeOn } from '../../mesh/nearestPlace';
import type { Tie } from '../../shot/holdSchemas';
import type { Cloth } from '../../shot/schema';
import type { HoldModel } from '../../solver/model';
import { thingOf, type HoldContext } from './context';
import { strengths } from './numbers';
import { pointAt, remembered } from './places';
import { faceAxes, surfaceOf, tiedPlaces } from './surface';
import { openOf, standOffs } from './tieNumbers';

/** Points that keep their place on the surface of a thing, as it moves and changes its shape. */
export function tieToThing(cloth: Cloth, tie: Tie, context: HoldContext): HoldModel {
  const { frame, frameAt, startOf } = context;
  const to = thingOf(context, tie.to, cloth);
  const { mesh, at: surfaceAt } = surfaceOf(to, context, cloth);
  const start = startOf(cloth);
  const places = tie.points.map((point) => pointAt(start, point));
  const first = surfaceAt(frame);
  const nearest = tiedPlaces(cloth, tie, context, to, first);
  // How each point lies off its place, in the axes of the face, so that it turns with it.
  const offsets = nearest.map((place, i) => {
    const axes = faceAxes(first, place.face);
    const foot = placeOn(first.positions, mesh.triangles, place);
    const away = [0, 1, 2].map((axis) => places[i]![axis]! - foot[axis]!);
    return axes.map((axis) => axis[0] * away[0]! + axis[1] * away[1]! + axis[2] * away[2]!) as unknown as Vector3;
  });
  const standOffAt = standOffs(cloth, tie, context);
  const starts = Float32Array.from(offsets, length);
  const openAt = openOf(tie, context);
  const placesAt = (time: number) => {
    const surface = surfaceAt(frameAt?.(time) ?? frame);
    const standOff = tie.keepsDistance ? null : standOffAt(time);
    const open = openAt(time);
    const all = new Float32Array(places.length * 3);
    nearest.forEach((place, i) => {
      const foot = placeOn(surface.positions, mesh.triangles, place);
      const axes = faceAxes(surface, place.face);
      const offset =
        standOff === null ? offsets[i]! : scaledTo(offsets[i]!, standOff[i]! + open * (starts[i]! - standOff[i]!));
      for (let axis = 0; axis < 3; axis++) {
        all[i * 3 + axis] =
          foot[axis]! + axes[0]![axis]! * offset[0] + axes[1]![axis]! * offset[1] + axes[2]![axis]! * offset[2];
      }
    });
    return all;
  };
  return { points: tie.points, placesAt: remembered(placesAt), ...strengths(cloth, tie, context) };
}

/** An offset of a wanted length; what lies on the surface is moved along its normal. */
function scaledTo(offset: Vector3, wanted: number): Vector3 {
  const size = length(offset);
  if (size < 1e-5) return [0, 0, wanted];
  return [(offset[0] / size) * wanted, (offset[1] / size) * wanted, (offset[2] / size) * wanted];
}
