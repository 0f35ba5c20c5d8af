import type { Fabric } from '../fabric/fabric';

// How many substeps a frame needs. One sweep a substep leaves a hanging length L falsely stretched by about
// g L h^2 / s^2, and honours bending only while h^2 B / (rho s^4) is small (both measured; docs/solver.md).
// So the number follows from spacing, fabric and quality, and the artist is told what it honours.

export type Quality = 'draft' | 'shot' | 'final';

export interface QualityLimits {
  /** Largest false stretch of the longest free length, as a share. */
  stretch: number;
  /** Never fewer than this: with a handful of long substeps cloth on the corner of a box does not come to rest. */
  fewest: number;
  /** Smallest honoured share of the bending rigidity; 0 where bending does not decide. */
  bend: number;
  /** The largest stretch beyond what the fabric gives that any face has in any frame, as a share; null where nothing is promised. */
  promised: number | null;
}

export const QUALITIES: Record<Quality, QualityLimits> = {
  draft: { stretch: 0.1, fewest: 12, bend: 0, promised: null },
  shot: { stretch: 0.03, fewest: 30, bend: 0.9, promised: 0.03 },
  // Near supports stretch is several times that of the free length, so that this stays below the promised 1 %.
  final: { stretch: 0.007, fewest: 40, bend: 0.95, promised: 0.01 },
};

/** What the rule needs to know of one cloth. Lengths in m. */
export interface ClothScale {
  spacing: number;
  /** The longest stretch of cloth that hangs free. */
  freeLength: number;
  fabric: Fabric;
}

/**
 * Honoured share of bending falls as 1 / (1 + 10 h^2 B / (rho s^4)) at the worst. Of hanging strips on square grids a quarter of that is
 * lost: six fabrics and spacings act with 97 to 99 % where this says 90 %, against the same strips with many more substeps. Discs
 * that drape, whose triangles lie in all directions and shear as they hang, need it: denim's coefficient at 92 substeps is 7 % below
 * that at 180.
 */
const BEND_LOSS = 10;
export const MOST_SUBSTEPS = 800;

/** False stretch as a share for substeps of h seconds, under an acceleration in m/s^2 (gravity, and wind on light cloth). */
export function falseStretch({ spacing, freeLength }: ClothScale, acceleration: number, h: number): number {
  return (acceleration * freeLength * h * h) / (spacing * spacing);
}

/** The share of the bending rigidity that acts, 0 to 1. */
export function bendHonoured({ spacing, fabric }: ClothScale, h: number): number {
  const rigidity = Math.max(fabric.bendWarp, fabric.bendWeft);
  if (rigidity === 0) return 1;
  return 1 / (1 + (BEND_LOSS * h * h * rigidity) / (fabric.weight * (spacing * spacing) * (spacing * spacing)));
}

/** Substeps for a frame of `seconds`, so that every cloth meets the quality's limits. */
export function substepsFor(
  cloths: readonly ClothScale[],
  acceleration: number,
  seconds: number,
  quality: Quality,
): number {
  const { stretch } = QUALITIES[quality];
  let count = fewestSubsteps(cloths, seconds, quality);
  for (const cloth of cloths) {
    const wholeFrame = falseStretch(cloth, acceleration, seconds);
    count = Math.max(count, Math.ceil(Math.sqrt(wholeFrame / stretch)));
  }
  return Math.min(count, MOST_SUBSTEPS);
}

/** Substeps that a frame of `seconds` never has fewer of, however little is stretched: those that bending needs. */
export function fewestSubsteps(cloths: readonly ClothScale[], seconds: number, quality: Quality): number {
  const { fewest, bend } = QUALITIES[quality];
  if (bend === 0) return fewest;
  const loss = (1 - bend) / bend;
  const counts = cloths.map(({ spacing, fabric: { weight, bendWarp, bendWeft } }) => {
    const rate = Math.sqrt(Math.max(bendWarp, bendWeft) / weight) / (spacing * spacing);
    return Math.ceil(seconds * rate * Math.sqrt(BEND_LOSS / loss));
  });
  return Math.min(Math.max(fewest, ...counts), MOST_SUBSTEPS);
}
