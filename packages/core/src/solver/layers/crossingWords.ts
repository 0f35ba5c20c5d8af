import * as Crossing from '@lumbra/kernel/layouts/layers/crossing';

/** Numbers in what the kernel lists of a crossing: byte offsets of the edge's ends, then of the triangle's corners. */
export const CROSSING_WORDS = Crossing.BYTES / 4;
