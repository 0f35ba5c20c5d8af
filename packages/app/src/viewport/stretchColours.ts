import { Color } from 'three';

// Stretch from woad (squeezed) over linen to madder (stretched), in steps, so that a colour can be read as a number.

/** Ends of the scale, as a share. */
export const STRETCH_LIMIT = 0.03;
const STEPS = 8;
const WOAD = new Color('#2F7F7A');
const LINEN = new Color('#F3EBDC');
const MADDER = new Color('#B4442F');

/** The colour of a stretch. */
export function stretchColour(stretch: number, out = new Color()): Color {
  const share = Math.max(-1, Math.min(1, stretch / STRETCH_LIMIT));
  const step = Math.min(STEPS - 1, Math.floor(((share + 1) / 2) * STEPS));
  const centre = ((step + 0.5) / STEPS) * 2 - 1;
  return centre < 0 ? out.copy(LINEN).lerp(WOAD, -centre) : out.copy(LINEN).lerp(MADDER, centre);
}

/** The scale's steps from squeezed to stretched, for the legend. */
export function stretchSteps(): string[] {
  return Array.from(
    { length: STEPS },
    (_, i) => `#${stretchColour((((i + 0.5) / STEPS) * 2 - 1) * STRETCH_LIMIT).getHexString()}`,
  );
}
