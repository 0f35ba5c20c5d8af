/** Pixels drawn for a CSS pixel. A quick picture has a quarter as many. */
export function pixelRatio(quick: boolean): number {
  return Math.min(window.devicePixelRatio, 2) * (quick ? 0.5 : 1);
}
