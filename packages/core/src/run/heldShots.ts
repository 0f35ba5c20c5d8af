// What the tests of holds and masks run: a small sheet, 0.6 by 0.4 m, and measures of where its points are.
import type { Mesh } from '../mesh/mesh';
import { sheet } from '../mesh/shapes/sheet';
import { createCloth, createShot } from '../shot/create';
import { edit } from '../shot/edit';
import { setKnot } from '../shot/editKeys';
import type { Shot, Thing } from '../shot/schema';
import { sidePoints } from '../shot/selectPoints';
import { BakeRun } from './bakeRun';
import type { BakedFrame } from './frame';

export const SHAPE = { kind: 'sheet', width: 0.6, height: 0.4, spacing: 0.04 } as const;
export const mesh = sheet(SHAPE);
export const top = sidePoints(mesh, 'top');
export const none = new Map<string, Mesh>();

export function shot(cloth: Partial<Parameters<typeof createCloth>[0]>, more: Thing[] = []): Shot {
  const hood = createCloth({ id: 'c', name: 'Hood', shape: SHAPE, position: [0, 1, 0], ...cloth });
  return createShot({ name: 'Held', lastFrame: 24, run: { substeps: 40 }, things: [hood, ...more] });
}

export function keyed(start: Shot, thing: string, number: string, knots: [number, number][]): Shot {
  return edit(start, 'Key', (draft) => {
    for (const [frame, value] of knots) setKnot(draft, { thing, number, frame }, value, 'linear');
  }).shot;
}

export function frames(of: Shot, count: number): BakedFrame[] {
  const run = new BakeRun(of, none);
  return Array.from({ length: count }, () => run.next());
}

export const point = (positions: ArrayLike<number>, i: number): [number, number, number] => [
  positions[i * 3]!,
  positions[i * 3 + 1]!,
  positions[i * 3 + 2]!,
];
export const apart = (a: readonly number[], b: readonly number[]) =>
  Math.sqrt((a[0]! - b[0]!) ** 2 + (a[1]! - b[1]!) ** 2 + (a[2]! - b[2]!) ** 2);
