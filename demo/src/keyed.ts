import type { Track } from '@lumbra/core';

/** A number at a frame: in m, radians or as a share. */
export type Stop = readonly [frame: number, value: number];

/** A keyed number that goes smoothly from stop to stop. */
export function keyed(number: string, stops: readonly Stop[]): Track {
  return { number, knots: stops.map(([frame, value]) => ({ frame, value, ease: 'smooth' })) };
}

export const degrees = (angle: number): number => (angle * Math.PI) / 180;

/** The keys of a whole place or turn, as rows of a table: a frame and its x, y and z. */
export function keyedRows(what: string, rows: readonly (readonly number[])[]): Track[] {
  return ['x', 'y', 'z'].map((axis, i) =>
    keyed(
      `${what}.${axis}`,
      rows.map((row) => [row[0]!, row[i + 1]!] as const),
    ),
  );
}
