// An edge of cloth that passes through a triangle of cloth. u32: byte offsets of its points.
export const BYTES = 20;
export const EDGE_0 = 0;
export const EDGE_1 = 4;
export const CORNER_0 = 8;
export const CORNER_1 = 12;
export const CORNER_2 = 16;
