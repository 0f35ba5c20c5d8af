import { lengthOf } from './units';

type Attributes = Record<string, string>;

/** What basic shapes are as paths, so that all are read alike; null where one has no size. */
export const SHAPE_PATHS: Record<string, (a: Attributes, size: readonly [number, number]) => string | null> = {
  path: ({ d }) => d ?? null,
  rect: (a, [width, height]) => {
    const [x, y] = [lengthOf(a['x'] ?? 0, width) ?? 0, lengthOf(a['y'] ?? 0, height) ?? 0];
    const [w, h] = [lengthOf(a['width'], width), lengthOf(a['height'], height)];
    if (!w || !h || w < 0 || h < 0) return null;
    const given = [lengthOf(a['rx'], width), lengthOf(a['ry'], height)];
    const rx = Math.min(given[0] ?? given[1] ?? 0, w / 2);
    const ry = Math.min(given[1] ?? given[0] ?? 0, h / 2);
    if (!(rx > 0) || !(ry > 0)) return `M${x} ${y}h${w}v${h}h${-w}z`;
    const corner = (dx: number, dy: number) => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`;
    return (
      `M${x + rx} ${y}h${w - 2 * rx}${corner(rx, ry)}v${h - 2 * ry}${corner(-rx, ry)}` +
      `h${2 * rx - w}${corner(-rx, -ry)}v${2 * ry - h}${corner(rx, -ry)}z`
    );
  },
  circle: (a, [width, height]) => {
    const r = lengthOf(a['r'], Math.sqrt((width * width + height * height) / 2));
    return ellipse(lengthOf(a['cx'] ?? 0, width), lengthOf(a['cy'] ?? 0, height), r, r);
  },
  ellipse: (a, [width, height]) =>
    ellipse(
      lengthOf(a['cx'] ?? 0, width),
      lengthOf(a['cy'] ?? 0, height),
      lengthOf(a['rx'], width),
      lengthOf(a['ry'], height),
    ),
  line: (a, [width, height]) => {
    const [x, y] = [lengthOf(a['x1'] ?? 0, width), lengthOf(a['y1'] ?? 0, height)];
    const [toX, toY] = [lengthOf(a['x2'] ?? 0, width), lengthOf(a['y2'] ?? 0, height)];
    return x === null || y === null || toX === null || toY === null ? null : `M${x} ${y}L${toX} ${toY}`;
  },
  polygon: ({ points }) => corners(points, true),
  polyline: ({ points }) => corners(points, false),
};

function ellipse(cx: number | null, cy: number | null, rx: number | null, ry: number | null): string | null {
  if (!rx || !ry || rx < 0 || ry < 0) return null;
  const [x, y] = [cx ?? 0, cy ?? 0];
  return `M${x + rx} ${y}A${rx} ${ry} 0 0 1 ${x} ${y + ry}A${rx} ${ry} 0 0 1 ${x - rx} ${y}A${rx} ${ry} 0 0 1 ${x} ${y - ry}A${rx} ${ry} 0 0 1 ${x + rx} ${y}z`;
}

function corners(points: string | undefined, closed: boolean): string | null {
  const numbers = (points ?? '')
    .trim()
    .split(/[\s,]+/)
    .filter(Boolean);
  if (numbers.length < 6) return null;
  const pairs = Array.from({ length: numbers.length >> 1 }, (_, i) => `${numbers[i * 2]} ${numbers[i * 2 + 1]}`);
  return `M${pairs.join('L')}${closed ? 'z' : ''}`;
}
