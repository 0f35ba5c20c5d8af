// An edge or face of cloth and a sharp feature that may meet; see assembly/contact/sharp.ts.
export const BYTES = 8;
/** u32: address of the edge or face in the search's lists. */
export const PROBE = 0;
/** u32: address of the feature, plus 1 for a face. */
export const FEATURE = 4;
