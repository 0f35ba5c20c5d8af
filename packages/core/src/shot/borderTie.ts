import { createTie } from './create';
import type { Tie } from './holdSchemas';
import type { Cloth, Thing } from './schema';

/** A tie that draws a border of a pattern to a thing while its seams close, and holds it there. */
export function borderTie(cloth: Cloth, points: number[], thing: Thing, along: Tie['along']): Tie {
  const taken = new Set(cloth.ties.map(({ name }) => name));
  const stem = `Seam to ${thing.name}`.slice(0, 110);
  let name = stem;
  for (let i = 2; taken.has(name); i++) name = `${stem} ${i}`;
  const drawnIn = cloth.shape.kind === 'pattern' ? cloth.shape.closing : 0;
  return createTie({
    name,
    points,
    to: thing.id,
    along,
    keepsDistance: false,
    standOff: standOffOf(cloth, thing),
    drawnIn,
  });
}

/** Between the points of a border the edges of a rounded thing come nearer than at them, by so many m. */
const ROUNDED = 0.0005;

/** How near to the surface of a thing the middle of a cloth is sewn: as near as contact lets it be. */
export function standOffOf(cloth: Cloth, thing: Thing): number {
  const half = cloth.fabric.thickness / 2;
  if (thing.role === 'collider') return thing.clearance + half + ROUNDED;
  return thing.role === 'cloth' ? half + thing.fabric.thickness / 2 : 0;
}
