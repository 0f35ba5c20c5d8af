import type { Mesh } from '../mesh/mesh';

export interface ObjObject {
  name: string;
  mesh: Mesh;
}

/** Wavefront OBJ text: positions in metres to 0.1 µm, material coordinates as vt, one `o` a mesh. */
export function writeObj(objects: readonly ObjObject[]): string {
  const lines: string[] = ['# written by Lumbra, metres, y up'];
  let first = 1;
  let firstMaterial = 1;
  for (const { name, mesh } of objects) {
    lines.push(`o ${name.replace(/\s+/g, '_')}`);
    const { positions, triangles, material } = mesh;
    for (let i = 0; i < positions.length; i += 3) {
      lines.push(`v ${number(positions[i]!)} ${number(positions[i + 1]!)} ${number(positions[i + 2]!)}`);
    }
    if (material) {
      for (let i = 0; i < material.length; i += 2) lines.push(`vt ${number(material[i]!)} ${number(material[i + 1]!)}`);
    }
    const corner = (point: number) => (material ? `${first + point}/${firstMaterial + point}` : `${first + point}`);
    for (let t = 0; t < triangles.length; t += 3) {
      lines.push(`f ${corner(triangles[t]!)} ${corner(triangles[t + 1]!)} ${corner(triangles[t + 2]!)}`);
    }
    first += positions.length / 3;
    firstMaterial += (material?.length ?? 0) / 2;
  }
  return lines.join('\n') + '\n';
}

function number(value: number): string {
  return value.toFixed(7).replace(/\.?0+$/, '') || '0';
}
