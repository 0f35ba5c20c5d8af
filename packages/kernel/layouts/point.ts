// A point in any array of points (assembly/state.ts): f32 x y z w. Records name points by how many bytes theirs lie behind the first.
export const BYTES = 16;
/** Of positions, f32: inverse mass in 1/kg; 0 for a held point. */
export const INVERSE_MASS = 12;
/** Of places at the last query and of planned motion, f32, in m: radius of the ball that the point is trusted to stay in; see layers/layerBlock.ts. */
export const TRUST = 12;
/** Of places in the rest shape, f32: 1 where layers are so thick that neighbours would touch at rest. */
export const DENSE = 12;
