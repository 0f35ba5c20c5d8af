/** A tenth of a micrometre is nothing to cloth, and spares the artist figures such as 0.30000000000000004. */
export function tidy(value: number): number {
  return Math.round(value * 1e7) / 1e7;
}
