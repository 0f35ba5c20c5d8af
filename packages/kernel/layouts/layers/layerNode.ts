// A node of a cloth's tree; see assembly/layers/tree.ts. Parents come before their children.
export const BYTES = 64;
/** f32 x 3: corners of a box around where its points may be, grown by their trust. */
export const LOW = 0;
/** u32: the triangle of a leaf; else the first child, the second is the next. */
export const FIRST = 12;
export const HIGH = 16;
/** u32: 1 for a leaf. */
export const LEAF = 28;
/** f32 x 3: least and most planned motion over the whole horizon. */
export const LEAST = 32;
/** f32: the sum of the box's sides when it was fitted: of two nodes the larger one is opened. */
export const EXTENT = 44;
export const MOST = 48;
/** f32: where boxes are fitted to points as they are, above 0 where any of them is tangled. */
export const MARK = 60;
