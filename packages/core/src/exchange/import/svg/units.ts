/** One CSS unit in m: 96 pixels an inch. */
const IN_METRES: Record<string, number> = {
  '': 0.0254 / 96,
  px: 0.0254 / 96,
  mm: 0.001,
  cm: 0.01,
  m: 1,
  q: 0.00025,
  in: 0.0254,
  pt: 0.0254 / 72,
  pc: 0.0254 / 6,
};

/** A length in pixels, shares of a whole (%) of so many pixels among them; null where it cannot be read. */
export function lengthOf(text: unknown, whole: number): number | null {
  const found = /^\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)\s*([a-z%]*)\s*$/i.exec(String(text ?? ''));
  if (!found) return null;
  const value = Number(found[1]);
  const unit = found[2]!.toLowerCase();
  if (!Number.isFinite(value)) return null;
  if (unit === '%') return (value / 100) * whole;
  const size = IN_METRES[unit];
  return size === undefined ? null : (value * size) / IN_METRES['px']!;
}

/** One pixel in m. */
export const PIXEL = IN_METRES['px']!;
