import { strToU8 } from 'fflate';
import type { Mesh } from '../mesh/mesh';
import { writeObj } from './objWrite';

export interface SequenceCloth {
  id: string;
  name: string;
  mesh: Mesh;
}

/** One file of an OBJ sequence: CLOTH-ID/0001.obj and so on. */
export function sequenceFile(
  cloth: SequenceCloth,
  frame: number,
  positions: Float32Array,
): { path: string; bytes: Uint8Array } {
  const number = `${frame < 0 ? '-' : ''}${String(Math.abs(frame)).padStart(4, '0')}`;
  const text = writeObj([{ name: cloth.name, mesh: { ...cloth.mesh, positions } }]);
  return { path: `${cloth.id}/${number}.obj`, bytes: strToU8(text) };
}
