// An edge or a face of cloth in the lists of a search: byte offsets of its points.
export const EDGE_BYTES = 8;
export const FACE_BYTES = 12;
export const POINT_0 = 0;
export const POINT_1 = 4;
export const POINT_2 = 8;
