import { fabricSchema, type FabricNumber } from '../fabric/fabric';
import { quantityOf, type Quantity } from '../quantity/quantity';
import { CUED_NUMBERS, type Cue } from './cueSchemas';
import { keyableNumbers, PLACE_NUMBERS } from './keyable';
import type { Cloth, Shot, Thing } from './schema';

/** A number that a cue of a cloth can change. */
export interface CueTarget {
  /** Id of the thing that has it: a collider, air, or for its holds the cloth itself; null for a number of its fabric. */
  of: string | null;
  number: string;
  /** As it is chosen: “Lamp, friction”. */
  name: string;
  quantity: Quantity;
}

/** A cue that changes the fabric, where it happens. */
export type FabricCue = Cue & { of: null; number: FabricNumber };

export function isFabricCue(cue: Cue): cue is FabricCue {
  return cue.of === null;
}

/** Whether what a cue changes goes where it happens; all else goes as a whole, as soon as it happens anywhere. */
export function isByPoint(cue: Pick<Cue, 'of' | 'number'>): boolean {
  return cue.of === null || /^hold:[^.]+\.(strength|distance)$/.test(cue.number);
}

/** All numbers that a cue of a cloth can change: of its fabric; of what holds it; how colliders touch; what air does. */
export function cueTargets(shot: Pick<Shot, 'things'>, cloth: Cloth): CueTarget[] {
  return [
    ...FABRIC,
    ...targetsOf(cloth),
    ...shot.things.flatMap((thing) => (thing.role === 'collider' || thing.role === 'air' ? targetsOf(thing) : [])),
  ];
}

/** What a cue changes, as the shot is; null where that is there no more. */
export function cueTarget(
  shot: Pick<Shot, 'things'>,
  cloth: Cloth,
  { of, number }: Pick<Cue, 'of' | 'number'>,
): CueTarget | null {
  const owner = shot.things.find(({ id }) => id === of);
  const can = owner && (owner.id === cloth.id || owner.role === 'collider' || owner.role === 'air');
  const from = of === null ? FABRIC : can ? targetsOf(owner) : [];
  return from.find((one) => one.number === number) ?? null;
}

const FABRIC: readonly CueTarget[] = CUED_NUMBERS.map((number) => {
  const quantity = quantityOf(fabricSchema.shape[number])!;
  return { of: null, number, name: quantity.label, quantity };
});

/** Of a cloth what holds it, of another thing all but where it is and how large: that is drawn by the page as the document has it. */
function targetsOf(thing: Thing): CueTarget[] {
  const left: readonly string[] = PLACE_NUMBERS;
  const isCloth = thing.role === 'cloth';
  return Object.entries(keyableNumbers(thing))
    .filter(([number]) =>
      isCloth ? /^hold:[^.]+\.[^.]+$/.test(number) : !left.includes(number) && !number.startsWith('shape.'),
    )
    .map(([number, quantity]) => {
      const name = isCloth ? quantity.label : `${thing.name}, ${quantity.label.toLowerCase()}`;
      return { of: thing.id, number, name, quantity };
    });
}
