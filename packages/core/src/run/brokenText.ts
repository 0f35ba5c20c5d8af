import { formatQuantity } from '../quantity/units';
import { MOST_SUBSTEPS } from '../solver/substeps';
import type { BrokenPromise } from './keptPromises';

/** A broken promise in a sentence: where, what, why, and what helps. `nameOf` gives the name of a thing by its id. */
export function brokenText(
  { frame, broke, thing, beside = null, amount, substeps }: BrokenPromise,
  nameOf: (id: string) => string | undefined,
): string {
  const name = thing === null ? undefined : nameOf(thing);
  const tried =
    substeps >= MOST_SUBSTEPS ? `even with ${substeps} substeps, the most there are` : `with ${substeps} substeps`;
  const times = (count: number, one: string, many: string) => (count === 1 ? `one ${one}` : `${count} ${many}`);
  switch (broke) {
    case 'crossed':
      return `Worst at frame ${frame}: cloth crosses in ${times(amount, 'place', 'places')}, ${tried}. Slower motion or a finer spacing helps.`;
    case 'pierced':
      return `Worst at frame ${frame}: ${times(amount, 'face passes', 'faces pass')} through ${name ?? 'a collider'}, ${tried}. More clearance or slower motion helps.`;
    case 'deep':
      return `Worst at frame ${frame}: cloth is ${formatQuantity(amount, 'mm')} mm inside ${name ?? 'a collider'}, ${tried}. More clearance or slower motion helps.`;
    case 'squeezed': {
      const other = (beside === null ? undefined : nameOf(beside)) ?? 'another one';
      return `Worst at frame ${frame}: ${name ?? 'a collider'} and ${other} leave the cloth between them ${formatQuantity(amount, 'mm', 2)} mm less room than it is thick. It is kept in the middle of them. Moving them apart there, or letting the cloth not touch one of them, helps.`;
    }
    case 'heldApart':
      return `Worst at frame ${frame}: ${name ?? 'cloth'} is stretched by ${formatQuantity(amount, '%', 2)} % between points that are held farther apart than it is long there. Holding them nearer to each other, or one of them less, helps.`;
    case 'drawnOut':
      return `Worst at frame ${frame}: ${name ?? 'cloth'} is stretched by ${formatQuantity(amount, '%', 2)} % beyond what its fabric gives, ${tried}: what holds it draws it out, or winds it up, farther than it is long. Less of that motion, or longer cloth, helps.`;
    default:
      return `Worst at frame ${frame}: ${name ?? 'cloth'} is stretched by ${formatQuantity(amount, '%', 2)} % beyond what its fabric gives, ${tried}. A wider spacing, less force on it or slower motion helps.`;
  }
}
