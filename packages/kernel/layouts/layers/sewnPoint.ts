// What a point is sewn to, for contact of cloth with cloth, as one u32: byte offset of the first of all points that it is sewn to, plus OPEN.
export const BYTES = 4;
/** It starts away from that point: a seam draws it there. */
export const OPEN = 1;
