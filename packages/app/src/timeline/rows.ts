/** Where the rows of the timeline are, in CSS pixels from its top. */
export const RULER = { top: 0, bottom: 24 };
export const THREAD = { top: 24, bottom: 48 };
export const KNOTS = { top: 48, bottom: 72 };
export const CURVE_TOP = 72;
