/** One curve of a page: what is drawn over the frames, and a line that it should stay under. */
export interface Curve {
  label: string;
  unit: string;
  values: readonly number[];
  limit?: number;
}

const WIDTH = 640;
const HEIGHT = 96;
const LEFT = 52;
const FOOT = 18;

/** A curve over frames as a drawing for a page: SVG, with its range written beside it. */
export function curveDrawing({ label, unit, values, limit }: Curve, frames: readonly number[]): string {
  const highest = Math.max(limit ?? 0, ...values, 1e-12) * 1.05;
  const [first, last] = [frames[0] ?? 0, frames.at(-1) ?? 0];
  const x = (frame: number) => LEFT + ((frame - first) / Math.max(1, last - first)) * (WIDTH - LEFT - 8);
  const y = (value: number) => 6 + (1 - value / highest) * (HEIGHT - FOOT - 6);
  const points = values.map((value, i) => `${x(frames[i]!).toFixed(1)},${y(value).toFixed(1)}`).join(' ');
  const line = (value: number, kind: string) =>
    `<line class="${kind}" x1="${LEFT}" x2="${WIDTH - 8}" y1="${y(value).toFixed(1)}" y2="${y(value).toFixed(1)}"/>`;
  const written = (value: number) => (value === 0 ? '0' : Number(value.toPrecision(3)).toString());
  return `<figure><figcaption>${label}${unit ? ` <span>${unit}</span>` : ''}</figcaption>
<svg viewBox="0 0 ${WIDTH} ${HEIGHT}" role="img" aria-label="${label} over the frames, at most ${written(Math.max(0, ...values))} ${unit}">
${line(0, 'axis')}${limit === undefined ? '' : line(limit, 'limit')}
<polyline points="${points}"/>
<text x="${LEFT - 6}" y="${y(highest / 1.05).toFixed(1)}" dy="4" text-anchor="end">${written(highest / 1.05)}</text>
<text x="${LEFT - 6}" y="${y(0).toFixed(1)}" text-anchor="end">0</text>
<text x="${LEFT}" y="${HEIGHT - 2}">${first}</text><text x="${WIDTH - 8}" y="${HEIGHT - 2}" text-anchor="end">${last}</text>
</svg></figure>`;
}
