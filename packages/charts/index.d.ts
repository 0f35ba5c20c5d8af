/** What draws the curves of a page that stands alone, as the text of a script. It reads them from the element `curves` of the page. */
export declare const chartScript: string;

/** One curve of a page: a value a frame, and a line that it should stay under. */
export interface Curve {
  label: string;
  unit: string;
  values: readonly number[];
  limit?: number;
}

/** What the element `curves` of a page holds, as JSON. */
export interface Curves {
  frames: readonly number[];
  curves: readonly Curve[];
}
