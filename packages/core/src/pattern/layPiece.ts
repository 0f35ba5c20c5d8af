import { applyPose, poseOf } from '../math/pose';
import { cosine, sine } from '../math/trigonometry';
import type { Vector3 } from '../math/vector';
import { pleatedPlace } from './pleatRow';
import type { Piece } from './schema';
import { placeOnStrip, unrollStrip } from './skin/unrollStrip';

/**
 * Where a place of a piece is in the axes of its cloth, in m: u to the right, v up, its face forward; pleated where it has pleats, and round an axis
 * behind it or between rails where it is laid so. Lengths along the piece stay as they are, but for pleats that are laid round.
 */
export function layPlace(piece: Piece): (u: number, v: number) => Vector3 {
  const pose = poseOf(piece.position, piece.rotation);
  const { lies, radius, rails } = piece;
  const round = (lies === 'round upright' || lies === 'round level') && Math.abs(radius) > 1e-6;
  const pleated = pleatedPlace(piece);
  if (lies === 'between rails' && rails) {
    const onStrip = placeOnStrip(unrollStrip(...rails));
    return (cutU, cutV) => {
      const [u, v, out] = pleated(cutU, cutV);
      return applyPose(pose, onStrip([u, v], out));
    };
  }
  return (cutU, cutV) => {
    const [u, v, out] = pleated(cutU, cutV);
    if (!round) return applyPose(pose, [u, v, out]);
    const angle = (lies === 'round upright' ? u : v) / radius;
    const [away, along] = [(radius + out) * cosine(angle) - radius, (radius + out) * sine(angle)];
    return applyPose(pose, lies === 'round upright' ? [along, v, away] : [u, along, away]);
  };
}
