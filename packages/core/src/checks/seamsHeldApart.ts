import { pairsOfSeams } from '../pattern/seamLines';
import { formatQuantity } from '../quantity/units';
import { closingFrames } from '../run/sewing';
import { compile } from '../run/compile';
import { holdsOf } from '../shot/holds';
import type { Cloth, Shot } from '../shot/schema';
import type { Assets, PatternShape } from '../shot/shapes';
import type { ClothModel } from '../solver/model';
import type { Check } from './check';
import { cutCloths } from './cutCloths';

/** Points of a seam that are held no farther apart than this, in m, are drawn together unseen. */
const UNSEEN = 1e-3;

/**
 * A seam whose two sides are both held, by pins or by what they are tied to, away from each other: it cannot close, and tears at the cloth around it.
 * Only the artist can mend that: where the points of the seam alone are let go, those beside them are still too far apart for the cloth between them.
 */
export const seamsHeldApart: Check = {
  id: 'seams-held-apart',
  look: ({ shot, assets }) =>
    cutCloths(shot).flatMap(({ cloth, shape }) =>
      heldApart(shot, cloth, shape, assets).flatMap((gaps, i) => {
        if (gaps.length === 0) return [];
        const widest = gaps.reduce((most, gap) => Math.max(most, gap), 0);
        return [
          {
            check: 'seams-held-apart',
            thing: cloth.id,
            station: 'hold' as const,
            grave: true,
            text: `Seam ${i + 1} of ${cloth.name} cannot close: both of its sides are held, up to ${formatQuantity(widest, 'mm', 2)} mm apart. Hold one of its pieces only, or bring what holds them nearer to each other.`,
            remedy: null,
          },
        ];
      }),
    ),
};

/** Of each seam the pairs of points that are held apart when it should be closed: how far, in m. */
function heldApart(shot: Shot, cloth: Cloth, shape: PatternShape, assets: Assets): number[][] {
  const named = new Set(holdsOf(cloth).flatMap(({ points }) => points));
  if (named.size === 0) return [];
  const held = pairsOfSeams(shape).map((pairs) => pairs.filter((ends) => ends.every((point) => named.has(point))));
  if (held.every((pairs) => pairs.length === 0)) return held.map(() => []);
  const model = compile(shot, assets).cloths.find(({ id }) => id === cloth.id);
  if (!model) return [];
  const placeOf = heldPlaces(model, closingFrames(shot) / shot.frameRate);
  return held.map((pairs) =>
    pairs.flatMap((ends) => {
      const [a, b] = ends.map(placeOf);
      if (!a || !b) return [];
      const gap = Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
      return gap > UNSEEN ? [gap] : [];
    }),
  );
}

/** Where points are carried to at a time in s after the beginning of a run; null for those that are not, or that give. */
function heldPlaces(model: ClothModel, time: number): (point: number) => [number, number, number] | null {
  const places = new Map<number, [number, number, number]>();
  const keep = (point: number, from: ArrayLike<number>, i: number) =>
    places.set(point, [from[i * 3]!, from[i * 3 + 1]!, from[i * 3 + 2]!]);
  for (const { points, placesAt, strengthsAt, slackAt } of model.holds ?? []) {
    const [at, strengths, slack] = [placesAt(time), strengthsAt(time), slackAt?.(time)];
    points.forEach((point, i) => {
      if (strengths[i]! >= 1 && !((slack?.[i] ?? 0) > 0)) keep(point, at, i);
    });
  }
  for (const point of model.held) keep(point, model.positions, point);
  return (point) => places.get(point) ?? null;
}
