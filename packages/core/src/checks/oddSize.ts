import { formatQuantity } from '../quantity/units';
import { newId } from '../shot/create';
import { giveSize, resizeShape, shapeSize } from '../shot/resize';
import type { Check } from './check';

/** Sizes in m that a thing rarely has, by its largest side. */
const CLOTH = { least: 0.02, most: 30 };
const SOLID = { least: 0.002, most: 200 };
const FACTORS = [0.01, 0.001, 100, 1000];

/** A thing is far larger or smaller than such things are: mostly a wrong unit. */
export const oddSize: Check = {
  id: 'odd-size',
  look: ({ shot, assets }) =>
    shot.things.flatMap((thing) => {
      if (!('shape' in thing) || thing.role === 'scenery' || !thing.enabled) return [];
      if (thing.shape.kind === 'mesh' && !assets.has(thing.shape.asset)) return [];
      const sides = shapeSize(thing.shape, assets);
      if (!sides) return [];
      const largest = Math.max(...sides);
      const { least, most } = thing.role === 'cloth' ? CLOTH : SOLID;
      if (largest >= least && largest <= most) return [];
      const factor = FACTORS.find((by) => largest * by >= 0.1 && largest * by <= 20);
      return [
        {
          check: 'odd-size',
          thing: thing.id,
          station: 'stage' as const,
          grave: true,
          text: `${thing.name} is ${formatQuantity(largest, 'm', 2)} m ${largest > most ? 'large' : 'small'}: cloth of that size moves quite differently.`,
          remedy: !factor
            ? null
            : factor < 1
              ? `Make it ${1 / factor} times smaller`
              : `Make it ${factor} times larger`,
          numbers: { factor: factor ?? 1 },
        },
      ];
    }),
  mend: (finding, shot, assets) => {
    const thing = shot.things.find(({ id }) => id === finding.thing);
    if (!thing || !('shape' in thing)) return { apply: () => undefined };
    const by = finding.numbers!['factor']!;
    const asset = newId();
    const { shape, mesh } = resizeShape(thing.shape, [by, by, by], assets, asset);
    return {
      apply: (draft) => {
        const target = draft.things.find(({ id }) => id === finding.thing);
        if (target && 'shape' in target) giveSize(target, shape);
      },
      ...(mesh && { assets: new Map([[asset, mesh]]) }),
    };
  },
};
