import { setAirMasses, setAirScales } from '../air/airTriangles';
import { setBendStiffness } from './bendRecords';
import { setCurl } from './curl';
import type { FabricNumber } from '../../fabric/fabric';
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

/**
 * Lets the keyed numbers of a fabric, and masks that change, be as they are at a time in s; h is 0 before the first substep. `points` is the address
 * of the points of all cloths. Returns whether its surface has: how rough and thick it is.
 */
export function setFabric(memory: KernelMemory, cloth: ClothState, points: number, time: number, h: number): boolean {
  const { fabricAt, scalesAt, rest } = cloth.model;
  if (!fabricAt && !scalesAt) return false;
  const [before, scalesBefore] = [cloth.fabric, cloth.scales];
  const now = (cloth.fabric = fabricAt?.(time) ?? before);
  const scales = (cloth.scales = scalesAt?.(time) ?? scalesBefore);
  const differs = (name: FabricNumber) =>
    now[name] !== before[name] || !sameValues(scales?.[name], scalesBefore?.[name]);
  if (cloth.model.given) return differs('friction') || differs('thickness');
  cloth.flat = flatTriangles(rest, now, scales);
  setFlatTriangles(memory, cloth.membrane, cloth.flat);
  if (scalesAt) setAirScales(memory, cloth.airTriangles, scales);
  if (scalesAt && cloth.slowing !== 0) {
    memory.floats(cloth.slowing, cloth.points).set(pointScales(rest, scales, 'damping'));
  }
  const heavier = differs('weight');
  if (heavier) {
    setMasses(memory, cloth, points);
    setAirMasses(memory, cloth.airTriangles, cloth.flat, now, scales);
  }
  const surface = differs('friction') || differs('thickness');
  if (h === 0) return surface;
  setMembraneStiffness(memory, cloth.membrane, cloth.flat, now, h, scales);
  if (heavier || (['bendWarp', 'bendWeft', 'damping'] as const).some(differs)) setBend(memory, cloth, h);
  if ((['curlWarp', 'curlWeft', 'creaseMemory'] as const).some(differs)) setCurl(memory, cloth);
  return surface;
}

/** Lets points be as heavy as the cloth around them is now; what is held stays held. */
function setMasses(memory: KernelMemory, cloth: ClothState, points: number): void {
  const { flat, firstPoint, inverseMasses, freeMasses } = cloth;
  const values = memory.points(points, firstPoint, cloth.points);
  flat.pointMasses.forEach((mass, point) => {
    freeMasses[point] = mass > 0 ? 1 / mass : 0;
    if (inverseMasses[point] === 0) return;
    inverseMasses[point] = values[point * 4 + 3] = freeMasses[point]!;
  });
}
