import { setAirScales } from '../air/airTriangles';
import { setBendStiffness } from './bendRecords';
import { setCurl } from './curl';
import { sameValues } from '../../fabric/faceScales';
import type { ClothState } from '../clothState';
import { flatTriangles } from './flatTriangles';
import type { KernelMemory } from '../kernelMemory';
import { pointScales } from './pointScales';
import { setFlatTriangles, setMembraneStiffness } from './membraneRecords';

// The stiffness of cloth, which depends on the length of substeps, on keyed numbers and on masks.

/** Substeps between evaluations of the air and between dampings; both act over that whole interval. */
export const INTERVAL = 4;

/** Sets how it bends; dear, so only where that has changed. */
export function setBend(memory: KernelMemory, cloth: ClothState, h: number): void {
  const { model, fabric, scales, bend, topology: t, inverseMasses } = cloth;
  setBendStiffness(memory, bend, model.rest, t, fabric, inverseMasses, h, h * INTERVAL, scales);
}

/** Lets the keyed numbers of a fabric, and masks that change, be as they are at a time in s; h is 0 before the first substep. */
export function setFabric(memory: KernelMemory, cloth: ClothState, time: number, h: number): void {
  const { fabricAt, scalesAt } = cloth.model;
  if (!fabricAt && !scalesAt) return;
  const [before, scalesBefore] = [cloth.fabric, cloth.scales];
  const now = (cloth.fabric = fabricAt?.(time) ?? before);
  const scales = (cloth.scales = scalesAt?.(time) ?? scalesBefore);
  cloth.flat = flatTriangles(cloth.model.rest, now, scales);
  setFlatTriangles(memory, cloth.membrane, cloth.flat);
  if (scalesAt) setAirScales(memory, cloth.airTriangles, scales);
  if (scalesAt && cloth.slowing !== 0) {
    memory.floats(cloth.slowing, cloth.points).set(pointScales(cloth.model.rest, scales, 'damping'));
  }
  if (h === 0) return;
  setMembraneStiffness(memory, cloth.membrane, cloth.flat, now, h, scales);
  const bends = ['bendWarp', 'bendWeft', 'damping'] as const;
  const curls = ['curlWarp', 'curlWeft', 'creaseMemory'] as const;
  const differs = (name: (typeof bends | typeof curls)[number]) =>
    now[name] !== before[name] || !sameValues(scales?.[name], scalesBefore?.[name]);
  if (bends.some(differs)) setBend(memory, cloth, h);
  if (curls.some(differs)) setCurl(memory, cloth);
}
