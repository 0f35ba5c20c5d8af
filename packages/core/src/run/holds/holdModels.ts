import type { Cloth } from '../../shot/schema';
import type { HoldModel, TieModel } from '../../solver/model';
import { thingOf, type HoldContext } from './context';
import { leashModel } from './leashes';
import { pinModel, staysPut } from './pins';
import { tieToCloth } from './tieToCloth';
import { tieToThing } from './tieToThing';

// What holds a cloth, as the solver takes it: pins that stay are points that do not move; all else are places that points are
// drawn to, or ties between cloth and cloth.

/** All that holds a cloth besides its still pins. */
export function holdModels(cloth: Cloth, context: HoldContext): { holds: HoldModel[]; ties: TieModel[] } {
  const moving = cloth.pinSets.filter((set) => set.points.length > 0 && !staysPut(cloth, set));
  const tied = cloth.ties.filter(({ points }) => points.length > 0);
  const toCloth = tied.filter(({ to }) => thingOf(context, to, cloth)?.role === 'cloth');
  return {
    holds: [
      ...moving.map((set) => pinModel(cloth, set, context)),
      ...tied.filter((tie) => !toCloth.includes(tie)).map((tie) => tieToThing(cloth, tie, context)),
      ...cloth.leashes.filter(({ points }) => points.length > 0).map((leash) => leashModel(cloth, leash, context)),
    ],
    ties: toCloth
      .filter(({ to }) => thingOf(context, to, cloth)!.enabled)
      .map((tie) => tieToCloth(cloth, tie, context)),
  };
}
