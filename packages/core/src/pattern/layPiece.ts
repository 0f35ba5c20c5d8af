import { applyPose, poseOf } from '../math/pose';
import { cosine, sine } from '../math/trigonometry';
import type { Vector3 } from '../math/vector';
import type { Piece } from './schema';

/**
 * Where a place of a piece is in the axes of its cloth, in m: u to the right, v up, its face forward; round an axis behind it where it is laid so.
 * Lengths along the piece stay as they are.
 */
export function layPlace(piece: Piece): (u: number, v: number) => Vector3 {
  const pose = poseOf(piece.position, piece.rotation);
  const { lies, radius } = piece;
  const round = lies !== 'flat' && Math.abs(radius) > 1e-6;
  return (u, v) => {
    if (!round) return applyPose(pose, [u, v, 0]);
    const angle = (lies === 'round upright' ? u : v) / radius;
    const [away, along] = [radius * cosine(angle) - radius, radius * sine(angle)];
    return applyPose(pose, lies === 'round upright' ? [along, v, away] : [u, along, away]);
  };
}
