import { formatQuantity } from '../../quantity/units';
import { bounds } from '../../mesh/bounds';
import { closeBorders } from '../../mesh/closeBorders';
import { dropEmpty } from '../../mesh/dropEmpty';
import type { Mesh, Motion } from '../../mesh/mesh';
import { orient } from '../../mesh/orient';
import { splitCrowded } from '../../mesh/splitCrowded';
import { weld } from '../../mesh/weld';
import type { MeshReport } from '../../mesh/inspectMesh';

export type UpAxis = 'y' | 'z';

/** Mends that can be made on the way in; each is offered for what `findings` names. */
export const REPAIRS = ['weld', 'drop empty', 'split edges', 'turn faces', 'close borders'] as const;
export type Repair = (typeof REPAIRS)[number];

export interface PrepareOptions {
  /** What one unit of the file is, in m. */
  unit: number;
  up: UpAxis;
  repairs: readonly Repair[];
}

export interface Finding {
  text: string;
  repair: Repair;
  /** What the mend does, as an offer. */
  offer: string;
  /** Whether it is made unless the artist says no. */
  advised: boolean;
}

/** What is wrong with a mesh, in sentences, and what Lumbra offers to do about each. */
export function findings(report: MeshReport): Finding[] {
  const count = (n: number, one: string, more = `${one}s`) => `${formatQuantity(n, '', 9)} ${n === 1 ? one : more}`;
  const found: Finding[] = [];
  if (report.duplicatePoints > 0)
    found.push({
      text: `${count(report.duplicatePoints, 'point')} ${report.duplicatePoints === 1 ? 'lies' : 'lie'} where another one is.`,
      repair: 'weld',
      offer: 'Join them',
      advised: true,
    });
  if (report.emptyFaces > 0)
    found.push({
      text: `${count(report.emptyFaces, 'face')} without area.`,
      repair: 'drop empty',
      offer: 'Leave them out',
      advised: true,
    });
  if (report.nonManifoldEdges > 0)
    found.push({
      text: `${count(report.nonManifoldEdges, 'edge')} with more than two faces.`,
      repair: 'split edges',
      offer: 'Part the faces there',
      advised: true,
    });
  if (report.flippedEdges > 0 || report.insideOut)
    found.push({
      text: report.insideOut
        ? 'Its faces look inwards.'
        : `Faces disagree about their side at ${count(report.flippedEdges, 'edge')}.`,
      repair: 'turn faces',
      offer: 'Turn them outwards',
      advised: true,
    });
  if (report.borders > 0)
    found.push({
      text: `${count(report.borders, 'open border')}: as a collider it keeps cloth off on both sides.`,
      repair: 'close borders',
      offer: 'Close them',
      advised: false,
    });
  return found;
}

/**
 * A mesh as it comes onto the stage: in m, with y up, mended as wished, around the middle of its foot. `center` is where that was in
 * the file, in m.
 */
export function prepareMesh(
  mesh: Mesh,
  { unit, up, repairs }: PrepareOptions,
): { mesh: Mesh; center: [number, number, number] } {
  let made = toStage(mesh, unit, up);
  if (repairs.includes('weld')) made = weld(made, { tolerance: 1e-6 }).mesh;
  if (repairs.includes('drop empty')) made = dropEmpty(made).mesh;
  if (repairs.includes('split edges')) made = splitCrowded(made).mesh;
  if (repairs.includes('turn faces')) made = orient(made).mesh;
  if (repairs.includes('close borders')) made = closeBorders(made).mesh;
  const box = bounds(made.positions);
  if (!box) return { mesh: made, center: [0, 0, 0] };
  const center: [number, number, number] = [(box.low[0] + box.high[0]) / 2, box.low[1], (box.low[2] + box.high[2]) / 2];
  return { mesh: shifted(made, center), center };
}

/** Into m and with y up, with its animation. */
function toStage(mesh: Mesh, unit: number, up: UpAxis): Mesh {
  const positions = new Float32Array(mesh.positions.length);
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = [mesh.positions[i]! * unit, mesh.positions[i + 1]! * unit, mesh.positions[i + 2]! * unit];
    positions[i] = x;
    positions[i + 1] = up === 'y' ? y : z;
    positions[i + 2] = up === 'y' ? z : -y;
  }
  const rows = (matrix: Float32Array) => {
    const made = new Float32Array(matrix.length);
    for (let m = 0; m < matrix.length; m += 12) {
      for (let k = 0; k < 4; k++) {
        const [x, y, z] = [matrix[m + k]! * unit, matrix[m + 4 + k]! * unit, matrix[m + 8 + k]! * unit];
        made[m + k] = x;
        made[m + 4 + k] = up === 'y' ? y : z;
        made[m + 8 + k] = up === 'y' ? z : -y;
      }
    }
    return made;
  };
  return { ...mesh, positions, ...(mesh.motion && { motion: withMatrices(mesh.motion, rows) }) };
}

function shifted(mesh: Mesh, [x, y, z]: [number, number, number]): Mesh {
  const by = [x, y, z];
  const rows = (matrix: Float32Array) =>
    matrix.map((value, i) => (i % 4 === 3 ? value - by[Math.floor((i % 12) / 4)]! : value));
  return {
    ...mesh,
    positions: mesh.positions.map((value, i) => value - by[i % 3]!),
    ...(mesh.motion && { motion: withMatrices(mesh.motion, rows) }),
  };
}

function withMatrices(motion: Motion, change: (matrices: Float32Array) => Float32Array): Motion {
  return { ...motion, clips: motion.clips.map((clip) => ({ ...clip, matrices: change(clip.matrices) })) };
}

/** The unit that makes a mesh most likely as large as such things are, when its file does not say: m, then cm, then mm. */
export function likelyUnit(largest: number): { name: 'm' | 'cm' | 'mm'; metres: number } {
  if (largest <= 20) return { name: 'm', metres: 1 };
  return largest <= 2000 ? { name: 'cm', metres: 0.01 } : { name: 'mm', metres: 0.001 };
}
