/** Cloth finer than this is refused: it would need hours a frame and most of a machine's memory. */
export const MOST_SHEET_POINTS = 400_000;
