// A point in the collider's axes; see assembly/contact/sharp.ts. Places are f32 x 4.
export const BYTES = 48;
export const NOW = 0;
/** When the substep began. */
export const THEN = 16;
/** Where it was in the world when pairs were listed, and how far it may go before they are listed again. */
export const LISTED = 32;
export const ROAM = 44;
