import type { Tie } from '../../shot/holdSchemas';
import type { Cloth } from '../../shot/schema';
import { shapeMesh } from '../../shot/shapes';
import type { TieModel } from '../../solver/model';
import { thingOf, type HoldContext } from './context';
import { strengths } from './numbers';
import { tiedPlaces } from './surface';
import { openOf, standOffs } from './tieNumbers';

/** Points that are drawn to places of another cloth, which is drawn to them. */
export function tieToCloth(cloth: Cloth, tie: Tie, context: HoldContext): TieModel {
  const other = thingOf(context, tie.to, cloth) as Cloth;
  const { startOf, assets } = context;
  const mesh = shapeMesh(other.shape, assets);
  const surface = { positions: startOf(other), triangles: mesh.triangles };
  const nearest = tiedPlaces(cloth, tie, context, other, surface);
  // Layers keep their distance by themselves: a shorter tie would fight with that.
  const least = (cloth.selfContact.thickness + other.selfContact.thickness) / 2;
  const own = Float32Array.from(nearest, ({ distance }) => distance);
  const standOffAt = standOffs(cloth, tie, context);
  const openAt = openOf(tie, context);
  const lengthsAt = (time: number) => {
    if (tie.keepsDistance) return own;
    const open = openAt(time);
    return standOffAt(time).map((standOff, i) => standOff + open * (own[i]! - standOff));
  };
  return {
    points: tie.points,
    to: other.id,
    corners: Uint32Array.from(nearest.flatMap(({ face }) => [...mesh.triangles.subarray(face * 3, face * 3 + 3)])),
    weights: Float32Array.from(nearest.flatMap(({ weights }) => [...weights])),
    lengthsAt: (time) => lengthsAt(time).map((length) => Math.max(least, length)),
    strengthsAt: strengths(cloth, tie, context).strengthsAt,
  };
}
