import { makeOneMesh } from '../mesh/makeOneMesh';
import { keepPoints } from '../mesh/keepPoints';
import type { Mesh } from '../mesh/mesh';
import { ReadError } from './readError';

/** A mesh of a file that may hold several. */
export interface NamedMesh {
  name: string;
  mesh: Mesh;
}

/** Reads the faces of a Wavefront OBJ file as one mesh. @throws ReadError with the line at fault */
export function readObj(text: string): Mesh {
  const parts = readObjParts(text);
  return parts.length === 1 ? parts[0]!.mesh : makeOneMesh(parts.map(({ mesh }) => mesh));
}

/**
 * Reads the objects of a Wavefront OBJ file (lines “o”), each as a mesh; polygons are cut into fans, texture coordinates and
 * normals are left aside. Lengths are taken as they stand.
 * @throws ReadError with the line at fault
 */
export function readObjParts(text: string): NamedMesh[] {
  const positions: number[] = [];
  const objects: { name: string; triangles: number[] }[] = [{ name: '', triangles: [] }];
  let number = 0;
  for (let start = 0; start < text.length;) {
    let end = text.indexOf('\n', start);
    if (end < 0) end = text.length;
    number++;
    const line = text.slice(start, end);
    start = end + 1;
    const first = line.charCodeAt(0);
    // Only lines that begin with v, f or o, or that are indented, can matter.
    if (first !== 118 && first !== 102 && first !== 111 && first !== 32 && first !== 9) continue;
    const comment = line.indexOf('#');
    const parts = (comment < 0 ? line : line.slice(0, comment)).trim().split(/\s+/);
    const fail = (reason: string): never => {
      throw new ReadError(`Line ${number} of the OBJ file ${reason}: “${line.trim().slice(0, 60)}”.`);
    };
    if (parts[0] === 'v') {
      if (parts.length < 4) fail('has a point that is not three numbers');
      for (let axis = 1; axis <= 3; axis++) {
        const value = Number(parts[axis]);
        if (!Number.isFinite(value)) fail('has a point that is not three numbers');
        positions.push(value);
      }
    } else if (parts[0] === 'f') {
      if (parts.length < 4) fail('has a face with fewer than three corners');
      const corner = (part: string): number => {
        const slash = part.indexOf('/');
        const index = Number(slash < 0 ? part : part.slice(0, slash));
        const point = index < 0 ? positions.length / 3 + index : index - 1;
        if (!Number.isInteger(index) || index === 0 || point < 0) fail('names a point that cannot exist');
        return point;
      };
      const { triangles } = objects.at(-1)!;
      const a = corner(parts[1]!);
      let b = corner(parts[2]!);
      for (let i = 3; i < parts.length; i++) {
        const c = corner(parts[i]!);
        triangles.push(a, b, c);
        b = c;
      }
    } else if (parts[0] === 'o') {
      objects.push({ name: parts.slice(1).join(' '), triangles: [] });
    }
  }
  if (positions.length === 0) throw new ReadError('The OBJ file has no points (no line starts with “v”).');
  const filled = objects.filter(({ triangles }) => triangles.length > 0);
  if (filled.length === 0) throw new ReadError('The OBJ file has no faces (no line starts with “f”).');
  for (const { triangles } of filled) {
    const missing = triangles.find((point) => point * 3 >= positions.length);
    if (missing !== undefined) {
      throw new ReadError(`The OBJ file has a face at point ${missing + 1}, but only ${positions.length / 3} points.`);
    }
  }
  const whole: Mesh = { positions: new Float32Array(positions), triangles: new Uint32Array() };
  if (filled.length === 1) {
    return [{ name: filled[0]!.name, mesh: { ...whole, triangles: new Uint32Array(filled[0]!.triangles) } }];
  }
  return filled.map(({ name, triangles }) => ({ name, mesh: usedPoints(whole, triangles) }));
}

/** The mesh of some faces, with only the points that they use, in order of first use. */
function usedPoints(whole: Mesh, corners: readonly number[]): Mesh {
  const to = new Map<number, number>();
  const triangles = Uint32Array.from(corners, (point) => {
    const known = to.get(point);
    if (known !== undefined) return known;
    to.set(point, to.size);
    return to.size - 1;
  });
  return keepPoints(whole, [...to.keys()], triangles);
}
