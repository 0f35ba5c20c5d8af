import type { Fabric } from '../../fabric/fabric';
import { leastScale } from '../../fabric/faceScales';
import type { ClothModel, LooseNumbers } from '../model';

/**
 * The largest rest sizes, the least stretch and the most weight anywhere in a cloth, at any time. Long-range attachments must never be shorter than
 * the cloth between their ends can become.
 */
export function loosestAnywhere({ loosest, scales, scalesAt }: ClothModel, fabric: Fabric): LooseNumbers {
  const { restWarp, restWeft, stretchWarp, stretchWeft, weight } = loosest ?? fabric;
  // Where a mask takes a rest size away, it is 100 %.
  const rest = (name: 'restWarp' | 'restWeft', size: number) => (scales?.[name] ? Math.max(1, size) : size);
  // A mask that travels may come to be at nothing.
  const least = (name: 'stretchWarp' | 'stretchWeft') => leastScale(scalesAt ? { [name]: NOTHING } : scales, name);
  return {
    weight,
    restWarp: rest('restWarp', restWarp),
    restWeft: rest('restWeft', restWeft),
    stretchWarp: stretchWarp * (scales?.stretchWarp ? least('stretchWarp') : 1),
    stretchWeft: stretchWeft * (scales?.stretchWeft ? least('stretchWeft') : 1),
  };
}

const NOTHING = new Float32Array(1);
