import type { Leash } from '../../shot/holdSchemas';
import type { Cloth } from '../../shot/schema';
import type { HoldModel } from '../../solver/model';
import type { HoldContext } from './context';
import { maskScale, numbersAt, released } from './numbers';
import { incomingNormals, incomingPlaces } from './places';

/** Points that stray from where the cloth's own animation puts them no farther than their leash. */
export function leashModel(cloth: Cloth, leash: Leash, context: HoldContext): HoldModel {
  const distancesAt = numbersAt(cloth, leash, 'distance', context);
  const scale = maskScale(cloth, leash.mask, leash.points, context);
  const freeAt = released(cloth, leash, context);
  const full = new Float32Array(leash.points.length).fill(1);
  return {
    points: leash.points,
    placesAt: incomingPlaces(cloth, leash.points, context),
    ...(leash.neverBehind && { normalsAt: incomingNormals(cloth, leash.points, context) }),
    strengthsAt: (time) => {
      const free = freeAt?.(time);
      return free ? full.map((value, i) => (free[i] ? 0 : value)) : full;
    },
    carried: [],
    slackAt: (time) => {
      const distance = distancesAt(time);
      return scale.at(time).map((value, i) => value * distance(i));
    },
  };
}
