import type { Mesh } from '../mesh/mesh';
import { ReadError } from './readError';

/**
 * Reads the faces of a Wavefront OBJ file as one mesh; polygons are cut into fans, texture coordinates and
 * normals are left aside. Lengths are taken as they stand.
 * @throws ReadError with the line at fault
 */
export function readObj(text: string): Mesh {
  const positions: number[] = [];
  const triangles: number[] = [];
  text.split(/\r?\n/).forEach((line, at) => {
    const parts = line.replace(/#.*/, '').trim().split(/\s+/);
    const fail = (reason: string): never => {
      throw new ReadError(`Line ${at + 1} of the OBJ file ${reason}: “${line.trim().slice(0, 60)}”.`);
    };
    if (parts[0] === 'v') {
      const values = parts.slice(1, 4).map(Number);
      if (values.length < 3 || values.some((value) => !Number.isFinite(value)))
        fail('has a point that is not three numbers');
      positions.push(...values);
    } else if (parts[0] === 'f') {
      if (parts.length < 4) fail('has a face with fewer than three corners');
      const corners = parts.slice(1).map((part) => {
        const index = Number(part.split('/')[0]);
        const point = index < 0 ? positions.length / 3 + index : index - 1;
        if (!Number.isInteger(index) || index === 0 || point < 0) fail('names a point that cannot exist');
        return point;
      });
      for (let i = 2; i < corners.length; i++) triangles.push(corners[0]!, corners[i - 1]!, corners[i]!);
    }
  });
  if (positions.length === 0) throw new ReadError('The OBJ file has no points (no line starts with “v”).');
  if (triangles.length === 0) throw new ReadError('The OBJ file has no faces (no line starts with “f”).');
  const missing = triangles.find((point) => point * 3 >= positions.length);
  if (missing !== undefined) {
    throw new ReadError(`The OBJ file has a face at point ${missing + 1}, but only ${positions.length / 3} points.`);
  }
  return { positions: new Float32Array(positions), triangles: new Uint32Array(triangles) };
}
