import * as Point from '@lumbra/kernel/layouts/point';
import * as WantedBend from '@lumbra/kernel/layouts/constraints/wantedBend';
import type { Fabric } from '../../fabric/fabric';
import type { FaceScales } from '../../fabric/faceScales';
import type { KernelMemory } from '../kernelMemory';
import type { BendRecords } from './bendRecords';

/** How the hinges of a cloth that are flat as cut want to be bent, in the kernel's memory: see layouts/constraints/wantedBend.ts there. */
export interface CurlRecords {
  wanted: number;
  /** Where normals would be of the point that all cloths' points begin with. */
  normals: number;
  /** Whether any hinge wants to be bent, or may come to. */
  any: boolean;
  /** The fabric and masks that it was set for; the length of substeps does not matter to it. */
  setFor: { fabric: Fabric; scales: FaceScales | undefined } | null;
}

/** Makes room for what hinges want. */
export function buildCurl(
  memory: KernelMemory,
  { flat }: BendRecords,
  firstPoint: number,
  points: number,
): CurlRecords {
  const wanted = memory.allocate(flat.count * WantedBend.BYTES);
  const normals = memory.allocate(points * Point.BYTES) - firstPoint * Point.BYTES;
  return { wanted, normals, any: false, setFor: null };
}
